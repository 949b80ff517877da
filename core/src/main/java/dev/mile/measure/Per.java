package dev.mile.measure;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.calendar.Level;
import dev.mile.internal.LanguageNames;
import java.util.Optional;

/**
 * What a measure is divided by: the units in its window, a part of a unit counted as one.
 *
 * @param working whether the unit is the working day; days and working days count as they are
 * @param week the working week, if it is not the first
 * @param unit the unit; DAY for working days
 * @param calendar the calendar, if it is not the report's
 */
public record Per(boolean working, Optional<String> week, Level unit, Optional<String> calendar) {
    public Per {
        requireNonNull(week, "week is null");
        requireNonNull(unit, "unit is null");
        requireNonNull(calendar, "calendar is null");
        if (working && (unit != Level.DAY || calendar.isPresent()) || !working && week.isPresent()) {
            throw ModelException.of(
                    "a measure is divided by working days of a working week, or by units of a calendar, not by both");
        }
    }

    /**
     * {@return the unit of the report's calendar}
     *
     * @param unit the unit
     */
    public static Per unit(Level unit) {
        requireNonNull(unit, "unit is null");
        return new Per(false, Optional.empty(), unit, Optional.empty());
    }

    /** {@return the working day of the first working week} */
    public static Per workingDay() {
        return new Per(true, Optional.empty(), Level.DAY, Optional.empty());
    }

    /**
     * {@return the working day of another working week}
     *
     * @param name the name
     */
    public Per withWeek(String name) {
        requireNonNull(name, "name is null");
        return new Per(working, Optional.of(name), unit, calendar);
    }

    /**
     * {@return the unit of another calendar}
     *
     * @param name the name
     */
    public Per withCalendar(String name) {
        requireNonNull(name, "name is null");
        return new Per(working, week, unit, Optional.of(name));
    }

    /** Returns the words after {@code per}. */
    @Override
    public String toString() {
        return working
                ? "working day"
                        + week.map(name -> " of " + LanguageNames.of(name)).orElse("")
                : unit.word()
                        + calendar.map(name -> " in " + LanguageNames.of(name)).orElse("");
    }
}
