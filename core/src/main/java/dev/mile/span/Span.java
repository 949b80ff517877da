package dev.mile.span;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;

/**
 * A list of steps, applied left to right to a cell's days: {@code Span.back(1, YEAR).then(Span.toDate(YEAR))} is last year's year
 * to date.
 *
 * @param steps the steps in order
 */
public record Span(List<Step> steps) {
    /** The span that leaves the days as they are. */
    public static final Span NONE = new Span(List.of());

    public Span {
        steps = List.copyOf(steps);
    }

    private static Span of(Step step) {
        return new Span(List.of(step));
    }

    /**
     * {@return from the first day of the unit to the last day of the window}
     *
     * @param unit the unit
     */
    public static Span toDate(Level unit) {
        requireNonNull(unit, "unit is null");
        return of(new Step.ToDate(CalendarUnit.of(unit)));
    }

    /** {@return every day up to the last day of the window, from the first of the date dimension} */
    public static Span allToDate() {
        return of(Step.Fixed.ALL_TO_DATE);
    }

    /** {@return every day before the window, from the first of the date dimension} */
    public static Span before() {
        return of(Step.Fixed.BEFORE);
    }

    /**
     * {@return whole units, the one that holds the last day being the last of them, up to that day}
     *
     * @param count how many
     * @param unit the unit
     */
    public static Span last(int count, Level unit) {
        requireNonNull(unit, "unit is null");
        return of(new Step.Last(count, CalendarUnit.of(unit)));
    }

    /**
     * {@return the units' length that ends on the last day of the window}
     *
     * @param count how many
     * @param unit the unit
     */
    public static Span trailing(int count, Level unit) {
        requireNonNull(unit, "unit is null");
        return of(new Step.Trailing(count, CalendarUnit.of(unit)));
    }

    /**
     * {@return the whole units before the one that holds the first day}
     *
     * @param count how many
     * @param unit the unit
     */
    public static Span previous(int count, Level unit) {
        requireNonNull(unit, "unit is null");
        return of(new Step.Previous(count, CalendarUnit.of(unit)));
    }

    /**
     * {@return the whole units after the one that holds the last day}
     *
     * @param count how many
     * @param unit the unit
     */
    public static Span next(int count, Level unit) {
        requireNonNull(unit, "unit is null");
        return of(new Step.Next(count, CalendarUnit.of(unit)));
    }

    /**
     * {@return the whole units that hold the window}
     *
     * @param unit the unit
     */
    public static Span whole(Level unit) {
        requireNonNull(unit, "unit is null");
        return of(new Step.Whole(CalendarUnit.of(unit)));
    }

    /**
     * {@return the window moved back; docs/language.md has the rules of moving}
     *
     * @param count how many
     * @param unit the unit
     */
    public static Span back(int count, Level unit) {
        requireNonNull(unit, "unit is null");
        return of(new Step.Moved(-count, CalendarUnit.of(unit)));
    }

    /**
     * {@return the window moved ahead}
     *
     * @param count how many
     * @param unit the unit
     */
    public static Span ahead(int count, Level unit) {
        requireNonNull(unit, "unit is null");
        return of(new Step.Moved(count, CalendarUnit.of(unit)));
    }

    /** {@return the first day of the window} */
    public static Span firstDay() {
        return of(Step.Fixed.FIRST_DAY);
    }

    /** {@return the last day of the window} */
    public static Span lastDay() {
        return of(Step.Fixed.LAST_DAY);
    }

    /** {@return the part of the window up to the as-of date} */
    public static Span soFar() {
        return of(Step.Fixed.SO_FAR);
    }

    /** {@return the part of the window after the as-of date} */
    public static Span toCome() {
        return of(Step.Fixed.TO_COME);
    }

    /** {@return the as-of day} */
    public static Span today() {
        return of(Step.Fixed.TODAY);
    }

    /** {@return the day before the as-of day} */
    public static Span yesterday() {
        return of(Step.Fixed.YESTERDAY);
    }

    /**
     * {@return the unit that holds the as-of day: {@code this month}}
     *
     * @param unit the unit
     */
    public static Span current(Level unit) {
        requireNonNull(unit, "unit is null");
        return of(new Step.Current(CalendarUnit.of(unit)));
    }

    /**
     * {@return these steps and then the others}
     *
     * @param other the other
     */
    public Span then(Span other) {
        requireNonNull(other, "other is null");
        List<Step> all = new ArrayList<>(steps);
        all.addAll(other.steps);
        return new Span(all);
    }

    /**
     * {@return the span with the calendar named for every step that names none}
     *
     * @param calendar the calendar
     */
    public Span withCalendar(String calendar) {
        requireNonNull(calendar, "calendar is null");
        return new Span(steps.stream()
                .map(step -> step.countedIn().flatMap(CalendarUnit::calendar).isPresent()
                        ? step
                        : step.withCalendar(calendar))
                .toList());
    }

    /** {@return whether a step moves the window, {@code back} or {@code ahead}, and no later one replaces it by days around the as-of date} */
    public boolean isMoved() {
        boolean moved = false;
        for (Step step : steps) {
            boolean replaced = step instanceof Step.Current || step == Step.Fixed.TODAY || step == Step.Fixed.YESTERDAY;
            moved = !replaced && (moved || step instanceof Step.Moved);
        }
        return moved;
    }

    /**
     * {@return whether the window that the steps make begins with the date dimension}
     *
     * @param window the days that are moved
     * @param context the calendars, the as-of date and the range of the date dimension
     */
    public boolean beginsWithDimension(DateRange window, SpanContext context) {
        requireNonNull(window, "window is null");
        requireNonNull(context, "context is null");
        DateRange at = window;
        boolean begins = false;
        for (Step step : steps) {
            at = step.apply(at, context);
            begins = !at.isEmpty()
                    && at.firstEpochDay() == context.dimension().firstEpochDay()
                    && (begins || step == Step.Fixed.ALL_TO_DATE || step == Step.Fixed.BEFORE);
        }
        return begins;
    }

    /** {@return whether it has no step} */
    public boolean isEmpty() {
        return steps.isEmpty();
    }

    /**
     * {@return the days that all steps together make of the window}
     *
     * @param window the days that are moved
     * @param context the calendars, the as-of date and the range of the date dimension
     */
    public DateRange resolve(DateRange window, SpanContext context) {
        requireNonNull(window, "window is null");
        requireNonNull(context, "context is null");
        DateRange at = window;
        for (Step step : steps) {
            at = step.apply(at, context);
        }
        return at;
    }

    /**
     * {@return the days after each step, for {@code explain}; as many as there are steps}
     *
     * @param window the days that are moved
     * @param context the calendars, the as-of date and the range of the date dimension
     */
    public List<DateRange> trace(DateRange window, SpanContext context) {
        requireNonNull(window, "window is null");
        requireNonNull(context, "context is null");
        List<DateRange> windows = new ArrayList<>();
        DateRange at = window;
        for (Step step : steps) {
            at = step.apply(at, context);
            windows.add(at);
        }
        return windows;
    }

    /** Returns the span in the language: {@code 1 year back, year to date}. */
    @Override
    public String toString() {
        return steps.stream().map(Step::toString).collect(Collectors.joining(", "));
    }
}
