package dev.mile.calendar;

import java.time.LocalDate;

/** The days that Mile knows: five centuries, so that tables stay small and no loop runs away. */
public final class SupportedDates {
    /** The first civil year that calendars reach. */
    public static final int FIRST_YEAR = 1800;

    /** The last civil year that calendars reach. */
    public static final int LAST_YEAR = 2299;

    /** 1800-01-01 to 2299-12-31. */
    public static final DateRange RANGE = DateRange.of(LocalDate.of(FIRST_YEAR, 1, 1), LocalDate.of(LAST_YEAR, 12, 31));

    private SupportedDates() {}
}
