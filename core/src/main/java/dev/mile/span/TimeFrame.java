package dev.mile.span;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.calendar.MileException;
import dev.mile.calendar.Texts;
import java.time.LocalDate;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;

/**
 * What steps are resolved against.
 *
 * @param calendars the calendars by name
 * @param calendar the name of the one that steps use where they name none
 * @param asOf the as-of date as an epoch day
 * @param dimension the range of the date dimension, where {@code all to date} and {@code before} begin
 */
public record TimeFrame(Map<String, FiscalCalendar> calendars, String calendar, int asOf, DateRange dimension) {
    public TimeFrame {
        requireNonNull(calendar, "calendar is null");
        requireNonNull(dimension, "dimension is null");
    }

    /** Returns the frame with another default calendar. */
    public TimeFrame in(String other) {
        return new TimeFrame(calendars, other, asOf, dimension);
    }

    /**
     * Returns the calendar of the name, the default for an empty name.
     *
     * @throws MileException if there is none of the name
     */
    public FiscalCalendar calendarOf(String name) {
        String wanted = name.isEmpty() ? calendar : name;
        FiscalCalendar found = calendars.get(wanted);
        if (found == null) {
            throw MileException.model(
                    "unknown calendar '%s'%s",
                    wanted,
                    Texts.nearest(wanted, calendars.keySet().stream().sorted().toList()));
        }
        return found;
    }

    /**
     * Returns the period that has the label: of the default calendar or, where that has none, of another one.
     *
     * @throws MileException if no calendar has it
     */
    public CalendarPeriod period(String label) {
        return calendarOfPeriod(label)
                .flatMap(name -> calendars.get(name).parse(label, asOfDate()))
                .orElseThrow(() -> {
                    FiscalCalendar own = calendarOf("");
                    return MileException.model(
                            "'%s' is not a period of the calendar '%s', whose years read like '%s'; give a period by its label, or"
                                    + " a date such as 2026-04-01",
                            label, calendar, own.label(Level.YEAR, own.ordinal(Level.YEAR, asOf)));
                });
    }

    /** Returns the name of the calendar that has a period of the label: the default one before any other. */
    public Optional<String> calendarOfPeriod(String label) {
        return Stream.concat(Stream.of(calendar), calendars.keySet().stream())
                .filter(name -> calendarOf(name).parse(label, asOfDate()).isPresent())
                .findFirst();
    }

    private LocalDate asOfDate() {
        return LocalDate.ofEpochDay(asOf);
    }

    /**
     * Returns the calendar of the name, which must have the level.
     *
     * @throws MileException if it lacks the level
     */
    public FiscalCalendar calendarWith(Level level, String name) {
        FiscalCalendar found = calendarOf(name);
        if (!found.has(level)) {
            throw MileException.model(
                    "the calendar '%s' has no %s; it has %s. Name another calendar (`in NAME`) or another unit",
                    name.isEmpty() ? calendar : name,
                    level.plural(),
                    String.join(", ", found.levels().stream().map(Level::plural).toList()));
        }
        return found;
    }
}
