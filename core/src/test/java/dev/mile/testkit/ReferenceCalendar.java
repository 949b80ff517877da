package dev.mile.testkit;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.span.CalendarUnit;
import dev.mile.span.Span;
import dev.mile.span.Step;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.MonthDay;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.ToIntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * The slow, obvious calendar: every day from 2010 to 2035 written down with the number of its year, half, quarter, period and week,
 * and everything found by looking through the days one by one. It shares no code with the calendars and spans that it checks.
 */
final class ReferenceCalendar {
    private static final int FIRST = (int) LocalDate.of(2010, 1, 1).toEpochDay();
    private static final int LAST = (int) LocalDate.of(2035, 12, 31).toEpochDay();

    private final List<Level> levels;
    private final boolean nestedWeeks;

    /** For each level and day the number of its period, counted from the first day on. */
    private final int[][] ordinals = new int[Level.values().length][LAST - FIRST + 1];

    private final Map<Level, Map<String, DateRange>> byLabel = new HashMap<>();

    /** For each day the year that labels name. */
    private final int[] years = new int[LAST - FIRST + 1];

    private ReferenceCalendar(List<Level> levels, boolean nestedWeeks) {
        this.levels = levels;
        this.nestedWeeks = nestedWeeks;
    }

    /** Returns a calendar whose years begin in the month, and its months on the day, named for the year of their last day. */
    static ReferenceCalendar startingOn(Month month, int dayOfMonth) {
        ReferenceCalendar calendar = new ReferenceCalendar(List.of(Level.values()), false);
        int period = 0;
        int year = 0;
        int week = 0;
        // the days before the first year begins count in no year that is looked at
        int yearsFirst = 0;
        for (int day = FIRST; day <= LAST; day++) {
            LocalDate date = LocalDate.ofEpochDay(day);
            boolean starts = date.getDayOfMonth() == Math.min(dayOfMonth, date.lengthOfMonth());
            period += starts ? 1 : 0;
            boolean newYear = starts && date.getMonth() == month;
            year += newYear ? 1 : 0;
            week += newYear || date.getDayOfWeek() == DayOfWeek.MONDAY ? 1 : 0;
            yearsFirst = newYear ? period : yearsFirst;
            calendar.put(day, year, Map.of(Level.PERIOD, period, Level.WEEK, week), period - yearsFirst);
        }
        calendar.nameYears(range -> LocalDate.ofEpochDay(range.lastEpochDay()).getYear());
        return calendar;
    }

    private void put(int day, int year, Map<Level, Integer> fine, int periodInYear) {
        fine.forEach((level, ordinal) -> ordinals[level.ordinal()][day - FIRST] = ordinal);
        ordinals[Level.YEAR.ordinal()][day - FIRST] = year;
        ordinals[Level.HALF.ordinal()][day - FIRST] = year * 2 + Math.min(1, periodInYear / 6);
        ordinals[Level.QUARTER.ordinal()][day - FIRST] = year * 4 + Math.min(3, periodInYear / 3);
        ordinals[Level.DAY.ordinal()][day - FIRST] = day;
    }

    /**
     * Returns a calendar of weeks whose years end on the weekday nearest to a day of the year, named for the year of that day.
     *
     * @param pattern {@code 4-5-4}, {@code 13x4} or {@code none}
     */
    static ReferenceCalendar weeks(String pattern, DayOfWeek ends, MonthDay nearest) {
        List<Level> levels =
                switch (pattern) {
                    case "none" -> List.of(Level.YEAR, Level.WEEK, Level.DAY);
                    case "13x4" -> List.of(Level.YEAR, Level.QUARTER, Level.PERIOD, Level.WEEK, Level.DAY);
                    default -> List.of(Level.values());
                };
        List<Integer> weeks =
                pattern.equals("4-5-4") ? List.of(4, 5, 4, 4, 5, 4, 4, 5, 4, 4, 5, 4) : Collections.nCopies(13, 4);
        ReferenceCalendar calendar = new ReferenceCalendar(levels, true);
        List<Integer> yearEnds = IntStream.rangeClosed(2009, 2036)
                .mapToObj(year -> (int) nearest(nearest.atYear(year), ends).toEpochDay())
                .toList();
        int week = 0;
        int period = 0;
        for (int y = 1; y < yearEnds.size(); y++) {
            int start = yearEnds.get(y - 1) + 1;
            for (int day = start; day <= yearEnds.get(y); day++) {
                int weekOfYear = (day - start) / 7;
                week += (day - start) % 7 == 0 ? 1 : 0;
                int periodOfYear = 0;
                for (int before = weeks.get(0); periodOfYear < weeks.size() - 1 && weekOfYear >= before; ) {
                    before += weeks.get(++periodOfYear);
                }
                if (day >= FIRST && day <= LAST) {
                    int ordinal = period + periodOfYear;
                    calendar.put(day, y, Map.of(Level.PERIOD, ordinal, Level.WEEK, week), periodOfYear);
                }
            }
            period += weeks.size();
        }
        calendar.nameYears(range -> 2009 + calendar.ordinal(Level.YEAR, range.lastEpochDay()));
        return calendar;
    }

    private static LocalDate nearest(LocalDate nominal, DayOfWeek weekday) {
        return IntStream.rangeClosed(-3, 3)
                .mapToObj(nominal::plusDays)
                .filter(date -> date.getDayOfWeek() == weekday)
                .findFirst()
                .orElseThrow();
    }

    private void nameYears(ToIntFunction<DateRange> name) {
        for (int day = FIRST; day <= LAST; day++) {
            DateRange year = range(Level.YEAR, day);
            int number = name.applyAsInt(year);
            for (; day <= year.lastEpochDay(); day++) {
                years[day - FIRST] = number;
            }
            day--;
        }
    }

    List<Level> levels() {
        return levels;
    }

    int ordinal(Level level, int day) {
        return ordinals[level.ordinal()][day - FIRST];
    }

    /** Returns the days of the period that holds the day. */
    DateRange range(Level level, int day) {
        int first = day;
        int last = day;
        while (first > FIRST && ordinal(level, first - 1) == ordinal(level, day)) {
            first--;
        }
        while (last < LAST && ordinal(level, last + 1) == ordinal(level, day)) {
            last++;
        }
        return DateRange.ofEpochDays(first, last);
    }

    /** Returns the days of the period so many after the one that holds the day. */
    private DateRange range(Level level, int day, int away) {
        DateRange range = range(level, day);
        for (int i = 0; i < Math.abs(away); i++) {
            range = range(level, away < 0 ? range.firstEpochDay() - 1 : range.lastEpochDay() + 1);
        }
        return range;
    }

    /** Returns the label of the period that holds the day: {@code FY2026 P01}. */
    String label(Level level, int day) {
        if (level == Level.DAY) {
            return LocalDate.ofEpochDay(day).toString();
        }
        String year = "FY" + years[day - FIRST];
        int number = number(level, range(Level.YEAR, day), day);
        return switch (level) {
            case YEAR -> year;
            case HALF -> year + " H" + number;
            case QUARTER -> year + " Q" + number;
            case PERIOD -> String.format(Locale.ROOT, "%s P%02d", year, number);
            default -> String.format(Locale.ROOT, "%s W%02d", year, number);
        };
    }

    /** Returns the days of the period that has the label. */
    DateRange parse(String label, Level level) {
        return byLabel.computeIfAbsent(level, l -> {
                    Map<String, DateRange> ranges = new HashMap<>();
                    for (DateRange range = range(l, FIRST); ; range = range(l, range.lastEpochDay() + 1)) {
                        ranges.putIfAbsent(label(l, range.firstEpochDay()), range);
                        if (range.lastEpochDay() == LAST) {
                            return ranges;
                        }
                    }
                })
                .getOrDefault(label, DateRange.EMPTY);
    }

    private int number(Level level, DateRange within, int day) {
        return ordinal(level, day) - ordinal(level, within.firstEpochDay()) + 1;
    }

    // ---- spans

    /** Returns the days that the steps make of the window, step by step. */
    static DateRange resolve(
            Span span, DateRange window, Map<String, ReferenceCalendar> calendars, int asOf, DateRange dimension) {
        DateRange at = window;
        for (Step step : span.steps()) {
            ReferenceCalendar calendar = calendars.get(
                    step.countedIn().flatMap(CalendarUnit::calendar).orElse("c"));
            at = calendar.apply(step.withCalendar("").toString().replaceAll(" in .*", ""), at, asOf, dimension);
        }
        return at;
    }

    /** Applies a step, read from its words. */
    private DateRange apply(String step, DateRange window, int asOf, DateRange dimension) {
        List<String> words = List.of(step.split(" "));
        int n = words.stream()
                .filter(word -> word.matches("\\d+"))
                .mapToInt(Integer::parseInt)
                .findFirst()
                .orElse(1);
        Level unit = words.stream()
                .flatMap(word -> Level.parse(word).stream())
                .findFirst()
                .orElse(Level.DAY);
        String kind = words.stream()
                .filter(word ->
                        !word.matches("\\d+") && (Level.parse(word).isEmpty() || step.matches("(first|last) day")))
                .collect(Collectors.joining(" "));
        switch (kind) {
            case "today":
                return DateRange.ofEpochDays(asOf, asOf);
            case "yesterday":
                return DateRange.ofEpochDays(asOf - 1, asOf - 1);
            case "this":
                return range(unit, asOf);
            default:
                if (window.isEmpty()) {
                    return window;
                }
        }
        int a = window.firstEpochDay();
        int b = window.lastEpochDay();
        return switch (kind) {
            case "to date" -> DateRange.ofEpochDays(range(unit, b).firstEpochDay(), b);
            case "all to date" -> DateRange.ofEpochDays(dimension.firstEpochDay(), b);
            case "before" -> DateRange.ofEpochDays(dimension.firstEpochDay(), a - 1);
            case "last" -> DateRange.ofEpochDays(range(unit, b, 1 - n).firstEpochDay(), b);
            case "trailing" -> trailing(n, unit, b);
            case "previous" -> range(unit, a, -n).hull(range(unit, a, -1));
            case "next" -> range(unit, b, 1).hull(range(unit, b, n));
            case "whole" -> range(unit, a).hull(range(unit, b));
            case "back" -> moved(window, -n, unit);
            case "ahead" -> moved(window, n, unit);
            case "first day" -> DateRange.ofEpochDays(a, a);
            case "last day" -> DateRange.ofEpochDays(b, b);
            case "so far" -> DateRange.ofEpochDays(a, Math.min(b, asOf));
            case "to come" -> DateRange.ofEpochDays(Math.max(a, asOf + 1), b);
            default -> throw new AssertionError(step + " is no step");
        };
    }

    private DateRange trailing(int n, Level unit, int b) {
        if (unit == Level.DAY || unit == Level.WEEK) {
            return DateRange.ofEpochDays(b - n * (unit == Level.DAY ? 1 : 7) + 1, b);
        }
        Level ends = alignable(unit).stream()
                .filter(level -> range(level, b).lastEpochDay() == b)
                .findFirst()
                .orElse(null);
        return DateRange.ofEpochDays(counterpart(b, -n, unit, ends, true) + 1, b);
    }

    /** Returns the levels at which a window may be whole, coarsest first. */
    private List<Level> alignable(Level unit) {
        return levels.stream()
                .filter(level -> !level.isCoarserThan(unit) && level != Level.DAY)
                .filter(level -> level != Level.WEEK || nestedWeeks)
                .toList();
    }

    /** Returns the window moved by position. */
    DateRange moved(DateRange window, int n, Level unit) {
        int a = window.firstEpochDay();
        int b = window.lastEpochDay();
        if (unit == Level.DAY || unit == Level.WEEK) {
            int days = n * (unit == Level.DAY ? 1 : 7);
            return DateRange.ofEpochDays(a + days, b + days);
        }
        Level whole = alignable(unit).stream()
                .filter(level ->
                        range(level, a).firstEpochDay() == a && range(level, b).lastEpochDay() == b)
                .findFirst()
                .orElse(null);
        return DateRange.ofEpochDays(counterpart(a, n, unit, whole, false), counterpart(b, n, unit, whole, true));
    }

    /** Returns the day at the same place in the unit so many away; where that lacks the place, the day before the gap or after. */
    private int counterpart(int day, int n, Level unit, Level whole, boolean asEnd) {
        DateRange from = range(unit, day);
        DateRange to = range(unit, day, n);
        for (Level level : path(unit, whole)) {
            int number = number(level, from, day);
            DateRange within = to;
            int[] same = IntStream.rangeClosed(to.firstEpochDay(), to.lastEpochDay())
                    .filter(d -> number(level, within, d) == number)
                    .toArray();
            if (same.length == 0) {
                return asEnd ? to.lastEpochDay() : to.lastEpochDay() + 1;
            }
            from = range(level, day);
            to = DateRange.ofEpochDays(same[0], same[same.length - 1]);
        }
        if (whole != null) {
            return asEnd ? to.lastEpochDay() : to.firstEpochDay();
        }
        return Math.min(to.firstEpochDay() + day - from.firstEpochDay(), to.lastEpochDay());
    }

    /** Returns the levels by which a place is found: the period in the unit, then, in calendars of weeks, the week in the period. */
    private List<Level> path(Level unit, Level whole) {
        List<Level> path = new ArrayList<>();
        if (whole != null && whole.isCoarserThan(Level.PERIOD)) {
            if (whole != unit) {
                path.add(whole);
            }
            return path;
        }
        if (unit != Level.PERIOD && levels.contains(Level.PERIOD)) {
            path.add(Level.PERIOD);
        }
        if (whole != Level.PERIOD && whole != unit && nestedWeeks) {
            path.add(Level.WEEK);
        }
        return path;
    }
}
