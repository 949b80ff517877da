package dev.mile.calendar;

import java.time.DayOfWeek;
import java.time.Month;
import java.time.MonthDay;

/** A week-based calendar that still has to be told how its years end; made by {@link FiscalCalendar#weeks}. */
public final class WeekCalendarStage {
    private final WeekPattern pattern;

    WeekCalendarStage(WeekPattern pattern) {
        this.pattern = pattern;
    }

    /** Returns the calendar whose years end on the weekday nearest to the month and day (at most three days away). */
    public FiscalCalendar endingNearest(DayOfWeek weekday, MonthDay day) {
        return FiscalCalendar.of(new WeekRule(pattern, weekday, day, day.getMonth(), false, 0));
    }

    /** Returns the calendar whose years end on the last such weekday of the month. */
    public FiscalCalendar endingOnLast(DayOfWeek weekday, Month month) {
        return FiscalCalendar.of(new WeekRule(pattern, weekday, null, month, false, 0));
    }
}
