package dev.mile.calendar;

import dev.mile.ModelException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.MonthDay;
import java.time.YearMonth;
import java.util.EnumMap;
import java.util.Locale;
import java.util.Map;

/**
 * Years of 52 or 53 whole weeks that end on one weekday: the nearest to a month and day, or the last of a month. The 4-5-4
 * convention of the retail trade and the weeks of ISO 8601 are cases of it.
 *
 * @param pattern the weeks of the periods
 * @param ends the weekday of the last day
 * @param nearest the month and day; null for the last such weekday of the month
 * @param month the month
 * @param namedForStart whether years carry the civil year of their nominal start
 * @param extraWeek the period, from 1, that a 53rd week joins; 0 for the last
 */
record WeekRule(
        WeekPattern pattern, DayOfWeek ends, MonthDay nearest, Month month, boolean namedForStart, int extraWeek)
        implements CalendarRule {

    WeekRule {
        int periods = pattern.weeks().size();
        if (extraWeek < 0 || extraWeek > periods) {
            throw ModelException.of(
                    "the extra week: period %d is not in the pattern %s, which has %s",
                    extraWeek, pattern.describe(), periods == 0 ? "no periods" : "periods 1 to " + periods);
        }
    }

    @Override
    public CalendarRule named(boolean forStart) {
        return new WeekRule(pattern, ends, nearest, month, forStart, extraWeek);
    }

    WeekRule withExtraWeek(int period) {
        return new WeekRule(pattern, ends, nearest, month, namedForStart, period);
    }

    private LocalDate nominalEnd(int year) {
        YearMonth m = YearMonth.of(year, month);
        return m.atDay(nearest == null ? m.lengthOfMonth() : Math.min(nearest.getDayOfMonth(), m.lengthOfMonth()));
    }

    /** Returns the last day of the year whose nominal end is that day. */
    private int end(LocalDate nominal) {
        int daysAfter = Math.floorMod(nominal.getDayOfWeek().getValue() - ends.getValue(), 7);
        int before = (int) nominal.toEpochDay() - daysAfter;
        // the nearest of the two is at most 3 days away, so there is no tie
        return nearest == null || daysAfter <= 3 ? before : before + 7;
    }

    @Override
    public CalendarTable table() {
        int years = SupportedDates.LAST_YEAR - SupportedDates.FIRST_YEAR + 3;
        int[] numbers = new int[years];
        IntList yearStarts = new IntList();
        IntList halves = new IntList();
        IntList quarters = new IntList();
        IntList periods = new IntList();
        IntList weeks = new IntList();
        LocalDate before = nominalEnd(SupportedDates.FIRST_YEAR - 2);
        int start = end(before) + 1;
        for (int i = 0; i < years; i++) {
            LocalDate nominal = nominalEnd(SupportedDates.FIRST_YEAR - 1 + i);
            int next = end(nominal) + 1;
            numbers[i] = (namedForStart ? before.plusDays(1) : nominal).getYear();
            yearStarts.add(start);
            for (int w = start; w < next; w += 7) {
                weeks.add(w);
            }
            boolean extra = next - start > 7 * WeekPattern.WEEKS;
            int at = start;
            int count = pattern.weeks().size();
            for (int p = 0; p < count; p++) {
                if (p == 0 || (WeekPattern.quarterOf(p) != WeekPattern.quarterOf(p - 1))) {
                    quarters.add(at);
                }
                if (p % 6 == 0 && pattern.hasHalves()) {
                    halves.add(at);
                }
                periods.add(at);
                boolean takesExtra = extra && p + 1 == (extraWeek == 0 ? count : extraWeek);
                at += 7 * (pattern.weeks().get(p) + (takesExtra ? 1 : 0));
            }
            before = nominal;
            start = next;
        }
        Map<Level, int[]> starts = new EnumMap<>(Level.class);
        put(starts, Level.YEAR, yearStarts, start);
        put(starts, Level.WEEK, weeks, start);
        if (pattern.hasPeriods()) {
            put(starts, Level.PERIOD, periods, start);
            put(starts, Level.QUARTER, quarters, start);
        }
        if (pattern.hasHalves()) {
            put(starts, Level.HALF, halves, start);
        }
        return CalendarTable.of(starts, numbers, true);
    }

    private static void put(Map<Level, int[]> starts, Level level, IntList days, int close) {
        days.add(close);
        starts.put(level, days.everyNth(1));
    }

    @Override
    public String describe() {
        String when = nearest == null
                ? "last " + lower(ends) + " of " + lower(month)
                : lower(ends) + " nearest " + lower(month) + " " + nearest.getDayOfMonth();
        return "weeks " + pattern.describe() + ", year ends " + when + ", named for its "
                + (namedForStart ? "start" : "end");
    }

    private static String lower(Enum<?> name) {
        return name.name().toLowerCase(Locale.ROOT);
    }
}
