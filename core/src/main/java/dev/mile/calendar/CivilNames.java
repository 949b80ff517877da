package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

import java.time.DayOfWeek;
import java.time.Month;
import java.time.format.TextStyle;
import java.util.Locale;

/** Names of months and weekdays in one locale, as the JDK has them: {@code April}, {@code Apr}, {@code Monday}. */
public final class CivilNames {
    private final Locale locale;

    private CivilNames(Locale locale) {
        this.locale = locale;
    }

    /** Returns the names in the locale. */
    public static CivilNames in(Locale locale) {
        return new CivilNames(requireNonNull(locale, "locale is null"));
    }

    /** Returns the full name, standing alone: {@code April}. */
    public String month(int month) {
        return Month.of(month).getDisplayName(TextStyle.FULL_STANDALONE, locale);
    }

    /** Returns the short name: {@code Apr}. */
    public String shortMonth(int month) {
        return Month.of(month).getDisplayName(TextStyle.SHORT_STANDALONE, locale);
    }

    /** Returns the full name: {@code Monday}. */
    public String weekday(DayOfWeek day) {
        return day.getDisplayName(TextStyle.FULL_STANDALONE, locale);
    }

    public Locale locale() {
        return locale;
    }
}
