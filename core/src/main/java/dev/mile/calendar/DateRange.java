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

    /**
     * {@return the days from the first to the last, both included; {@link #EMPTY} where the last lies before the first}
     *
     * @param first the first day
     * @param last the last day
     */
    public static DateRange of(LocalDate first, LocalDate last) {
        requireNonNull(first, "first is null");
        requireNonNull(last, "last is null");
        return ofEpochDays(Math.toIntExact(first.toEpochDay()), Math.toIntExact(last.toEpochDay()));
    }

    /**
     * {@return the same as {@link #of}, from epoch days}
     *
     * @param firstDay the first, as days since 1970-01-01
     * @param lastDay the last, as days since 1970-01-01
     */
    public static DateRange ofEpochDays(int firstDay, int lastDay) {
        return lastDay < firstDay ? EMPTY : new DateRange(firstDay, lastDay);
    }

    /** {@return whether it has no day} */
    public boolean isEmpty() {
        return lastEpochDay < firstEpochDay;
    }

    /** {@return the first day as an epoch day; 0 for the empty range} */
    public int firstEpochDay() {
        return firstEpochDay;
    }

    /** {@return the last day as an epoch day; -1 for the empty range} */
    public int lastEpochDay() {
        return lastEpochDay;
    }

    /**
     * {@return the first day}
     *
     * @throws IllegalStateException for the empty range
     */
    public LocalDate first() {
        checkNotEmpty();
        return LocalDate.ofEpochDay(firstEpochDay);
    }

    /**
     * {@return the last day}
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

    /** {@return the number of days, 0 for the empty range} */
    public int length() {
        return lastEpochDay - firstEpochDay + 1;
    }

    /**
     * {@return whether the epoch day is in it}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public boolean contains(int epochDay) {
        return epochDay >= firstEpochDay && epochDay <= lastEpochDay;
    }

    /**
     * {@return whether the day is in it}
     *
     * @param day the day
     */
    public boolean contains(LocalDate day) {
        return contains(Math.toIntExact(day.toEpochDay()));
    }

    /**
     * {@return whether every day of the other range is in this one; true for the empty range}
     *
     * @param other the other
     */
    public boolean encloses(DateRange other) {
        requireNonNull(other, "other is null");
        return other.isEmpty() || (firstEpochDay <= other.firstEpochDay && other.lastEpochDay <= lastEpochDay);
    }

    /**
     * {@return the days that both have}
     *
     * @param other the other
     */
    public DateRange intersect(DateRange other) {
        requireNonNull(other, "other is null");
        return isEmpty() || other.isEmpty()
                ? EMPTY
                : ofEpochDays(Math.max(firstEpochDay, other.firstEpochDay), Math.min(lastEpochDay, other.lastEpochDay));
    }

    /**
     * {@return the shortest range that holds both}
     *
     * @param other the other
     */
    public DateRange hull(DateRange other) {
        requireNonNull(other, "other is null");
        if (isEmpty()) {
            return other;
        }
        return other.isEmpty()
                ? this
                : ofEpochDays(Math.min(firstEpochDay, other.firstEpochDay), Math.max(lastEpochDay, other.lastEpochDay));
    }

    /**
     * {@return the days up to the given one}
     *
     * @param day the day
     */
    public DateRange notAfter(LocalDate day) {
        return notAfter(Math.toIntExact(day.toEpochDay()));
    }

    /**
     * {@return the days after the given one}
     *
     * @param day the day
     */
    public DateRange after(LocalDate day) {
        return after(Math.toIntExact(day.toEpochDay()));
    }

    /**
     * {@return the days up to the given one}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public DateRange notAfter(int epochDay) {
        return isEmpty() ? this : ofEpochDays(firstEpochDay, Math.min(lastEpochDay, epochDay));
    }

    /**
     * {@return the days after the given one}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
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
