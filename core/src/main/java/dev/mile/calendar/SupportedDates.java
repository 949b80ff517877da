package dev.mile.calendar;

import dev.mile.ModelException;
import java.time.LocalDate;
import java.util.Set;

/** The days that Mile knows: five centuries, so that tables stay small and no loop runs away. */
public final class SupportedDates {
    /** The first civil year that calendars reach. */
    public static final int FIRST_YEAR = 1800;

    /** The last civil year that calendars reach. */
    public static final int LAST_YEAR = 2299;

    /** 1800-01-01 to 2299-12-31. */
    public static final DateRange RANGE = DateRange.of(LocalDate.of(FIRST_YEAR, 1, 1), LocalDate.of(LAST_YEAR, 12, 31));

    /** Dates that systems write for "none": the zero of spreadsheets, a database default, the end of time. */
    public static final Set<LocalDate> SENTINELS =
            Set.of(LocalDate.of(1899, 12, 30), LocalDate.of(1900, 1, 1), LocalDate.of(9999, 12, 31));

    private SupportedDates() {}

    /**
     * {@return the date}
     *
     * @param date a date that a model, a command or a program gives
     * @throws ModelException if it is outside the days that Mile knows
     */
    public static LocalDate require(LocalDate date) {
        if (date.getYear() < FIRST_YEAR || date.getYear() > LAST_YEAR) {
            throw ModelException.of("%s is outside the days that Mile knows, %s", date, RANGE);
        }
        return date;
    }
}
