package dev.mile.internal;

import static java.util.Objects.requireNonNull;

import java.time.DayOfWeek;
import java.time.Month;
import java.time.format.TextStyle;
import java.util.Locale;

/** Names of months and weekdays in one locale, as the JDK has them: {@code April}, {@code Apr}, {@code Monday}. */
public final class MonthAndWeekdayNames {
    private final Locale locale;
    // looked up once: the JDK's lookup is slow
    private final String[] months = new String[12];
    private final String[] shortMonths = new String[12];
    private final String[] weekdays = new String[7];

    private MonthAndWeekdayNames(Locale locale) {
        this.locale = locale;
        for (Month month : Month.values()) {
            months[month.ordinal()] = month.getDisplayName(TextStyle.FULL_STANDALONE, locale);
            shortMonths[month.ordinal()] = month.getDisplayName(TextStyle.SHORT_STANDALONE, locale);
        }
        for (DayOfWeek day : DayOfWeek.values()) {
            weekdays[day.ordinal()] = day.getDisplayName(TextStyle.FULL_STANDALONE, locale);
        }
    }

    /** Returns the names in the locale. */
    public static MonthAndWeekdayNames forLocale(Locale locale) {
        return new MonthAndWeekdayNames(requireNonNull(locale, "locale is null"));
    }

    /** Returns the full name, standing alone: {@code April}. */
    public String month(int month) {
        return months[month - 1];
    }

    /** Returns the short name: {@code Apr}. */
    public String shortMonth(int month) {
        return shortMonths[month - 1];
    }

    /** Returns the full name: {@code Monday}. */
    public String weekday(DayOfWeek day) {
        return weekdays[day.ordinal()];
    }

    /** Returns the language of the names. */
    public Locale locale() {
        return locale;
    }
}
