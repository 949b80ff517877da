package dev.mile.span;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import java.util.Optional;
import java.util.OptionalInt;

/**
 * One step of a span: {@code year to date}, {@code last 3 months in retail}, {@code 1 year back}. It turns a window of days, [a, b],
 * into another one. Its text is the step in the language.
 */
public sealed interface Step {
    /** The largest count of units. */
    int MAX_COUNT = 100_000;

    /**
     * {@return the days that the step makes of the window} A window without days gives none, unless the step replaces it.
     *
     * @param window the days that are moved
     * @param context the calendars, the as-of date and the range of the date dimension
     * @throws MileException if the calendar is unknown or lacks the unit
     */
    DateRange apply(DateRange window, SpanContext context);

    /** {@return the unit that the step counts in, if it counts in one} */
    Optional<CalendarUnit> countedIn();

    /**
     * {@return the step in units of the named calendar; itself where it counts in no unit}
     *
     * @param name the name
     */
    Step withCalendar(String name);

    /** The steps that count in no unit. */
    enum Fixed implements Step {
        /** From the first day of the date dimension to b. */
        ALL_TO_DATE("all to date") {
            @Override
            DateRange of(DateRange window, SpanContext context) {
                return DateRange.ofEpochDays(context.dimension().firstEpochDay(), window.lastEpochDay());
            }
        },
        /** From the first day of the date dimension to the day before a. */
        BEFORE("before") {
            @Override
            DateRange of(DateRange window, SpanContext context) {
                return DateRange.ofEpochDays(context.dimension().firstEpochDay(), window.firstEpochDay() - 1);
            }
        },
        /** The first day. */
        FIRST_DAY("first day") {
            @Override
            DateRange of(DateRange window, SpanContext context) {
                return DateRange.ofEpochDays(window.firstEpochDay(), window.firstEpochDay());
            }
        },
        /** The last day. */
        LAST_DAY("last day") {
            @Override
            DateRange of(DateRange window, SpanContext context) {
                return DateRange.ofEpochDays(window.lastEpochDay(), window.lastEpochDay());
            }
        },
        /** The part up to the as-of date. */
        SO_FAR("so far") {
            @Override
            DateRange of(DateRange window, SpanContext context) {
                return window.notAfter(context.asOf());
            }
        },
        /** The part after the as-of date. */
        TO_COME("to come") {
            @Override
            DateRange of(DateRange window, SpanContext context) {
                return window.after(context.asOf());
            }
        },
        /** The as-of day, whatever the window. */
        TODAY("today") {
            @Override
            DateRange of(DateRange window, SpanContext context) {
                return DateRange.ofEpochDays(context.asOf(), context.asOf());
            }
        },
        /** The day before the as-of day, whatever the window. */
        YESTERDAY("yesterday") {
            @Override
            DateRange of(DateRange window, SpanContext context) {
                return DateRange.ofEpochDays(context.asOf() - 1, context.asOf() - 1);
            }
        };

        private final String words;

        Fixed(String words) {
            this.words = words;
        }

        abstract DateRange of(DateRange window, SpanContext context);

        @Override
        public DateRange apply(DateRange window, SpanContext context) {
            boolean replaces = this == TODAY || this == YESTERDAY;
            return window.isEmpty() && !replaces ? window : of(window, context);
        }

        @Override
        public Optional<CalendarUnit> countedIn() {
            return Optional.empty();
        }

        @Override
        public Step withCalendar(String name) {
            requireNonNull(name, "name is null");
            return this;
        }

        @Override
        public String toString() {
            return words;
        }
    }

    /**
     * From the first day of the unit that holds b, to b.
     *
     * @param unit the unit
     */
    record ToDate(CalendarUnit unit) implements Step {
        public ToDate {
            requireNonNull(unit, "unit is null");
        }

        @Override
        public DateRange apply(DateRange window, SpanContext context) {
            if (!unit.countsIn(window, context)) {
                return window;
            }
            return upTo(unit.rangeAway(context, window.lastEpochDay(), 0), window);
        }

        @Override
        public Optional<CalendarUnit> countedIn() {
            return Optional.of(unit);
        }

        @Override
        public Step withCalendar(String name) {
            return new ToDate(unit.withCalendar(name));
        }

        @Override
        public String toString() {
            return unit.in(unit.level().word() + " to date");
        }
    }

    /**
     * From the first day of the unit of a to the last day of the unit of b.
     *
     * @param unit the unit
     */
    record Whole(CalendarUnit unit) implements Step {
        public Whole {
            requireNonNull(unit, "unit is null");
        }

        @Override
        public DateRange apply(DateRange window, SpanContext context) {
            if (!unit.countsIn(window, context)) {
                return window;
            }
            return hull(
                    unit.rangeAway(context, window.firstEpochDay(), 0),
                    unit.rangeAway(context, window.lastEpochDay(), 0));
        }

        @Override
        public Optional<CalendarUnit> countedIn() {
            return Optional.of(unit);
        }

        @Override
        public Step withCalendar(String name) {
            return new Whole(unit.withCalendar(name));
        }

        @Override
        public String toString() {
            return unit.in("whole " + unit.level().word());
        }
    }

    /**
     * N calendar units that end with the one that holds b, to b.
     *
     * @param count how many units, from 1 to 100,000
     * @param unit the unit
     */
    record Last(int count, CalendarUnit unit) implements Step {
        public Last {
            requireNonNull(unit, "unit is null");
            requireCount(count, unit);
        }

        @Override
        public DateRange apply(DateRange window, SpanContext context) {
            if (!unit.countsIn(window, context)) {
                return window;
            }
            return upTo(unit.rangeAway(context, window.lastEpochDay(), 1 - count), window);
        }

        @Override
        public Optional<CalendarUnit> countedIn() {
            return Optional.of(unit);
        }

        @Override
        public Step withCalendar(String name) {
            return new Last(count, unit.withCalendar(name));
        }

        @Override
        public String toString() {
            return unit.in("last " + unit.times(count));
        }
    }

    /**
     * The length of N units that ends on b.
     *
     * @param count how many units, from 1 to 100,000
     * @param unit the unit
     */
    record Trailing(int count, CalendarUnit unit) implements Step {
        public Trailing {
            requireNonNull(unit, "unit is null");
            requireCount(count, unit);
        }

        @Override
        public DateRange apply(DateRange window, SpanContext context) {
            FiscalCalendar in = unit.toMoveIn(context);
            if (window.isEmpty()) {
                return window;
            }
            OptionalInt before = in.shiftEnd(window.lastEpochDay(), -count, unit.level());
            return before.isEmpty()
                    ? DateRange.EMPTY
                    : DateRange.ofEpochDays(before.getAsInt() + 1, window.lastEpochDay());
        }

        @Override
        public Optional<CalendarUnit> countedIn() {
            return Optional.of(unit);
        }

        @Override
        public Step withCalendar(String name) {
            return new Trailing(count, unit.withCalendar(name));
        }

        @Override
        public String toString() {
            return unit.in("trailing " + unit.times(count));
        }
    }

    /**
     * The N whole units before the one that holds a.
     *
     * @param count how many units, from 1 to 100,000
     * @param unit the unit
     */
    record Previous(int count, CalendarUnit unit) implements Step {
        public Previous {
            requireNonNull(unit, "unit is null");
            requireCount(count, unit);
        }

        @Override
        public DateRange apply(DateRange window, SpanContext context) {
            if (!unit.countsIn(window, context)) {
                return window;
            }
            int first = window.firstEpochDay();
            return hull(unit.rangeAway(context, first, -count), unit.rangeAway(context, first, -1));
        }

        @Override
        public Optional<CalendarUnit> countedIn() {
            return Optional.of(unit);
        }

        @Override
        public Step withCalendar(String name) {
            return new Previous(count, unit.withCalendar(name));
        }

        @Override
        public String toString() {
            return unit.in("previous " + (count == 1 ? unit.level().word() : unit.times(count)));
        }
    }

    /**
     * The N whole units after the one that holds b.
     *
     * @param count how many units, from 1 to 100,000
     * @param unit the unit
     */
    record Next(int count, CalendarUnit unit) implements Step {
        public Next {
            requireNonNull(unit, "unit is null");
            requireCount(count, unit);
        }

        @Override
        public DateRange apply(DateRange window, SpanContext context) {
            if (!unit.countsIn(window, context)) {
                return window;
            }
            int last = window.lastEpochDay();
            return hull(unit.rangeAway(context, last, 1), unit.rangeAway(context, last, count));
        }

        @Override
        public Optional<CalendarUnit> countedIn() {
            return Optional.of(unit);
        }

        @Override
        public Step withCalendar(String name) {
            return new Next(count, unit.withCalendar(name));
        }

        @Override
        public String toString() {
            return unit.in("next " + (count == 1 ? unit.level().word() : unit.times(count)));
        }
    }

    /**
     * The window moved by N units.
     *
     * @param count how many units, from 1 to 100,000 ahead, or negative back
     * @param unit the unit
     */
    record Moved(int count, CalendarUnit unit) implements Step {
        public Moved {
            requireNonNull(unit, "unit is null");
            requireCount(Math.abs((long) count), unit);
        }

        @Override
        public DateRange apply(DateRange window, SpanContext context) {
            FiscalCalendar in = unit.toMoveIn(context);
            return window.isEmpty() ? window : in.shift(window, count, unit.level());
        }

        @Override
        public Optional<CalendarUnit> countedIn() {
            return Optional.of(unit);
        }

        @Override
        public Step withCalendar(String name) {
            return new Moved(count, unit.withCalendar(name));
        }

        @Override
        public String toString() {
            return unit.in(unit.times(Math.abs(count)) + (count < 0 ? " back" : " ahead"));
        }
    }

    /**
     * The unit that holds the as-of day, whatever the window.
     *
     * @param unit the unit
     */
    record Current(CalendarUnit unit) implements Step {
        public Current {
            requireNonNull(unit, "unit is null");
        }

        @Override
        public DateRange apply(DateRange window, SpanContext context) {
            return unit.rangeAway(context, context.asOf(), 0);
        }

        @Override
        public Optional<CalendarUnit> countedIn() {
            return Optional.of(unit);
        }

        @Override
        public Step withCalendar(String name) {
            return new Current(unit.withCalendar(name));
        }

        @Override
        public String toString() {
            return unit.in("this " + unit.level().word());
        }
    }

    private static void requireCount(long count, CalendarUnit unit) {
        if (count < 1 || count > MAX_COUNT) {
            throw ModelException.of(
                    "a step of %d %s is not possible; give a count from 1 to %d",
                    count, unit.level().plural(), MAX_COUNT);
        }
    }

    private static DateRange upTo(DateRange first, DateRange window) {
        return first.isEmpty() ? DateRange.EMPTY : DateRange.ofEpochDays(first.firstEpochDay(), window.lastEpochDay());
    }

    private static DateRange hull(DateRange first, DateRange last) {
        return first.isEmpty() || last.isEmpty()
                ? DateRange.EMPTY
                : DateRange.ofEpochDays(first.firstEpochDay(), last.lastEpochDay());
    }
}
