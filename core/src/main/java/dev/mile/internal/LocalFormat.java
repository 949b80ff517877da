package dev.mile.internal;

import java.math.BigDecimal;
import java.text.DecimalFormat;
import java.text.DecimalFormatSymbols;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.format.FormatStyle;
import java.util.Locale;

/**
 * How people write dates and counts in their language, for what they read; data files do not follow it. English without a country
 * writes dates as ISO 8601 does, since its countries differ on the order of day and month.
 */
public final class LocalFormat {
    /** Dates as ISO 8601 has them, counts as English has them. */
    public static final LocalFormat PLAIN = new LocalFormat(Locale.ENGLISH);

    private final DecimalFormatSymbols symbols;
    private final DateTimeFormatter dates;

    private LocalFormat(Locale locale) {
        symbols = DecimalFormatSymbols.getInstance(locale);
        dates = locale.equals(Locale.ENGLISH)
                ? DateTimeFormatter.ISO_LOCAL_DATE
                : DateTimeFormatter.ofLocalizedDate(FormatStyle.MEDIUM).localizedBy(locale);
    }

    /** Returns the format of a language, and of its country where one is given. */
    public static LocalFormat of(Locale locale) {
        return locale.equals(Locale.ENGLISH) ? PLAIN : new LocalFormat(locale);
    }

    /** Returns a date: {@code 14.08.2026} in German. */
    public String date(LocalDate date) {
        return dates.format(date);
    }

    /** Returns the first and the last of some days. */
    public String range(LocalDate first, LocalDate last) {
        return date(first) + " to " + date(last);
    }

    /** Returns a number by a pattern of {@link DecimalFormat}, with the signs of the language. */
    public DecimalFormat numbers(String pattern) {
        return new DecimalFormat(pattern, symbols);
    }

    /** Returns all digits of a number, without groups. */
    public String exact(BigDecimal number) {
        return number.toPlainString().replace('.', symbols.getDecimalSeparator());
    }

    /** Returns the count and the noun, with an s where the count is not 1: {@code 1 row}, {@code 2,000 rows}. */
    public String quantity(long count, String noun) {
        return numbers("#,##0").format(count) + " " + noun + (count == 1 ? "" : "s");
    }
}
