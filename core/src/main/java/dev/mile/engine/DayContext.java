package dev.mile.engine;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.ValueType;
import java.util.function.IntToLongFunction;

/** What engines may ask about days: they know no calendars. */
public interface DayContext {
    /** Returns the days on which rows are placed: the date dimension. */
    DateRange dimensionRange();

    /** Returns the value of the date attribute on the day, null for a blank: a text, a number or a date. */
    Object attribute(String column, int day);

    /**
     * Returns a function from an epoch day to the running count of working days up to and including it, in millionths, in the
     * model's first working week.
     */
    IntToLongFunction cumulativeWorkingMillionths();

    /** Returns the same in the named working week. */
    IntToLongFunction cumulativeWorkingMillionths(String week);

    /** Returns the same in the working week that the expression names, or else in the first. */
    default IntToLongFunction cumulativeWorkingMillionths(RowExpression.Elapsed elapsed) {
        return elapsed.week().map(this::cumulativeWorkingMillionths).orElseGet(this::cumulativeWorkingMillionths);
    }

    /** Returns the type of the date attribute. */
    ValueType attributeType(String column);

    /** Returns the first calendar of the model: in it, months and years between dates of a row are counted. */
    FiscalCalendar calendar();

    /** Returns the calendar of the name. */
    FiscalCalendar calendar(String name);

    /** Returns the last day for which actuals count. */
    int asOf();

    /** Returns the last day on which rows of the fact count: the as-of date, for plans the last day of the date dimension. */
    default int lastDayThatCounts(Fact fact) {
        return fact.plan() ? dimensionRange().lastEpochDay() : asOf();
    }

    /** Returns the days between which dates of a row are counted; a date outside them counts as none. */
    DateRange elapsedRange();
}
