package dev.mile.engine;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.ValueType;
import java.util.function.IntToLongFunction;

/** What engines may ask about days: they know no calendars. */
public interface DayContext {
    /** {@return the days on which rows are placed: the date dimension} */
    DateRange dimensionRange();

    /**
     * {@return the value of the date attribute on the day, null for a blank: a text, a number or a date}
     *
     * @param column a column of the date dimension
     * @param day the epoch day
     */
    Object attribute(String column, int day);

    /**
     * {@return a function from an epoch day to the running count of working days up to and including it, in millionths, in the
     * model's first working week}
     */
    IntToLongFunction cumulativeWorkingMillionths();

    /**
     * {@return the same in the named working week}
     *
     * @param week the name of a working week
     */
    IntToLongFunction cumulativeWorkingMillionths(String week);

    /**
     * {@return the same in the working week that the expression names, or else in the first}
     *
     * @param elapsed the count of working days
     */
    default IntToLongFunction cumulativeWorkingMillionths(RowExpression.Elapsed elapsed) {
        return elapsed.week().map(this::cumulativeWorkingMillionths).orElseGet(this::cumulativeWorkingMillionths);
    }

    /**
     * {@return the type of the date attribute}
     *
     * @param column a column of the date dimension
     */
    ValueType attributeType(String column);

    /** {@return the first calendar of the model: in it, months and years between dates of a row are counted} */
    FiscalCalendar calendar();

    /**
     * {@return the calendar of the name}
     *
     * @param name the name
     */
    FiscalCalendar calendar(String name);

    /** {@return the last day for which actuals count} */
    int asOf();

    /**
     * {@return the last day on which rows of the fact count: the as-of date, for plans the last day of the date dimension}
     *
     * @param fact the fact
     */
    default int lastDayThatCounts(Fact fact) {
        return fact.plan() ? dimensionRange().lastEpochDay() : asOf();
    }

    /** {@return the days between which dates of a row are counted; a date outside them counts as none} */
    DateRange elapsedRange();
}
