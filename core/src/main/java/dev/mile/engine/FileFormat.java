package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * How a text file is written, as a model says it. Formats of values are given by an example, copied from the file.
 *
 * @param numbers a number with its decimal and thousands marks; empty for plain numbers such as 1234.56
 * @param dates an example by column, under an empty name for all columns that have none; none for ISO 8601
 * @param encoding the name of the character set; empty for UTF-8, or what a byte order mark says
 * @param separator what stands between values; empty where the header tells
 * @param header the line that holds the names, from 1
 * @param until the table ends before the first row whose first filled cell is this; with a * at its end, begins with it; empty where it
 *     ends with the file
 * @param unpivot the columns that become rows; empty for none
 * @param locale the language of names of months
 */
public record FileFormat(
        Optional<String> numbers,
        Map<String, String> dates,
        Optional<String> encoding,
        Optional<String> separator,
        int header,
        Optional<String> until,
        Optional<Unpivot> unpivot,
        Locale locale) {
    /**
     * Columns that become rows: one for each filled cell.
     *
     * @param first the first of them
     * @param last the last, in the order of the file
     * @param into the column that tells from which of them a row comes
     * @param values the column of the values
     * @param as what {@code into} holds: a text with {@code {column}} for the name of the column, and other columns in the same way
     */
    public record Unpivot(String first, String last, String into, String values, String as) {}

    /** Plain numbers and ISO dates in UTF-8, names in the first line. */
    public static final FileFormat PLAIN = new FileFormat(
            Optional.empty(),
            Map.of(),
            Optional.empty(),
            Optional.empty(),
            1,
            Optional.empty(),
            Optional.empty(),
            Locale.ENGLISH);

    public FileFormat {
        requireNonNull(numbers, "numbers is null");
        dates = Collections.unmodifiableMap(new LinkedHashMap<>(dates));
        requireNonNull(encoding, "encoding is null");
        requireNonNull(separator, "separator is null");
        requireNonNull(until, "until is null");
        requireNonNull(unpivot, "unpivot is null");
        requireNonNull(locale, "locale is null");
    }

    /** {@return whether it is {@link #PLAIN}, whatever the language} */
    public boolean isPlain() {
        return equals(new FileFormat(
                PLAIN.numbers,
                PLAIN.dates,
                PLAIN.encoding,
                PLAIN.separator,
                PLAIN.header,
                PLAIN.until,
                PLAIN.unpivot,
                locale));
    }
}
