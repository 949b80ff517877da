package dev.mile.sql.dialect;

import static java.util.Objects.requireNonNull;

import dev.mile.fact.TextFunction;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.SQLTimeoutException;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * What a database says in its own words; all else that Mile asks is standard SQL (ISO 9075). The methods here say it as the
 * standard does, where the standard knows it.
 *
 * <p>A database that Mile does not know is added by a class that extends this one (or a dialect that is nearly right), has a
 * public constructor without arguments, and is named in a file {@code META-INF/services/dev.mile.sql.dialect.Dialect} on the class path,
 * beside the driver. The database must take names in double quotes, common table expressions, FILTER behind aggregates, and
 * ORDER BY … NULLS LAST. Arguments and results are pieces of SQL; what a user wrote is in them only quoted.
 */
public abstract class Dialect {
    /** For dialects. */
    protected Dialect() {}

    /** Returns what the URL of a connection begins with, such as {@code jdbc:postgresql:}. */
    public abstract String urlPrefix();

    // ---- connections

    /**
     * Readies a connection that was opened.
     *
     * @param zone the zone in which timestamps have their day
     */
    public void prepare(Connection connection, ZoneId zone) throws SQLException {}

    /** Returns whether the connection is gone; a read is then tried once more on a new one. */
    public boolean isConnectionLost(SQLException e) {
        requireNonNull(e, "e is null");
        return state(e).startsWith("08");
    }

    /** Returns whether a statement took longer than it may. */
    public boolean isTimeout(SQLException e) {
        requireNonNull(e, "e is null");
        return e instanceof SQLTimeoutException || state(e).equals("57014");
    }

    /** Returns whether there is no table of the name that was asked for. */
    public boolean isMissingTable(SQLException e) {
        requireNonNull(e, "e is null");
        return state(e).startsWith("42S0") || state(e).equals("42P01");
    }

    /** Returns the SQL state; empty if there is none. */
    protected static String state(SQLException e) {
        return e.getSQLState() == null ? "" : e.getSQLState();
    }

    // ---- texts

    /** Returns the value as a text that is equal to itself alone: neither case nor trailing blanks are passed over. */
    public String text(String value) {
        requireNonNull(value, "value is null");
        return "CAST(" + value + " AS VARCHAR)";
    }

    /** Returns the text with small letters for capitals, as {@link TextFunction#LOWER} has them in every language. */
    public String lower(String text) {
        requireNonNull(text, "text is null");
        return "translate(" + text + ", " + Sql.text(LetterCase.CAPITALS) + ", " + Sql.text(LetterCase.SMALL) + ")";
    }

    /** Returns the text without any of the characters before and behind it. */
    public String trim(String text, String characters) {
        requireNonNull(text, "text is null");
        requireNonNull(characters, "characters is null");
        return "btrim(" + text + ", " + Sql.text(characters) + ")";
    }

    /** Returns an expression that sorts by the text's code points. */
    public String byCodePoint(String text) {
        requireNonNull(text, "text is null");
        return text;
    }

    /**
     * Returns what sorts by the code points of a computed member, digits and signs.
     *
     * @param text its expression
     * @param alias its name among the columns that are selected
     */
    public String orderOfComputed(String text, String alias) {
        requireNonNull(alias, "alias is null");
        return byCodePoint(text);
    }

    /**
     * Returns the comparison of a text with a pattern, in which % matches any text, _ one character, and nothing else for
     * anything but itself.
     *
     * @param pattern the pattern as it is, not quoted
     */
    public String like(String text, String pattern) {
        requireNonNull(text, "text is null");
        requireNonNull(pattern, "pattern is null");
        return text + " LIKE " + literal(pattern) + " ESCAPE ''";
    }

    /** Returns a text as a literal. */
    protected static String literal(String text) {
        return Sql.text(text);
    }

    // ---- numbers

    /** Returns the number of a column whose type is a whole number or a decimal, with room for sums and products. */
    public String exact(String column, boolean whole) {
        requireNonNull(column, "column is null");
        return whole ? "CAST(" + column + " AS DECIMAL(19, 0))" : column;
    }

    /** Returns the exact number in a type whose sums, differences and products have room for 38 digits. */
    public String wide(String number) {
        requireNonNull(number, "number is null");
        return number;
    }

    /** Returns the number as a double (IEEE 754). */
    public String floating(String number) {
        requireNonNull(number, "number is null");
        return "CAST(" + number + " AS DOUBLE PRECISION)";
    }

    /**
     * Returns the aggregate of doubles: their sum, if the database adds with compensation so that it does not depend on the order
     * of the rows, or else an array of them all.
     */
    public String floatingSum(String value) {
        requireNonNull(value, "value is null");
        return "array_agg(" + value + ")";
    }

    /**
     * Returns the aggregate of the different values, an array.
     *
     * @param number whether the values are numbers, of which 2.5 and 2.50 are one
     */
    public String distinct(String value, boolean number) {
        requireNonNull(value, "value is null");
        return "array_agg(DISTINCT " + (number ? value : text(value)) + ")";
    }

    // ---- time

    /** Returns the date of an epoch day. */
    public String date(String epochDay) {
        requireNonNull(epochDay, "epochDay is null");
        return "(DATE '1970-01-01' + " + epochDay + ")";
    }

    /** Returns the epoch day of a date, null for none; {@link dev.mile.fact.Table#UNREADABLE} for one that no calendar has, such as infinity. */
    public abstract String epochDay(String date);

    /** Returns the epoch day of a text with a date in ISO 8601, null for a blank one; {@link dev.mile.fact.Table#UNREADABLE} for any other text. */
    public abstract String epochDayOfText(String text);

    /** Returns the timestamp with a time zone as the clocks of another zone show it. */
    public abstract String inZone(String timestamp, ZoneId zone);

    /** Returns the timestamp a number of seconds earlier. */
    public abstract String minusSeconds(String timestamp, int seconds);

    /** Returns the zone's distance from UTC, if that never changes; databases spell such zones differently from ISO 8601. */
    protected static Optional<ZoneOffset> offset(ZoneId zone) {
        return zone.normalized() instanceof ZoneOffset offset ? Optional.of(offset) : Optional.empty();
    }

    /**
     * Returns the first day of the bucket of days that an epoch day lies in, and other days as they are; days that stay apart are
     * put together while their totals are read.
     *
     * @param firsts the first epoch day of each bucket, rising
     * @param last the last day of the last
     */
    public String bucketOf(String epochDay, int[] firsts, int last) {
        requireNonNull(epochDay, "epochDay is null");
        requireNonNull(firsts, "firsts is null");
        return epochDay;
    }

    // ---- rows

    /**
     * Returns a table of whole numbers for a WITH clause: its name, its columns and its rows.
     *
     * @param rows at least one; null in a row for no number
     */
    public String valuesTable(String name, List<String> columns, List<List<Long>> rows) {
        requireNonNull(name, "name is null");
        requireNonNull(columns, "columns is null");
        requireNonNull(rows, "rows is null");
        return name + "(" + String.join(", ", columns) + ") AS (VALUES "
                + IntStream.range(0, rows.size())
                        .mapToObj(r -> rows.get(r).stream()
                                // the first row determines the types, even of columns of blanks
                                .map(r == 0 ? value -> "CAST(" + value + " AS BIGINT)" : String::valueOf)
                                .collect(Collectors.joining(",", "(", ")")))
                        .collect(Collectors.joining(","))
                + ")";
    }

    /** Returns the query so that it ends after the first rows. */
    public String limit(int rows, String query) {
        requireNonNull(query, "query is null");
        return query + " LIMIT " + rows;
    }
}
