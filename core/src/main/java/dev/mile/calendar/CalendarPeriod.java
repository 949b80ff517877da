package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

/**
 * One period at one level of one calendar: {@code FY2026 Q1, 2026-04-01..2026-06-30}.
 *
 * @param level the level
 * @param ordinal its place among all periods of the level in the calendar; neighbours differ by 1
 * @param number its number within the year, from 1; for a year its number, 2026
 * @param label how people read it
 * @param range its days
 */
public record CalendarPeriod(Level level, int ordinal, int number, String label, DateRange range) {
    public CalendarPeriod {
        requireNonNull(level, "level is null");
        requireNonNull(label, "label is null");
        requireNonNull(range, "range is null");
    }

    @Override
    public String toString() {
        return label + ", " + range;
    }
}
