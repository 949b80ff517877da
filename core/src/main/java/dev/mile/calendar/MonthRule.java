package dev.mile.calendar;

import dev.mile.ModelException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.Year;
import java.util.EnumMap;
import java.util.Locale;
import java.util.Map;

/** Twelve periods that start on one day of the month; a day past the month's end means its last day. */
record MonthRule(Month month, int day, boolean namedForStart, DayOfWeek weekStarts) implements CalendarRule {
    private static final int PERIODS = 12;

    MonthRule {
        if (day < 1 || day > month.maxLength()) {
            throw ModelException.of(
                    "day %d is not in %s, which has days 1 to %d; name a day that the month has",
                    day, lower(month), month.maxLength());
        }
    }

    @Override
    public CalendarRule named(boolean forStart) {
        return new MonthRule(month, day, forStart, weekStarts);
    }

    @Override
    public CalendarRule withWeekStart(DayOfWeek weekday) {
        return new MonthRule(month, day, namedForStart, weekday);
    }

    @Override
    public CalendarTable table() {
        int years = SupportedDates.LAST_YEAR - SupportedDates.FIRST_YEAR + 2;
        int[] numbers = new int[years];
        IntList periods = new IntList();
        IntList weeks = new IntList();
        for (int i = 0; i < years; i++) {
            int year = SupportedDates.FIRST_YEAR - 1 + i;
            for (int p = 0; p < PERIODS; p++) {
                Month own = month.plus(p);
                periods.add(startOf(own.compareTo(month) < 0 ? year + 1 : year, own));
            }
            int first = startOf(year, month);
            int next = startOf(year + 1, month);
            numbers[i] = namedForStart ? year : LocalDate.ofEpochDay(next - 1).getYear();
            weeks.add(first);
            int ahead = Math.floorMod(
                    weekStarts.getValue()
                            - LocalDate.ofEpochDay(first).getDayOfWeek().getValue(),
                    7);
            for (int w = first + (ahead == 0 ? 7 : ahead); w < next; w += 7) {
                weeks.add(w);
            }
        }
        periods.add(startOf(SupportedDates.FIRST_YEAR - 1 + years, month));
        weeks.add(periods.last());
        Map<Level, int[]> starts = new EnumMap<>(Level.class);
        starts.put(Level.YEAR, periods.everyNth(12));
        starts.put(Level.HALF, periods.everyNth(6));
        starts.put(Level.QUARTER, periods.everyNth(3));
        starts.put(Level.PERIOD, periods.everyNth(1));
        starts.put(Level.WEEK, weeks.everyNth(1));
        return CalendarTable.of(starts, numbers, false);
    }

    /** Returns the first day of the period that begins in a month of a civil year. */
    private int startOf(int year, Month in) {
        int last = in.length(Year.isLeap(year));
        return (int) LocalDate.of(year, in, Math.min(day, last)).toEpochDay();
    }

    @Override
    public String describe() {
        return "year starts " + lower(month) + " " + day + ", named for its " + (namedForStart ? "start" : "end");
    }

    private static String lower(Month month) {
        return month.name().toLowerCase(Locale.ROOT);
    }
}
