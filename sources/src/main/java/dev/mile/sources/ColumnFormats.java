package dev.mile.sources;

import dev.mile.internal.EpochDays;
import dev.mile.internal.TextTypes;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/** Finds the formats in which all values of a column can be read. Used for one column. */
final class ColumnFormats {
    private static final Pattern PLAIN_NUMBER = Pattern.compile(TextTypes.NUMBER);
    private static final Pattern ISO_TIME = Pattern.compile(
            TextTypes.DATE + "[ T][0-9]{2}:[0-9]{2}(:[0-9]{2}([.][0-9]+)?)?(Z|[+-][0-9]{2}(:?[0-9]{2})?)?");
    private static final int DATE_LENGTH = 10;

    /** How numbers are written in most places. */
    private static final List<NumberExample> COMMON = Stream.of(
                    "1,234.56", "1.234,56", "1 234,56", "1'234.56", "12,34,567.89")
            .map(NumberExample::of)
            .toList();

    private final Locale locale;
    private List<NumberExample> numbers = COMMON;
    private List<DateExample> dates = List.of();
    private boolean arePlain = true;
    private boolean areIso = true;
    private long values;

    ColumnFormats(Locale locale) {
        this.locale = locale;
    }

    /** Returns whether a value is a number without a format. */
    static boolean isPlainNumber(String value) {
        return PLAIN_NUMBER.matcher(value).matches();
    }

    /** Returns whether a value is a date, or a date and its time, in ISO 8601. */
    static boolean isIsoDate(String value) {
        boolean looksLike =
                value.length() == DATE_LENGTH || ISO_TIME.matcher(value).matches();
        return looksLike && EpochDays.parse(value.substring(0, DATE_LENGTH)).isPresent();
    }

    /** Takes a value that is not blank. */
    void add(String value) {
        if (values == 0) {
            dates = DateExample.possible(value, locale);
        }
        values++;
        arePlain = arePlain && isPlainNumber(value);
        areIso = areIso && isIsoDate(value);
        if (!numbers.isEmpty()) {
            numbers = numbers.stream()
                    .filter(example -> example.plain(value).isPresent())
                    .toList();
        }
        if (!dates.isEmpty()) {
            dates = dates.stream()
                    .filter(example -> example.read(value).isPresent())
                    .toList();
        }
    }

    /** Returns whether there are values, all of them numbers without a format. */
    boolean arePlainNumbers() {
        return values > 0 && arePlain;
    }

    /** Returns whether there are values, all of them dates in ISO 8601. */
    boolean areIsoDates() {
        return values > 0 && areIso;
    }

    /** Returns the examples by which all values are numbers. */
    List<NumberExample> numbers() {
        return values == 0 ? List.of() : numbers;
    }

    /** Returns the examples by which all values are dates; two where they leave the order of day and month open. */
    List<DateExample> dates() {
        return values == 0 ? List.of() : dates;
    }
}
