package dev.mile.calendar;

import dev.mile.ModelException;
import dev.mile.internal.EpochDays;
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
        IntList periods = periods(years);
        IntList weeks = new IntList();
        boolean isCivilYear = month == Month.JANUARY && day == 1;
        for (int i = 0; i < years; i++) {
            int year = SupportedDates.FIRST_YEAR - 1 + i;
            numbers[i] = namedForStart || isCivilYear ? year : year + 1;
            int first = periods.get(i * PERIODS);
            int next = periods.get((i + 1) * PERIODS);
            weeks.add(first);
            int ahead = Math.floorMod(
                    weekStarts.getValue() - EpochDays.weekday(first).getValue(), 7);
            for (int w = first + (ahead == 0 ? 7 : ahead); w < next; w += 7) {
                weeks.add(w);
            }
        }
        weeks.add(periods.last());
        Map<Level, int[]> starts = new EnumMap<>(Level.class);
        starts.put(Level.YEAR, periods.everyNth(12));
        starts.put(Level.HALF, periods.everyNth(6));
        starts.put(Level.QUARTER, periods.everyNth(3));
        starts.put(Level.PERIOD, periods.everyNth(1));
        starts.put(Level.WEEK, weeks.everyNth(1));
        return CalendarTable.of(starts, numbers, false);
    }

    /** Returns the first days of all periods, and of the one behind them; month after month, since every start of the command line does this. */
    private IntList periods(int years) {
        IntList periods = new IntList();
        int year = SupportedDates.FIRST_YEAR - 1;
        Month in = month;
        int first = (int) LocalDate.of(year, in, 1).toEpochDay();
        for (int p = 0; p <= years * PERIODS; p++) {
            int length = in.length(Year.isLeap(year));
            periods.add(first + Math.min(day, length) - 1);
            first += length;
            in = in.plus(1);
            year += in == Month.JANUARY ? 1 : 0;
        }
        return periods;
    }

    @Override
    public String describe() {
        return "year starts " + lower(month) + " " + day + ", named for its " + (namedForStart ? "start" : "end");
    }

    private static String lower(Month month) {
        return month.name().toLowerCase(Locale.ROOT);
    }
}
