package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.internal.Messages;
import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import java.util.stream.Stream;

/**
 * Rows in memory, column by column: what a Java program hands to the engine in memory. Days, codes of texts and exact decimals take as few
 * bytes as their range needs, usually 1 to 4 each, so arrays that were handed over need not be kept.
 *
 * <p>Columns are added once, all with the same number of rows. Not for use by several threads while columns are added.
 */
public final class Table {
    /** Stands for no date in a column of dates. */
    public static final int NO_DATE = Integer.MIN_VALUE;

    /** Stands for a date that could not be read in a column of dates. */
    public static final int UNREADABLE = Integer.MIN_VALUE + 1;

    private final int rows;
    private final Map<String, ColumnValues> columns = new LinkedHashMap<>();

    private Table(int rows) {
        this.rows = rows;
    }

    /**
     * {@return a table with a number of rows and no columns yet}
     *
     * @param rows the rows
     */
    public static Table ofRows(int rows) {
        return new Table(rows);
    }

    /**
     * {@return a table with a row for each object, read in one pass}
     *
     * <pre>{@code
     * Table table = Table.of(sales, c -> c.date("ordered", Sale::ordered).number("net", Sale::net).text("shop", Sale::shop));
     * }</pre>
     *
     * @param rows the objects
     * @param columns adds the columns
     * @param <R> the class of the objects
     * @throws MileException if two columns have one name, or a number has too many digits
     */
    public static <R> Table of(Iterable<? extends R> rows, Consumer<RowColumns<R>> columns) {
        requireNonNull(rows, "rows is null");
        requireNonNull(columns, "columns is null");
        RowColumns<R> all = new RowColumns<>();
        columns.accept(all);
        return of(all.read(rows));
    }

    /**
     * {@return a table with a row for each object of a stream, as {@link #of(Iterable, Consumer)} does}
     *
     * @param rows the objects; the stream is read, and not closed
     * @param columns adds the columns
     * @param <R> the class of the objects
     * @throws MileException if two columns have one name, or a number has too many digits
     */
    public static <R> Table of(Stream<? extends R> rows, Consumer<RowColumns<R>> columns) {
        requireNonNull(rows, "rows is null");
        Iterable<R> each = rows.map(row -> (R) row)::iterator;
        return of(each, columns);
    }

    /**
     * {@return a table of what a database answered, read to its end in one pass; moments have their day in UTC}
     *
     * @param rows the answer, before the first row that is wanted; stays open
     * @throws SQLException if the database fails
     * @throws MileException if a column is of a type that is none of numbers, dates and texts, or a number has too many digits
     */
    public static Table from(ResultSet rows) throws SQLException {
        return from(rows, ZoneOffset.UTC);
    }

    /**
     * {@return a table of what a database answered, read to its end in one pass} Columns are named by their labels. Whole numbers and
     * decimals stay exact; dates and timestamps become days; texts, booleans and whatever else has a text become texts.
     *
     * @param rows the answer, before the first row that is wanted; stays open
     * @param zone the zone in which moments (timestamps with a time zone) have their day
     * @throws SQLException if the database fails
     * @throws MileException if a column is of a type that is none of numbers, dates and texts, or a number has too many digits
     */
    public static Table from(ResultSet rows, ZoneId zone) throws SQLException {
        requireNonNull(rows, "rows is null");
        requireNonNull(zone, "zone is null");
        return of(ResultSetRows.read(rows, zone));
    }

    /**
     * {@return a table of the rows that were collected}
     *
     * @param collected the rows; nothing is added to them afterwards
     * @throws MileException if their columns have different numbers of values, or a table was made of them before
     */
    public static Table of(TableBuilder collected) {
        requireNonNull(collected, "collected is null");
        Map<String, ColumnValues> columns = collected.take();
        Table table = new Table(collected.rows());
        table.columns.putAll(columns);
        return table;
    }

    /** {@return the number of rows} */
    public int rows() {
        return rows;
    }

    private Table put(String name, int length, ColumnValues values) {
        if (length != rows) {
            throw ModelException.of("the column '%s' has %d values; the table has %d rows", name, length, rows);
        }
        if (columns.put(requireNonNull(name, "name is null"), values) != null) {
            throw ModelException.of("the table has two columns '%s'; names must differ", name);
        }
        return this;
    }

    /**
     * Adds a column of texts; a null and an empty text are blank.
     *
     * @param name the name
     * @param values a value for each row
     * @return this table
     */
    public Table text(String name, List<String> values) {
        requireNonNull(name, "name is null");
        requireNonNull(values, "values is null");
        Map<String, Integer> known = new HashMap<>();
        List<String> dictionary = new ArrayList<>();
        int[] codes = new int[values.size()];
        for (int i = 0; i < codes.length; i++) {
            String value = values.get(i);
            if (value == null || value.isEmpty()) {
                codes[i] = -1;
                continue;
            }
            Integer code = known.putIfAbsent(value, dictionary.size());
            if (code == null) {
                codes[i] = dictionary.size();
                dictionary.add(value);
            } else {
                codes[i] = code;
            }
        }
        return put(
                name, codes.length, new ColumnValues.Texts(WholeNumbers.of(codes), dictionary.toArray(String[]::new)));
    }

    /**
     * Adds a column of texts that are coded already. -1 is a blank.
     *
     * @param name the name
     * @param codes for each row an index into the dictionary; -1 for a blank
     * @param dictionary the texts, each once
     * @return this table
     * @throws MileException if the dictionary has a text twice, or an empty one, or not the text of a code
     */
    public Table coded(String name, int[] codes, String[] dictionary) {
        requireNonNull(name, "name is null");
        requireNonNull(codes, "codes is null");
        requireNonNull(dictionary, "dictionary is null");
        Set<String> known = new HashSet<>();
        for (String text : dictionary) {
            if (text == null || text.isEmpty() || !known.add(text)) {
                throw ModelException.of(
                        "the dictionary of the column '%s' holds %s; each text may occur once, and a blank is the code -1",
                        name, text == null || text.isEmpty() ? "an empty text" : "'" + text + "' twice");
            }
        }
        WholeNumbers all = WholeNumbers.of(codes);
        if (all.smallest() < -1 || all.largest() >= dictionary.length && codes.length > 0) {
            throw wrongCode(name, codes, dictionary.length);
        }
        return put(name, codes.length, new ColumnValues.Texts(all, dictionary.clone()));
    }

    private static ModelException wrongCode(String name, int[] codes, int texts) {
        int row = 0;
        while (codes[row] >= -1 && codes[row] < texts) {
            row++;
        }
        return ModelException.of(
                "the column '%s' has the code %d in row %d; its dictionary has %s, numbered from 0, and -1 is a blank",
                name, codes[row], row + 1, Messages.quantity(texts, "text"));
    }

    /**
     * Adds a column of exact decimals; a null is blank.
     *
     * @param name the name
     * @param values a value for each row
     * @return this table
     */
    public Table number(String name, List<BigDecimal> values) {
        requireNonNull(name, "name is null");
        requireNonNull(values, "values is null");
        int scale = 0;
        for (BigDecimal value : values) {
            scale = value == null ? scale : Math.max(scale, value.scale());
        }
        long[] unscaled = new long[values.size()];
        boolean[] blank = null;
        for (int i = 0; i < unscaled.length; i++) {
            BigDecimal value = values.get(i);
            if (value == null) {
                blank = blank == null ? new boolean[unscaled.length] : blank;
                blank[i] = true;
            } else {
                unscaled[i] = unscaled(name, value, scale);
            }
        }
        return put(name, unscaled.length, new ColumnValues.Decimals(WholeNumbers.of(unscaled), scale, blank));
    }

    private static long unscaled(String name, BigDecimal value, int scale) {
        try {
            return value.setScale(scale).unscaledValue().longValueExact();
        } catch (ArithmeticException e) {
            throw DataException.of(
                    "the column '%s' holds %s, which with %d decimals has more than 18 digits; round the column",
                    name, value.toPlainString(), scale);
        }
    }

    /**
     * Adds a column of exact decimals given by their unscaled values.
     *
     * @param name the name
     * @param unscaled the unscaled value of each row
     * @param scale the number of digits after the decimal point
     * @return this table
     */
    public Table number(String name, long[] unscaled, int scale) {
        requireNonNull(name, "name is null");
        requireNonNull(unscaled, "unscaled is null");
        return put(name, unscaled.length, new ColumnValues.Decimals(WholeNumbers.of(unscaled), scale, null));
    }

    /**
     * Adds a column of binary floating numbers; NaN is a blank.
     *
     * @param name the name
     * @param values a value for each row
     * @return this table
     * @throws MileException if a value is infinite
     */
    public Table floating(String name, double[] values) {
        requireNonNull(name, "name is null");
        requireNonNull(values, "values is null");
        for (int row = 0; row < values.length; row++) {
            TableBuilder.requireFinite(name, values[row], row);
        }
        return put(name, values.length, new ColumnValues.Doubles(values));
    }

    /**
     * Adds a column of dates; a null is blank.
     *
     * @param name the name
     * @param values a value for each row
     * @return this table
     */
    public Table date(String name, List<LocalDate> values) {
        requireNonNull(name, "name is null");
        requireNonNull(values, "values is null");
        int[] days = new int[values.size()];
        for (int i = 0; i < days.length; i++) {
            LocalDate value = values.get(i);
            days[i] = value == null ? NO_DATE : Math.toIntExact(value.toEpochDay());
        }
        return days(name, days);
    }

    /**
     * Adds a column of epoch days, {@link #NO_DATE} for a blank.
     *
     * @param name the name
     * @param days the epoch day of each row
     * @return this table
     */
    public Table days(String name, int[] days) {
        requireNonNull(name, "name is null");
        requireNonNull(days, "days is null");
        return put(name, days.length, ColumnValues.Dates.of(days));
    }

    /**
     * Adds a column that holds nothing but blanks, so that its type is unknown.
     *
     * @param name the name
     * @return this table
     */
    public Table blank(String name) {
        requireNonNull(name, "name is null");
        return put(name, rows, new ColumnValues.Blanks());
    }

    /** {@return the types of the columns, in order} */
    public Map<String, ValueType> types() {
        Map<String, ValueType> types = new LinkedHashMap<>();
        columns.forEach((name, values) -> types.put(name, type(values)));
        return types;
    }

    private static ValueType type(ColumnValues values) {
        if (values instanceof ColumnValues.Texts) {
            return ValueType.TEXT;
        }
        if (values instanceof ColumnValues.Decimals) {
            return ValueType.NUMBER;
        }
        if (values instanceof ColumnValues.Doubles) {
            return ValueType.FLOATING;
        }
        return values instanceof ColumnValues.Dates ? ValueType.DATE : ValueType.BLANK_ONLY;
    }

    /**
     * {@return the values of a column}
     *
     * @param column the column
     * @throws dev.mile.MileException if the table has no such column
     */
    public ColumnValues values(String column) {
        requireNonNull(column, "column is null");
        ColumnValues values = columns.get(column);
        if (values == null) {
            throw ModelException.unknownName("column", column, columns.keySet());
        }
        return values;
    }

    /**
     * {@return the value of a row as a text, dates in ISO 8601; null for a blank}
     *
     * @param column the column
     * @param row the row, from 0
     */
    public String textAt(String column, int row) {
        requireNonNull(column, "column is null");
        ColumnValues values = values(column);
        if (values instanceof ColumnValues.Texts t) {
            return t.text(row);
        }
        if (values instanceof ColumnValues.Decimals n) {
            return n.isBlank(row)
                    ? null
                    : BigDecimal.valueOf(n.unscaled().get(row), n.scale()).toPlainString();
        }
        if (values instanceof ColumnValues.Doubles f) {
            return Double.isNaN(f.values()[row]) ? null : Double.toString(f.values()[row]);
        }
        if (values instanceof ColumnValues.Blanks) {
            return null;
        }
        int day = ((ColumnValues.Dates) values).day(row);
        return day == NO_DATE || day == UNREADABLE
                ? null
                : LocalDate.ofEpochDay(day).toString();
    }

    /**
     * {@return the column as coded texts}
     *
     * @param column the column
     */
    public ColumnValues.Texts coded(String column) {
        requireNonNull(column, "column is null");
        ColumnValues values = values(column);
        if (values instanceof ColumnValues.Texts t) {
            return t;
        }
        List<String> texts = new ArrayList<>(rows);
        for (int row = 0; row < rows; row++) {
            texts.add(textAt(column, row));
        }
        return (ColumnValues.Texts) Table.ofRows(rows).text(column, texts).values(column);
    }
}
