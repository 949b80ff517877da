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

    /** {@return what the URL of a connection begins with, such as {@code jdbc:postgresql:}} */
    public abstract String urlPrefix();

    // ---- connections

    /**
     * Readies a connection that was opened.
     *
     * @param connection a connection to the database
     * @param zone the zone in which timestamps have their day
     * @throws SQLException if the database refuses
     */
    public void prepare(Connection connection, ZoneId zone) throws SQLException {}

    /**
     * Undoes {@link #prepare}, before a connection that was borrowed from a pool is given back.
     *
     * @param connection a connection to the database
     * @throws SQLException if the database refuses
     */
    public void restore(Connection connection) throws SQLException {}

    /**
     * {@return whether the connection is gone; a read is then tried once more on a new one}
     *
     * @param e what the database said
     */
    public boolean isConnectionLost(SQLException e) {
        requireNonNull(e, "e is null");
        return state(e).startsWith("08");
    }

    /**
     * {@return whether a statement took longer than it may}
     *
     * @param e what the database said
     */
    public boolean isTimeout(SQLException e) {
        requireNonNull(e, "e is null");
        return e instanceof SQLTimeoutException || state(e).equals("57014");
    }

    /**
     * {@return whether there is no table of the name that was asked for}
     *
     * @param e what the database said
     */
    public boolean isMissingTable(SQLException e) {
        requireNonNull(e, "e is null");
        return state(e).startsWith("42S0") || state(e).equals("42P01");
    }

    /**
     * {@return the SQL state; empty if there is none}
     *
     * @param e what the database said
     */
    protected static String state(SQLException e) {
        return e.getSQLState() == null ? "" : e.getSQLState();
    }

    // ---- texts

    /**
     * {@return the value as a text that is equal to itself alone: neither case nor trailing blanks are passed over}
     *
     * @param value the value
     */
    public String text(String value) {
        requireNonNull(value, "value is null");
        return "CAST(" + value + " AS VARCHAR)";
    }

    /**
     * {@return the text with small letters for capitals, as {@link TextFunction#LOWER} has them in every language}
     *
     * @param text an SQL expression of a text
     */
    public String lower(String text) {
        requireNonNull(text, "text is null");
        return "translate(" + text + ", " + Sql.text(LetterCase.CAPITALS) + ", " + Sql.text(LetterCase.SMALL) + ")";
    }

    /**
     * {@return the text without any of the characters before and behind it}
     *
     * @param text an SQL expression of a text
     * @param characters the characters
     */
    public String trim(String text, String characters) {
        requireNonNull(text, "text is null");
        requireNonNull(characters, "characters is null");
        return "btrim(" + text + ", " + Sql.text(characters) + ")";
    }

    /**
     * {@return an expression that sorts by the text's code points}
     *
     * @param text an SQL expression of a text
     */
    public String byCodePoint(String text) {
        requireNonNull(text, "text is null");
        return text;
    }

    /**
     * {@return what sorts by the code points of a computed member, digits and signs}
     *
     * @param text its expression
     * @param alias its name among the columns that are selected
     */
    public String orderOfComputed(String text, String alias) {
        requireNonNull(alias, "alias is null");
        return byCodePoint(text);
    }

    /**
     * {@return the comparison of a text with a pattern, in which % matches any text, _ one character, and nothing else for
     * anything but itself}
     *
     * @param text an SQL expression of a text
     * @param pattern the pattern as it is, not quoted
     */
    public String like(String text, String pattern) {
        requireNonNull(text, "text is null");
        requireNonNull(pattern, "pattern is null");
        return text + " LIKE " + literal(pattern) + " ESCAPE ''";
    }

    /**
     * {@return a text as a literal}
     *
     * @param text an SQL expression of a text
     */
    protected static String literal(String text) {
        return Sql.text(text);
    }

    // ---- numbers

    /**
     * {@return the number of a column whose type is a whole number or a decimal, with room for sums and products}
     *
     * @param column the column, quoted
     * @param whole whether the numbers are whole
     */
    public String exact(String column, boolean whole) {
        requireNonNull(column, "column is null");
        return whole ? "CAST(" + column + " AS DECIMAL(19, 0))" : column;
    }

    /**
     * {@return the exact number in a type whose sums, differences and products have room for 38 digits}
     *
     * @param number the number
     */
    public String wide(String number) {
        requireNonNull(number, "number is null");
        return number;
    }

    /**
     * {@return the number as a double (IEEE 754)}
     *
     * @param number the number
     */
    public String floating(String number) {
        requireNonNull(number, "number is null");
        return "CAST(" + number + " AS DOUBLE PRECISION)";
    }

    /**
     * {@return the aggregate of doubles: their sum, if the database adds with compensation so that it does not depend on the order
     * of the rows, or else an array of them all}
     *
     * @param value the value
     */
    public String floatingSum(String value) {
        requireNonNull(value, "value is null");
        return "array_agg(" + value + ")";
    }

    /**
     * {@return the aggregate of the different values, an array}
     *
     * @param value the value
     * @param number whether the values are numbers, of which 2.5 and 2.50 are one
     */
    public String distinct(String value, boolean number) {
        requireNonNull(value, "value is null");
        return "array_agg(DISTINCT " + (number ? value : text(value)) + ")";
    }

    // ---- time

    /**
     * {@return the date of an epoch day}
     *
     * @param epochDay an SQL expression of an epoch day
     */
    public String date(String epochDay) {
        requireNonNull(epochDay, "epochDay is null");
        return "(DATE '1970-01-01' + " + epochDay + ")";
    }

    /**
     * {@return the epoch day of a date, null for none; {@link dev.mile.fact.Table#UNREADABLE} for one that no calendar has, such as infinity}
     *
     * @param date an SQL expression of a date
     */
    public abstract String epochDay(String date);

    /**
     * {@return the epoch day of a text with a date in ISO 8601, null for a blank one; {@link dev.mile.fact.Table#UNREADABLE} for any other text}
     *
     * @param text an SQL expression of a text
     */
    public abstract String epochDayOfText(String text);

    /**
     * {@return the timestamp with a time zone as the clocks of another zone show it}
     *
     * @param timestamp an SQL expression of a timestamp
     * @param zone the time zone
     */
    public abstract String inZone(String timestamp, ZoneId zone);

    /**
     * {@return the timestamp a number of seconds earlier}
     *
     * @param timestamp an SQL expression of a timestamp
     * @param seconds how many seconds
     */
    public abstract String minusSeconds(String timestamp, int seconds);

    /**
     * {@return the zone's distance from UTC, if that never changes; databases spell such zones differently from ISO 8601}
     *
     * @param zone the time zone
     */
    protected static Optional<ZoneOffset> offset(ZoneId zone) {
        return zone.normalized() instanceof ZoneOffset offset ? Optional.of(offset) : Optional.empty();
    }

    /**
     * {@return the first day of the bucket of days that an epoch day lies in, and other days as they are; days that stay apart are
     * put together while their totals are read}
     *
     * @param epochDay an SQL expression of an epoch day
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
     * {@return a table of whole numbers for a WITH clause: its name, its columns and its rows}
     *
     * @param name the name
     * @param columns the names of the columns
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

    /**
     * {@return the query so that it ends after the first rows}
     *
     * @param rows the rows
     * @param query the statement
     */
    public String limit(int rows, String query) {
        requireNonNull(query, "query is null");
        return query + " LIMIT " + rows;
    }
}
