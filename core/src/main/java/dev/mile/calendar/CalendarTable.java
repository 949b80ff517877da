package dev.mile.calendar;

import java.util.EnumMap;
import java.util.Map;

/**
 * What a calendar rule comes down to: the timeline of each level that it has, and the number of each year.
 *
 * @param startsByLevel the levels that the calendar has, without DAY
 * @param yearNumbers the number of each year of the YEAR line
 * @param hasNestedWeeks whether weeks are parts of years and periods, so that a shift may keep whole weeks whole
 */
record CalendarTable(Map<Level, PeriodStarts> startsByLevel, int[] yearNumbers, boolean hasNestedWeeks) {

    static CalendarTable of(Map<Level, int[]> starts, int[] yearNumbers, boolean hasNestedWeeks) {
        Map<Level, PeriodStarts> lines = new EnumMap<>(Level.class);
        starts.forEach((level, days) -> lines.put(level, new PeriodStarts(days)));
        return new CalendarTable(lines, yearNumbers, hasNestedWeeks);
    }
}
