package dev.mile.calendar;

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
}
