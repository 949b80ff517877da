package dev.mile.span;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import java.util.Optional;

/**
 * One step of a span: {@code year to date}, {@code last 3 months in retail}, {@code 1 year back}.
 *
 * @param kind what it does
 * @param count how many units, at least 1; negative for {@code back}; 1 where the kind takes none
 * @param unit the unit; DAY where the kind takes none
 * @param calendar the calendar it names, if it does
 */
public record Step(Kind kind, int count, Level unit, Optional<String> calendar) {
    private static final int MAX_COUNT = 100_000;

    /** The kinds of steps. The window at hand is [a, b]. */
    public enum Kind {
        /** From the first day of the unit that holds b, to b. */
        TO_DATE,
        /** From the first day of the date dimension to b. */
        ALL_TO_DATE,
        /** From the first day of the date dimension to the day before a. */
        BEFORE,
        /** N calendar units that end with the current one, to b. */
        LAST,
        /** The length of N units that ends on b. */
        TRAILING,
        /** The N whole units before the one that holds a. */
        PREVIOUS,
        /** The N whole units after the one that holds b. */
        NEXT,
        /** From the first day of the unit of a to the last day of the unit of b. */
        WHOLE,
        /** Moved by N units. */
        MOVE,
        /** The first day. */
        FIRST_DAY,
        /** The last day. */
        LAST_DAY,
        /** The part up to the as-of date. */
        SO_FAR,
        /** The part after the as-of date. */
        TO_COME,
        /** The as-of day, whatever the window. */
        TODAY,
        /** The day before the as-of day, whatever the window. */
        YESTERDAY,
        /** The unit that holds the as-of day, whatever the window. */
        THIS
    }

    public Step {
        requireNonNull(kind, "kind is null");
        requireNonNull(unit, "unit is null");
        requireNonNull(calendar, "calendar is null");
        if (count == 0 || Math.abs((long) count) > MAX_COUNT || (count < 0 && kind != Kind.MOVE)) {
            throw ModelException.of(
                    "a step of %d %s is not possible; give a count from 1 to %d", count, unit.plural(), MAX_COUNT);
        }
    }

    static Step of(Kind kind) {
        return new Step(kind, 1, Level.DAY, Optional.empty());
    }

    /** Returns the step in units of a calendar; itself where it takes none. */
    public Step withCalendar(String name) {
        return takesUnit() ? new Step(kind, count, unit, Optional.of(name)) : this;
    }

    /** Tells whether the step counts in units of a calendar. */
    public boolean takesUnit() {
        return switch (kind) {
            case TO_DATE, LAST, TRAILING, PREVIOUS, NEXT, WHOLE, MOVE, THIS -> true;
            default -> false;
        };
    }

    /**
     * Returns the days that the step makes of the window; a window without days gives none, unless the step replaces it.
     *
     * @throws MileException if the calendar is unknown or lacks the unit
     */
    public DateRange apply(DateRange window, SpanContext frame) {
        if (kind == Kind.TODAY || kind == Kind.YESTERDAY) {
            int day = frame.asOf() - (kind == Kind.TODAY ? 0 : 1);
            return DateRange.ofEpochDays(day, day);
        }
        // days and weeks move by 1 and 7 days, so any calendar will do
        boolean plainDays = (kind == Kind.MOVE || kind == Kind.TRAILING) && (unit == Level.WEEK || unit == Level.DAY);
        FiscalCalendar in = !takesUnit() ? null : calendar(frame, plainDays);
        if (kind == Kind.THIS) {
            return in.rangeContaining(unit, frame.asOf());
        }
        if (window.isEmpty()) {
            return window;
        }
        int a = window.firstEpochDay();
        int b = window.lastEpochDay();
        return switch (kind) {
            case TO_DATE -> from(in.rangeContaining(unit, b), b);
            case ALL_TO_DATE -> DateRange.ofEpochDays(frame.dimension().firstEpochDay(), b);
            case BEFORE -> DateRange.ofEpochDays(frame.dimension().firstEpochDay(), a - 1);
            case LAST -> from(unitAway(in, b, 1 - count), b);
            case TRAILING -> {
                var before = in.shiftEnd(b, -count, unit);
                yield before.isEmpty() ? DateRange.EMPTY : DateRange.ofEpochDays(before.getAsInt() + 1, b);
            }
            case PREVIOUS -> between(unitAway(in, a, -count), unitAway(in, a, -1));
            case NEXT -> between(unitAway(in, b, 1), unitAway(in, b, count));
            case WHOLE -> between(in.rangeContaining(unit, a), in.rangeContaining(unit, b));
            case MOVE -> in.shift(window, count, unit);
            case FIRST_DAY -> DateRange.ofEpochDays(a, a);
            case LAST_DAY -> DateRange.ofEpochDays(b, b);
            case SO_FAR -> window.notAfter(frame.asOf());
            case TO_COME -> window.after(frame.asOf());
            default -> throw new IllegalStateException(kind + " was handled above");
        };
    }

    private FiscalCalendar calendar(SpanContext context, boolean anyLevels) {
        if (anyLevels) {
            return calendar.map(context::calendar).orElseGet(context::calendar);
        }
        return calendar.map(name -> context.calendarWith(unit, name)).orElseGet(() -> context.calendarWith(unit));
    }

    private DateRange unitAway(FiscalCalendar in, int day, int away) {
        int ordinal = in.ordinal(unit, day);
        return ordinal == FiscalCalendar.NONE ? DateRange.EMPTY : in.range(unit, ordinal + away);
    }

    private static DateRange from(DateRange first, int last) {
        return first.isEmpty() ? DateRange.EMPTY : DateRange.ofEpochDays(first.firstEpochDay(), last);
    }

    private static DateRange between(DateRange first, DateRange last) {
        return first.isEmpty() || last.isEmpty()
                ? DateRange.EMPTY
                : DateRange.ofEpochDays(first.firstEpochDay(), last.lastEpochDay());
    }

    /** Returns the step in the language. */
    @Override
    public String toString() {
        String n = Math.abs(count) + " " + (Math.abs(count) == 1 ? unit.word() : unit.plural());
        String words =
                switch (kind) {
                    case TO_DATE -> unit.word() + " to date";
                    case ALL_TO_DATE -> "all to date";
                    case BEFORE -> "before";
                    case LAST -> "last " + n;
                    case TRAILING -> "trailing " + n;
                    case PREVIOUS -> "previous " + (count == 1 ? unit.word() : n);
                    case NEXT -> "next " + (count == 1 ? unit.word() : n);
                    case WHOLE -> "whole " + unit.word();
                    case MOVE -> n + (count < 0 ? " back" : " ahead");
                    case FIRST_DAY -> "first day";
                    case LAST_DAY -> "last day";
                    case SO_FAR -> "so far";
                    case TO_COME -> "to come";
                    case TODAY -> "today";
                    case YESTERDAY -> "yesterday";
                    case THIS -> "this " + unit.word();
                };
        return calendar.map(name -> words + " in " + name).orElse(words);
    }
}
