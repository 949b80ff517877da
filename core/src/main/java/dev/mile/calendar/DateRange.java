package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

import java.io.Serializable;
import java.time.LocalDate;

/**
 * A first and a last day, both included, or no day at all: {@code 2026-04-01..2026-04-30}.
 *
 * <p>It has no calendar and no name. Immutable and safe for use by several threads.
 */
public final class DateRange implements Serializable {
    private static final long serialVersionUID = 1L;

    /** The range without a day. */
    public static final DateRange EMPTY = new DateRange(0, -1);

    private final int firstEpochDay;
    private final int lastEpochDay;

    private DateRange(int firstDay, int lastDay) {
        this.firstEpochDay = firstDay;
        this.lastEpochDay = lastDay;
    }

    /** Returns the days from the first to the last, both included; {@link #EMPTY} where the last lies before the first. */
    public static DateRange of(LocalDate first, LocalDate last) {
        requireNonNull(first, "first is null");
        requireNonNull(last, "last is null");
        return ofEpochDays(Math.toIntExact(first.toEpochDay()), Math.toIntExact(last.toEpochDay()));
    }

    /** Returns the same as {@link #of}, from epoch days. */
    public static DateRange ofEpochDays(int firstDay, int lastDay) {
        return lastDay < firstDay ? EMPTY : new DateRange(firstDay, lastDay);
    }

    /** Returns whether it has no day. */
    public boolean isEmpty() {
        return lastEpochDay < firstEpochDay;
    }

    /** Returns the first day as an epoch day; 0 for the empty range. */
    public int firstEpochDay() {
        return firstEpochDay;
    }

    /** Returns the last day as an epoch day; -1 for the empty range. */
    public int lastEpochDay() {
        return lastEpochDay;
    }

    /**
     * Returns the first day.
     *
     * @throws IllegalStateException for the empty range
     */
    public LocalDate first() {
        checkNotEmpty();
        return LocalDate.ofEpochDay(firstEpochDay);
    }

    /**
     * Returns the last day.
     *
     * @throws IllegalStateException for the empty range
     */
    public LocalDate last() {
        checkNotEmpty();
        return LocalDate.ofEpochDay(lastEpochDay);
    }

    private void checkNotEmpty() {
        if (isEmpty()) {
            throw new IllegalStateException("an empty date range has no first and no last day; ask isEmpty() first");
        }
    }

    /** Returns the number of days, 0 for the empty range. */
    public int length() {
        return lastEpochDay - firstEpochDay + 1;
    }

    /** Returns whether the epoch day is in it. */
    public boolean contains(int epochDay) {
        return epochDay >= firstEpochDay && epochDay <= lastEpochDay;
    }

    /** Returns whether the day is in it. */
    public boolean contains(LocalDate day) {
        return contains(Math.toIntExact(day.toEpochDay()));
    }

    /** Returns whether every day of the other range is in this one; true for the empty range. */
    public boolean encloses(DateRange other) {
        requireNonNull(other, "other is null");
        return other.isEmpty() || (firstEpochDay <= other.firstEpochDay && other.lastEpochDay <= lastEpochDay);
    }

    /** Returns the days that both have. */
    public DateRange intersect(DateRange other) {
        requireNonNull(other, "other is null");
        return isEmpty() || other.isEmpty()
                ? EMPTY
                : ofEpochDays(Math.max(firstEpochDay, other.firstEpochDay), Math.min(lastEpochDay, other.lastEpochDay));
    }

    /** Returns the shortest range that holds both. */
    public DateRange hull(DateRange other) {
        requireNonNull(other, "other is null");
        if (isEmpty()) {
            return other;
        }
        return other.isEmpty()
                ? this
                : ofEpochDays(Math.min(firstEpochDay, other.firstEpochDay), Math.max(lastEpochDay, other.lastEpochDay));
    }

    /** Returns the days up to the given one. */
    public DateRange notAfter(LocalDate day) {
        return notAfter(Math.toIntExact(day.toEpochDay()));
    }

    /** Returns the days after the given one. */
    public DateRange after(LocalDate day) {
        return after(Math.toIntExact(day.toEpochDay()));
    }

    /** Returns the days up to the given one. */
    public DateRange notAfter(int epochDay) {
        return isEmpty() ? this : ofEpochDays(firstEpochDay, Math.min(lastEpochDay, epochDay));
    }

    /** Returns the days after the given one. */
    public DateRange after(int epochDay) {
        return isEmpty() ? this : ofEpochDays(Math.max(firstEpochDay, epochDay + 1), lastEpochDay);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof DateRange r && r.firstEpochDay == firstEpochDay && r.lastEpochDay == lastEpochDay;
    }

    @Override
    public int hashCode() {
        return 31 * firstEpochDay + lastEpochDay;
    }

    /** Returns {@code 2026-04-01..2026-04-30}, or {@code no days}. */
    @Override
    public String toString() {
        return isEmpty() ? "no days" : first() + ".." + last();
    }
}
