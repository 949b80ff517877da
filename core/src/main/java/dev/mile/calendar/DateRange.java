package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

import java.time.LocalDate;

/**
 * A first and a last day, both included, or no day at all: {@code 2026-04-01..2026-04-30}.
 *
 * <p>It has no calendar and no name. Immutable and safe for use by several threads.
 */
public final class DateRange {
    /** The range without a day. */
    public static final DateRange EMPTY = new DateRange(0, -1);

    private final int firstDay;
    private final int lastDay;

    private DateRange(int firstDay, int lastDay) {
        this.firstDay = firstDay;
        this.lastDay = lastDay;
    }

    /** Returns the days from the first to the last, both included; {@link #EMPTY} where the last lies before the first. */
    public static DateRange of(LocalDate first, LocalDate last) {
        requireNonNull(first, "first is null");
        requireNonNull(last, "last is null");
        return ofDays(Math.toIntExact(first.toEpochDay()), Math.toIntExact(last.toEpochDay()));
    }

    /** Returns the same as {@link #of}, from epoch days. */
    public static DateRange ofDays(int firstDay, int lastDay) {
        return lastDay < firstDay ? EMPTY : new DateRange(firstDay, lastDay);
    }

    /** Tells whether it has no day. */
    public boolean isEmpty() {
        return lastDay < firstDay;
    }

    /** Returns the first day as an epoch day; 0 for the empty range. */
    public int firstDay() {
        return firstDay;
    }

    /** Returns the last day as an epoch day; -1 for the empty range. */
    public int lastDay() {
        return lastDay;
    }

    /**
     * Returns the first day.
     *
     * @throws IllegalStateException for the empty range
     */
    public LocalDate first() {
        checkNotEmpty();
        return LocalDate.ofEpochDay(firstDay);
    }

    /**
     * Returns the last day.
     *
     * @throws IllegalStateException for the empty range
     */
    public LocalDate last() {
        checkNotEmpty();
        return LocalDate.ofEpochDay(lastDay);
    }

    private void checkNotEmpty() {
        if (isEmpty()) {
            throw new IllegalStateException("an empty date range has no first and no last day; ask isEmpty() first");
        }
    }

    /** Returns the number of days, 0 for the empty range. */
    public int days() {
        return lastDay - firstDay + 1;
    }

    /** Tells whether the epoch day is in it. */
    public boolean contains(int day) {
        return day >= firstDay && day <= lastDay;
    }

    /** Tells whether the day is in it. */
    public boolean contains(LocalDate day) {
        return contains(Math.toIntExact(day.toEpochDay()));
    }

    /** Tells whether every day of the other range is in this one; true for the empty range. */
    public boolean encloses(DateRange other) {
        return other.isEmpty() || (firstDay <= other.firstDay && other.lastDay <= lastDay);
    }

    /** Returns the days that both have. */
    public DateRange intersect(DateRange other) {
        return isEmpty() || other.isEmpty()
                ? EMPTY
                : ofDays(Math.max(firstDay, other.firstDay), Math.min(lastDay, other.lastDay));
    }

    /** Returns the shortest range that holds both. */
    public DateRange union(DateRange other) {
        if (isEmpty()) {
            return other;
        }
        return other.isEmpty() ? this : ofDays(Math.min(firstDay, other.firstDay), Math.max(lastDay, other.lastDay));
    }

    /** Returns the days up to the given one. */
    public DateRange upTo(int day) {
        return isEmpty() ? this : ofDays(firstDay, Math.min(lastDay, day));
    }

    /** Returns the days after the given one. */
    public DateRange after(int day) {
        return isEmpty() ? this : ofDays(Math.max(firstDay, day + 1), lastDay);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof DateRange r && r.firstDay == firstDay && r.lastDay == lastDay;
    }

    @Override
    public int hashCode() {
        return 31 * firstDay + lastDay;
    }

    /** Returns {@code 2026-04-01..2026-04-30}, or {@code no days}. */
    @Override
    public String toString() {
        return isEmpty() ? "no days" : first() + ".." + last();
    }
}
