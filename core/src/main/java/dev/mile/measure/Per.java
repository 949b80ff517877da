package dev.mile.measure;

import dev.mile.calendar.Level;

/**
 * What a measure is divided by: the units in its window, a part of a unit counted as one.
 *
 * @param working whether the unit is the working day; days and working days count as they are
 * @param week the working week; empty for the first
 * @param unit the unit; DAY for working days
 * @param calendar the calendar; empty for the report's
 */
public record Per(boolean working, String week, Level unit, String calendar) {
    /** Returns the unit of the report's calendar. */
    public static Per unit(Level unit) {
        return new Per(false, "", unit, "");
    }

    /** Returns the working day of the first working week. */
    public static Per workingDay() {
        return new Per(true, "", Level.DAY, "");
    }

    /** Returns the words after {@code per}. */
    @Override
    public String toString() {
        return working
                ? "working day" + (week.isEmpty() ? "" : " of " + week)
                : unit.word() + (calendar.isEmpty() ? "" : " in " + calendar);
    }
}
