package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.internal.Messages;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How a file is written, as a model says it. Formats of values are given by an example, copied from the file.
 *
 * @param numbers a number with its decimal and thousands marks; empty for plain numbers such as 1234.56
 * @param dates an example by column, under an empty name for all columns that have none; none for ISO 8601
 * @param encoding the name of the character set; empty for UTF-8, or what a byte order mark says
 * @param separator what stands between values; empty where the header tells
 * @param sheet the sheet of a workbook; empty for the first that can be seen
 * @param header the line that holds the names, from 1
 * @param until the table ends before the first row whose first filled cell is this; with a * at its end, begins with it; empty where it
 *     ends with the file
 * @param unpivot the columns that become rows; empty for none
 * @param countsRejects whether lines that are no rows are counted and left out; where not, the first of them is an error
 * @param locale the language of names of months
 */
public record FileFormat(
        Optional<String> numbers,
        Map<String, String> dates,
        Optional<String> encoding,
        Optional<String> separator,
        Optional<String> sheet,
        int header,
        Optional<String> until,
        Optional<Unpivot> unpivot,
        boolean countsRejects,
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
    public record Unpivot(String first, String last, String into, String values, String as) {
        private static final Pattern NAME = Pattern.compile("\\{([^}]*)}");
        private static final String COLUMN = "column";

        /**
         * {@return the columns that become rows}
         *
         * @param names the columns of a table, in its order
         * @throws dev.mile.ModelException if the table lacks one that is named, or has one that is made
         */
        public List<String> range(List<String> names) {
            int begin = indexOf(first, names);
            int end = indexOf(last, names);
            if (end < begin) {
                throw ModelException.of(
                        "the columns to unpivot are %s..%s, and %s comes first in the file; swap them",
                        first, last, last);
            }
            NAME.matcher(as)
                    .results()
                    .map(name -> name.group(1))
                    .filter(name -> !name.equals(COLUMN))
                    .forEach(name -> indexOf(name, names));
            List<String> made = new ArrayList<>(names);
            made.subList(begin, end + 1).clear();
            if (into.equals(values) || made.contains(into) || made.contains(values)) {
                throw ModelException.of(
                        "unpivoting makes the columns %s and %s, but the file already has one of them; choose another name",
                        into, values);
            }
            return List.copyOf(names.subList(begin, end + 1));
        }

        private static int indexOf(String name, List<String> names) {
            int index = names.indexOf(name);
            if (index < 0) {
                throw ModelException.of(
                        "unpivoting names the column '%s', which the file lacks%s",
                        name, Messages.didYouMean(name, names));
            }
            return index;
        }

        /**
         * {@return what {@code into} holds for a column}
         *
         * @param column the column
         * @param others what stands for another column of the same row
         * @param texts what stands for a text between them
         */
        public List<String> member(String column, UnaryOperator<String> others, UnaryOperator<String> texts) {
            List<String> parts = new ArrayList<>();
            Matcher named = NAME.matcher(as);
            int end = 0;
            while (named.find()) {
                parts.add(texts.apply(as.substring(end, named.start())));
                parts.add(named.group(1).equals(COLUMN) ? texts.apply(column) : others.apply(named.group(1)));
                end = named.end();
            }
            parts.add(texts.apply(as.substring(end)));
            return parts;
        }
    }

    /** Plain numbers and ISO dates in UTF-8, names in the first line. */
    public static final FileFormat PLAIN = new FileFormat(
            Optional.empty(),
            Map.of(),
            Optional.empty(),
            Optional.empty(),
            Optional.empty(),
            1,
            Optional.empty(),
            Optional.empty(),
            false,
            Locale.ENGLISH);

    public FileFormat {
        requireNonNull(numbers, "numbers is null");
        dates = Collections.unmodifiableMap(new LinkedHashMap<>(dates));
        requireNonNull(encoding, "encoding is null");
        requireNonNull(separator, "separator is null");
        requireNonNull(sheet, "sheet is null");
        requireNonNull(until, "until is null");
        requireNonNull(unpivot, "unpivot is null");
        requireNonNull(locale, "locale is null");
    }

    /**
     * {@return the format with an example of numbers}
     *
     * @param example a number as the file has it
     */
    public FileFormat withNumbers(String example) {
        return new FileFormat(
                Optional.of(example), dates, encoding, separator, sheet, header, until, unpivot, countsRejects, locale);
    }

    /**
     * {@return the format with examples of dates}
     *
     * @param examples an example by column, under an empty name for all columns that have none
     */
    public FileFormat withDates(Map<String, String> examples) {
        return new FileFormat(
                numbers, examples, encoding, separator, sheet, header, until, unpivot, countsRejects, locale);
    }

    /**
     * {@return the format with an encoding}
     *
     * @param name the name of a character set
     */
    public FileFormat withEncoding(String name) {
        return new FileFormat(
                numbers, dates, Optional.of(name), separator, sheet, header, until, unpivot, countsRejects, locale);
    }

    /**
     * {@return the format with a separator}
     *
     * @param sign what stands between values
     */
    public FileFormat withSeparator(String sign) {
        return new FileFormat(
                numbers, dates, encoding, Optional.of(sign), sheet, header, until, unpivot, countsRejects, locale);
    }

    /**
     * {@return the format with a sheet}
     *
     * @param name the name of the sheet
     */
    public FileFormat withSheet(String name) {
        return new FileFormat(
                numbers, dates, encoding, separator, Optional.of(name), header, until, unpivot, countsRejects, locale);
    }

    /**
     * {@return the format with the names in a line}
     *
     * @param line the line, from 1
     */
    public FileFormat withHeader(int line) {
        return new FileFormat(numbers, dates, encoding, separator, sheet, line, until, unpivot, countsRejects, locale);
    }

    /**
     * {@return the format with an end of the table}
     *
     * @param text the first filled cell of the first row after the table
     */
    public FileFormat withUntil(String text) {
        return new FileFormat(
                numbers, dates, encoding, separator, sheet, header, Optional.of(text), unpivot, countsRejects, locale);
    }

    /**
     * {@return the format with columns that become rows}
     *
     * @param columns which
     */
    public FileFormat withUnpivot(Unpivot columns) {
        return new FileFormat(
                numbers, dates, encoding, separator, sheet, header, until, Optional.of(columns), countsRejects, locale);
    }

    /**
     * {@return the format with a language}
     *
     * @param language the language of names of months
     */
    public FileFormat withLocale(Locale language) {
        return new FileFormat(
                numbers, dates, encoding, separator, sheet, header, until, unpivot, countsRejects, language);
    }

    /** {@return the format where lines that are no rows are counted and left out, rather than being an error} */
    public FileFormat withRejectsCounted() {
        return new FileFormat(numbers, dates, encoding, separator, sheet, header, until, unpivot, true, locale);
    }

    /** {@return whether values are written as in {@link #PLAIN}, whatever the language, and whatever becomes of lines that are no rows} */
    public boolean isPlain() {
        return numbers.isEmpty()
                && dates.isEmpty()
                && encoding.isEmpty()
                && separator.isEmpty()
                && sheet.isEmpty()
                && header == PLAIN.header
                && until.isEmpty()
                && unpivot.isEmpty();
    }
}
