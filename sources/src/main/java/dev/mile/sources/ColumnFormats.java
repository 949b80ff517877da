package dev.mile.sources;

import dev.mile.internal.EpochDays;
import dev.mile.internal.TextTypes;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;

/** Finds the formats in which all values of a column can be read. Used for one column. */
final class ColumnFormats {
    private static final Pattern PLAIN_NUMBER = Pattern.compile(TextTypes.NUMBER);
    private static final Pattern ISO_TIME = Pattern.compile(
            TextTypes.DATE + "[ T][0-9]{2}:[0-9]{2}(:[0-9]{2}([.][0-9]+)?)?(Z|[+-][0-9]{2}(:?[0-9]{2})?)?");
    private static final Pattern THOUSANDS = Pattern.compile("-?[1-9][0-9]{0,2}(\\.[0-9]{3})+");
    /** Seconds since 1970 from 2001-09-09 to 2096-10-02 have ten digits and begin so; milliseconds have three more. */
    private static final Pattern CENTURY = Pattern.compile("[1-3][0-9]{9}([0-9]{3})?");

    private static final Map<Integer, String> EPOCHS = Map.of(10, "epoch seconds", 13, "epoch milliseconds");
    private static final int DATE_LENGTH = 10;
    private static final int MAX_NUMBER = 100;
    private static final int BASIC_LENGTH = 8;

    /** How numbers are written in most places. */
    private static final List<String> COMMON = List.of("1,234.56", "1.234,56", "1 234,56", "1'234.56", "12,34,567.89");

    /** An example, and a sum over what it makes of the values: two with the same sum read all values alike. */
    private static final class Numbers {
        final NumberExample example;
        long sum;

        Numbers(NumberExample example) {
            this.example = example;
        }

        boolean reads(String value) {
            Optional<String> plain = example.plain(value);
            sum = sum * 31 + plain.map(String::hashCode).orElse(0);
            return plain.isPresent();
        }
    }

    private final Locale locale;
    private List<Numbers> numbers =
            COMMON.stream().map(NumberExample::of).map(Numbers::new).toList();
    private List<DateExample> dates = List.of();
    private boolean arePlain = true;
    private boolean areIso = true;
    private boolean areThousands = true;
    private boolean areOfThisCentury = true;
    private int shortest = Integer.MAX_VALUE;
    private int longest;
    private long values;

    ColumnFormats(Locale locale) {
        this.locale = locale;
    }

    /** Returns whether a value is a number without a format. */
    static boolean isPlainNumber(String value) {
        return PLAIN_NUMBER.matcher(value).matches();
    }

    /** Returns whether a value is a date, or a date and its time, in ISO 8601; without hyphens it may be a number, too. */
    static boolean isIsoDateOrBasic(String value) {
        return isIsoDate(value)
                || value.length() == BASIC_LENGTH && EpochDays.parse(value).isPresent();
    }

    /** Returns whether a value is a date with hyphens, or such a date and its time, in ISO 8601. */
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
        shortest = Math.min(shortest, value.length());
        longest = Math.max(longest, value.length());
        areOfThisCentury = areOfThisCentury && CENTURY.matcher(value).matches();
        areThousands = areThousands
                && value.length() <= MAX_NUMBER
                && THOUSANDS.matcher(value).matches();
        if (!numbers.isEmpty()) {
            numbers = numbers.stream().filter(all -> all.reads(value)).toList();
        }
        if (!dates.isEmpty()) {
            dates = dates.stream()
                    .filter(example -> example.read(value).isPresent())
                    .toList();
        }
    }

    /** Returns the words for moments of the years 2001 to 2096 as counts since 1970, where all values may be that. */
    Optional<String> epoch() {
        return values == 0 || !arePlain || shortest != longest
                ? Optional.empty()
                : Optional.ofNullable(EPOCHS.get(longest)).filter(words -> areOfThisCentury);
    }

    /** Returns whether there are values, all of them numbers without a format. */
    boolean arePlainNumbers() {
        return values > 0 && arePlain;
    }

    /** Returns whether there are values, all of them dates in ISO 8601. */
    boolean areIsoDates() {
        return values > 0 && areIso;
    }

    /** Returns whether there are values, all of which read like 1.048. */
    boolean areThousands() {
        return values > 0 && areThousands;
    }

    /** Returns the examples by which all values are numbers, of those that read them alike only the first. */
    List<NumberExample> numbers() {
        List<NumberExample> different = new ArrayList<>();
        List<Long> sums = new ArrayList<>();
        for (Numbers all : values == 0 ? List.<Numbers>of() : numbers) {
            if (!sums.contains(all.sum)) {
                sums.add(all.sum);
                different.add(all.example);
            }
        }
        return different;
    }

    /** Returns whether an example reads all values as numbers. */
    boolean areNumbers(NumberExample example) {
        return numbers.stream().anyMatch(all -> all.example.example().equals(example.example()));
    }

    /** Returns the examples by which all values are dates; two where they leave the order of day and month open. */
    List<DateExample> dates() {
        return values == 0 ? List.of() : dates;
    }
}
