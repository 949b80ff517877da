package dev.mile.span;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import java.time.LocalDate;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * What steps are resolved against.
 *
 * @param calendars the calendars by name
 * @param defaultCalendar the name of the one that steps use where they name none
 * @param asOf the as-of date as an epoch day
 * @param dimension the range of the date dimension, where {@code all to date} and {@code before} begin
 */
public record SpanContext(
        Map<String, FiscalCalendar> calendars, String defaultCalendar, int asOf, DateRange dimension) {
    public SpanContext {
        requireNonNull(defaultCalendar, "calendar is null");
        requireNonNull(dimension, "dimension is null");
    }

    /**
     * {@return the frame with another default calendar}
     *
     * @param other the other
     */
    public SpanContext withCalendar(String other) {
        requireNonNull(other, "other is null");
        return new SpanContext(calendars, other, asOf, dimension);
    }

    /** {@return the default calendar} */
    public FiscalCalendar calendar() {
        return calendar(defaultCalendar);
    }

    /**
     * {@return the calendar of the name}
     *
     * @param name the name
     * @throws MileException if none has the name
     */
    public FiscalCalendar calendar(String name) {
        FiscalCalendar found = calendars.get(requireNonNull(name, "name is null"));
        if (found == null) {
            throw ModelException.unknownName(
                    "calendar", name, calendars.keySet().stream().sorted().toList());
        }
        return found;
    }

    /**
     * {@return the period that has the label: of the default calendar or, where that has none, of another one}
     *
     * @param label what people read
     * @throws MileException if no calendar has it
     */
    public CalendarPeriod period(String label) {
        requireNonNull(label, "label is null");
        return calendarOfPeriod(label)
                .flatMap(name -> calendars.get(name).parse(label, asOfDate()))
                .orElseThrow(() -> {
                    FiscalCalendar own = calendar();
                    return ModelException.of(
                            "'%s' is not a period of the calendar '%s', whose years read like '%s'; give a period by its label, or"
                                    + " a date such as 2026-04-01",
                            label, defaultCalendar, own.label(Level.YEAR, own.ordinal(Level.YEAR, asOf)));
                });
    }

    /**
     * {@return the name of the calendar that has a period of the label: the default one before any other}
     *
     * @param label what people read
     */
    public Optional<String> calendarOfPeriod(String label) {
        requireNonNull(label, "label is null");
        return Stream.concat(Stream.of(defaultCalendar), calendars.keySet().stream())
                .filter(name -> calendar(name).parse(label, asOfDate()).isPresent())
                .findFirst();
    }

    private LocalDate asOfDate() {
        return LocalDate.ofEpochDay(asOf);
    }

    /**
     * {@return the default calendar, which must have the level}
     *
     * @param level the level
     * @throws MileException if it lacks the level
     */
    public FiscalCalendar calendarWith(Level level) {
        requireNonNull(level, "level is null");
        return calendarWith(level, defaultCalendar);
    }

    /**
     * {@return the calendar of the name, which must have the level}
     *
     * @param level the level
     * @param name the name
     * @throws MileException if it lacks the level
     */
    public FiscalCalendar calendarWith(Level level, String name) {
        requireNonNull(level, "level is null");
        requireNonNull(name, "name is null");
        return calendar(name).requireLevel(name, level);
    }
}
