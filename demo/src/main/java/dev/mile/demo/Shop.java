package dev.mile.demo;

import java.time.LocalDate;
import java.time.YearMonth;
import java.util.List;

/**
 * A shop as the generator sees it.
 *
 * @param code its key
 * @param size how much it sells; 100 is the average
 * @param growth its growth a year in percent
 * @param opened its first day; it sells nothing before
 */
record Shop(String code, int size, int growth, LocalDate opened) {
    private static final LocalDate LONG_AGO = LocalDate.of(2000, 1, 1);

    static final List<Shop> ALL = List.of(
            new Shop("S01", 170, 4, LONG_AGO),
            new Shop("S02", 110, 7, LONG_AGO),
            new Shop("S03", 60, 15, LONG_AGO),
            new Shop("S04", 180, -3, LONG_AGO),
            new Shop("S05", 105, 2, LONG_AGO),
            new Shop("S06", 70, 18, LocalDate.of(2022, 10, 8)),
            new Shop("S07", 190, 6, LONG_AGO),
            new Shop("S08", 100, -6, LONG_AGO),
            new Shop("S09", 65, 9, LONG_AGO),
            new Shop("S10", 95, 3, LONG_AGO),
            new Shop("S11", 90, 11, LONG_AGO),
            new Shop("S12", 55, 25, LocalDate.of(2024, 3, 2)));

    private static final int[] WEEKDAYS = {70, 75, 85, 95, 125, 190, 25};

    private static final YearMonth REFIT = YearMonth.of(2026, 6);

    /** Returns whether the shop sells nothing on the day, though it planned to. */
    boolean isClosed(LocalDate day) {
        return code.equals("S09") && YearMonth.from(day).equals(REFIT);
    }

    /** Returns how much the shop may sell on the day, in any unit. */
    double weight(LocalDate day) {
        if (day.isBefore(opened)) {
            return 0;
        }
        double years = (day.toEpochDay() - DemoDates.FIRST.toEpochDay()) / 365.25;
        double grown = Math.pow(1 + growth / 100.0, years);
        return size
                * grown
                * Assortment.season(day.getMonthValue())
                * WEEKDAYS[day.getDayOfWeek().getValue() - 1]
                * holiday(day);
    }

    /** Holidays are quiet; the weekend before the spring holiday is not. */
    private static double holiday(LocalDate day) {
        int month = day.getMonthValue();
        int dayOfMonth = day.getDayOfMonth();
        if ((month == 1 && dayOfMonth == 1) || (month == 12 && (dayOfMonth == 25 || dayOfMonth == 26))) {
            return 0.05;
        }
        boolean springHoliday =
                month == 5 && dayOfMonth <= 7 && day.getDayOfWeek().getValue() == 1;
        boolean before =
                month == 5 && dayOfMonth <= 6 && day.getDayOfWeek().getValue() >= 6 || month == 4 && dayOfMonth >= 29;
        return springHoliday ? 0.3 : before ? 1.6 : 1;
    }
}
