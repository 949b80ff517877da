package dev.mile.workday;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.YearMonth;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** The rule that gives a holiday its day in each year: the 25th of December, the first Monday of May, the day after Easter. */
@FunctionalInterface
public interface HolidayDate {
    /**
     * {@return the day in the civil year; empty in a year that lacks it}
     *
     * @param year the year
     */
    Optional<LocalDate> dateIn(int year);

    /**
     * {@return the rule of a month and day; a year without February 29 has no such holiday}
     *
     * @param month the month
     * @param day the day of the month, from 1
     */
    static HolidayDate fixed(Month month, int day) {
        return year -> YearMonth.of(year, month).isValidDay(day)
                ? Optional.of(LocalDate.of(year, month, day))
                : Optional.empty();
    }

    /**
     * {@return the rule of one date, in its year only}
     *
     * @param date the date
     */
    static HolidayDate once(LocalDate date) {
        return year -> date.getYear() == year ? Optional.of(date) : Optional.empty();
    }

    /**
     * {@return the rule of the nth weekday of a month; a month without a fifth one has no such holiday}
     *
     * @param n which of them, from 1
     * @param weekday the weekday
     * @param month the month
     */
    static HolidayDate nth(int n, DayOfWeek weekday, Month month) {
        return year -> {
            LocalDate day = LocalDate.of(year, month, 1).with(TemporalAdjusters.dayOfWeekInMonth(n, weekday));
            return day.getMonth() == month ? Optional.of(day) : Optional.empty();
        };
    }

    /**
     * {@return the rule of the last such weekday of a month}
     *
     * @param weekday the weekday
     * @param month the month
     */
    static HolidayDate last(DayOfWeek weekday, Month month) {
        return year -> Optional.of(LocalDate.of(year, month, 1).with(TemporalAdjusters.lastInMonth(weekday)));
    }

    /**
     * {@return the rule of some days after (before, where negative) Easter Sunday}
     *
     * @param days days after Easter Sunday; negative before it
     */
    static HolidayDate easter(int days) {
        return year -> Optional.of(easterSunday(year).plusDays(days));
    }

    /**
     * {@return Easter Sunday of the western churches, by the anonymous Gregorian computus (Nature, 20 April 1876)}
     *
     * @param year the year
     */
    static LocalDate easterSunday(int year) {
        int a = year % 19;
        int b = year / 100;
        int c = year % 100;
        int h = (19 * a + b - b / 4 - (b - (b + 8) / 25 + 1) / 3 + 15) % 30;
        int l = (32 + 2 * (b % 4) + 2 * (c / 4) - h - c % 4) % 7;
        int m = (a + 11 * h + 22 * l) / 451;
        int n = h + l - 7 * m + 114;
        return LocalDate.of(year, n / 31, n % 31 + 1);
    }

    /**
     * {@return the rule of the words: {@code december 25}, {@code 2026-03-09}, {@code first monday of may},
     * {@code last monday of august}, {@code easter}, {@code easter + 39}, {@code easter - 2}}
     *
     * @param words the words, as the model file has them
     * @throws MileException if the text is anything else, or a day that no year has
     */
    static HolidayDate parse(String words) {
        String text = words.strip().toLowerCase(Locale.ROOT);
        Matcher easter = Pattern.compile("easter(?:\\s*([+-])\\s*(\\d{1,3}))?").matcher(text);
        if (easter.matches()) {
            int days = easter.group(2) == null ? 0 : Integer.parseInt(easter.group(2));
            return easter("-".equals(easter.group(1)) ? -days : days);
        }
        Matcher nth = Pattern.compile("(first|second|third|fourth|fifth|last) (\\w+) of (\\w+)")
                .matcher(text);
        if (nth.matches()) {
            DayOfWeek weekday = weekday(nth.group(2));
            Month month = month(nth.group(3));
            List<String> places = List.of("first", "second", "third", "fourth", "fifth");
            return nth.group(1).equals("last")
                    ? last(weekday, month)
                    : nth(places.indexOf(nth.group(1)) + 1, weekday, month);
        }
        if (text.matches("\\d{4}-\\d{2}-\\d{2}")) {
            return once(EpochDays.parse(text)
                    .orElseThrow(
                            () -> ModelException.of("'%s' is not a day of the calendar; write year-month-day", words)));
        }
        Matcher fixed = Pattern.compile("(\\p{Alpha}+) (\\d{1,2})").matcher(text);
        if (fixed.matches()) {
            Month month = month(fixed.group(1));
            int day = Integer.parseInt(fixed.group(2));
            if (day < 1 || day > month.maxLength()) {
                throw ModelException.of(
                        "'%s' is in no year: %s has days 1 to %d", words, fixed.group(1), month.maxLength());
            }
            return fixed(month, day);
        }
        throw ModelException.of(
                "'%s' is not a day of the year; expected a month and day (december 25), a weekday of a month (first monday of"
                        + " may, last monday of august), days from Easter (easter + 39) or a date (2026-03-09)",
                words);
    }

    /**
     * {@return the weekday of its English name}
     *
     * @param name what people call it
     */
    static DayOfWeek weekday(String name) {
        return named(DayOfWeek.class, DayOfWeek.values(), name, "weekday");
    }

    /**
     * {@return the month of its English name}
     *
     * @param name what people call it
     */
    static Month month(String name) {
        return named(Month.class, Month.values(), name, "month");
    }

    private static <E extends Enum<E>> E named(Class<E> type, E[] values, String name, String noun) {
        for (E value : values) {
            if (value.name().equalsIgnoreCase(name.strip())) {
                return value;
            }
        }
        throw ModelException.of(
                "'%s' is not a %s%s",
                name,
                noun,
                Messages.didYouMean(
                        name,
                        Arrays.stream(values)
                                .map(v -> v.name().toLowerCase(Locale.ROOT))
                                .toList()));
    }

    /**
     * {@return all days of the rule in the years, both included}
     *
     * @param firstYear the first year
     * @param lastYear the last year
     */
    default List<LocalDate> between(int firstYear, int lastYear) {
        List<LocalDate> days = new ArrayList<>();
        for (int year = firstYear; year <= lastYear; year++) {
            try {
                dateIn(year).ifPresent(days::add);
            } catch (DateTimeException e) {
                throw ModelException.of("a holiday rule gives no day in %d: %s", year, e.getMessage());
            }
        }
        return days;
    }
}
