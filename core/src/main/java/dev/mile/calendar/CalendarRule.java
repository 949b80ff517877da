package dev.mile.calendar;

import java.io.Serializable;
import java.time.DayOfWeek;

/** How a company describes its year; computed once into a {@link CalendarTable}. */
interface CalendarRule extends Serializable {
    /** Returns the table over the {@link SupportedDates}. */
    CalendarTable table();

    /** Returns the rule with its years named for the civil year of their start (or end). */
    CalendarRule named(boolean forStart);

    /** Returns the rule with weeks that start on the weekday; the same rule where its weeks are fixed by the rule itself. */
    default CalendarRule withWeekStart(DayOfWeek weekday) {
        return this;
    }

    /** Returns the rule in the words of the model file. */
    String describe();
}
