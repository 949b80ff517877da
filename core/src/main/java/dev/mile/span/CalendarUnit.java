package dev.mile.span;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.internal.LanguageNames;
import java.util.Optional;

/**
 * The unit that a step counts in: a level, in the report's calendar or in a named one.
 *
 * @param level the level
 * @param calendar the calendar it names, if it does
 */
public record CalendarUnit(Level level, Optional<String> calendar) {
    public CalendarUnit {
        requireNonNull(level, "level is null");
        requireNonNull(calendar, "calendar is null");
    }

    /**
     * {@return the level in the report's calendar}
     *
     * @param level the level
     */
    public static CalendarUnit of(Level level) {
        return new CalendarUnit(level, Optional.empty());
    }

    /**
     * {@return the unit in the named calendar}
     *
     * @param name the name
     */
    public CalendarUnit withCalendar(String name) {
        requireNonNull(name, "name is null");
        return new CalendarUnit(level, Optional.of(name));
    }

    /** Returns the calendar to count in, which has the unit. */
    FiscalCalendar in(SpanContext context) {
        return calendar.map(name -> context.calendarWith(level, name)).orElseGet(() -> context.calendarWith(level));
    }

    /** Returns the calendar to move days in: any will do for days and weeks, which move by 1 and 7 days. */
    FiscalCalendar toMoveIn(SpanContext context) {
        if (level == Level.WEEK || level == Level.DAY) {
            return calendar.map(context::calendar).orElseGet(context::calendar);
        }
        return in(context);
    }

    /** Returns whether the window has days to count from; a calendar that is unknown or lacks the unit is refused in any case. */
    boolean countsIn(DateRange window, SpanContext context) {
        in(context);
        return !window.isEmpty();
    }

    /** Returns the days of the unit that follows the day's unit after a number of units; no days if there is none. */
    DateRange rangeAway(SpanContext context, int epochDay, int units) {
        FiscalCalendar in = in(context);
        int ordinal = in.ordinal(level, epochDay);
        return ordinal == FiscalCalendar.NONE ? DateRange.EMPTY : in.range(level, ordinal + units);
    }

    /** Returns the count and the unit in words: {@code 1 year}, {@code 3 months}. */
    String times(int count) {
        return count + " " + (count == 1 ? level.word() : level.plural());
    }

    /** Returns the words of a step, followed by the calendar if one is named. */
    String in(String words) {
        return calendar.map(name -> words + " in " + LanguageNames.of(name)).orElse(words);
    }
}
