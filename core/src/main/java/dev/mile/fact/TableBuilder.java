package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.ModelException;
import dev.mile.internal.Messages;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Collects the rows of a table whose number is not known before: each column takes one value a row.
 *
 * <pre>{@code
 * TableBuilder rows = new TableBuilder();
 * TableBuilder.Dates ordered = rows.date("ordered");
 * TableBuilder.Numbers net = rows.number("net", 2);
 * for (Sale sale : sales) {
 *     ordered.add(sale.ordered());
 *     net.add(sale.net());
 * }
 * Table table = Table.of(rows);
 * }</pre>
 *
 * <p>Values are kept in primitive arrays that grow. For rows that are objects, {@code Table.of(sales, c -> …)} is shorter. Not for use by several
 * threads.
 */
public final class TableBuilder {
    private static final int FIRST_ROWS = 1024;
    private static final int MOST_DIGITS = 18;

    private final Map<String, Column> columns = new LinkedHashMap<>();
    private int rows;
    private boolean taken;

    /** Begins a table without columns. */
    public TableBuilder() {
        // columns are added one by one
    }

    /** Collects the values of a column. */
    private abstract static class Column {
        final String name;
        int size;

        Column(String name) {
            this.name = requireNonNull(name, "name is null");
        }

        /** Returns how long an array should be that is full. */
        final int grown(int length) {
            if (length > Integer.MAX_VALUE - 8 - length / 2) {
                throw DataException.of(
                        "the column '%s' has more than %d rows; hand them over as files, or to a database", name, size);
            }
            return length + length / 2;
        }

        abstract ColumnValues values();
    }

    private <C extends Column> C put(C column) {
        if (columns.putIfAbsent(column.name, column) != null) {
            throw ModelException.of("the table has two columns '%s'; names must differ", column.name);
        }
        return column;
    }

    /**
     * {@return a new column of dates}
     *
     * @param name the name
     */
    public Dates date(String name) {
        return put(new Dates(name));
    }

    /**
     * {@return a new column of exact decimals, with as many digits after the decimal point as its values have}
     *
     * @param name the name
     */
    public Numbers number(String name) {
        return put(new Numbers(name, 0, false));
    }

    /**
     * {@return a new column of exact decimals that refuses more digits after the decimal point than it is said to have}
     *
     * @param name the name
     * @param scale the digits after the decimal point, from 0 to 18
     */
    public Numbers number(String name, int scale) {
        if (scale < 0 || scale > MOST_DIGITS) {
            throw ModelException.of("a column cannot have %d digits after the decimal point; expected 0 to 18", scale);
        }
        return put(new Numbers(name, scale, true));
    }

    /**
     * {@return a new column of binary floating numbers}
     *
     * @param name the name
     */
    public Doubles floating(String name) {
        return put(new Doubles(name));
    }

    /**
     * {@return a new column of texts}
     *
     * @param name the name
     */
    public Texts text(String name) {
        return put(new Texts(name));
    }

    /** Returns how many rows were collected. */
    int rows() {
        return rows;
    }

    /** Returns the values of the columns by name, and forgets them. */
    Map<String, ColumnValues> take() {
        if (taken) {
            throw ModelException.of("a table was made of these rows before; collect others with another builder");
        }
        rows = columns.isEmpty() ? 0 : columns.values().iterator().next().size;
        for (Column column : columns.values()) {
            if (column.size != rows) {
                throw ModelException.of(
                        "the column '%s' has %s, but '%s' has %d; add one to each column for each row, or a blank",
                        columns.keySet().iterator().next(), Messages.quantity(rows, "value"), column.name, column.size);
            }
        }
        taken = true;
        Map<String, ColumnValues> values = new LinkedHashMap<>();
        // a column goes when its values are there, so that memory holds one of them twice, not all
        for (String name : List.copyOf(columns.keySet())) {
            values.put(name, columns.remove(name).values());
        }
        return values;
    }

    /** Refuses an infinite number. */
    static void requireFinite(String column, double value, int row) {
        if (Double.isInfinite(value)) {
            throw DataException.of(
                    "the column '%s' holds %s in row %d; expected a finite number", column, value, row + 1);
        }
    }

    /** Collects dates. */
    public static final class Dates extends Column {
        private int[] days = new int[FIRST_ROWS];

        private Dates(String name) {
            super(name);
        }

        /**
         * Adds the date of the next row.
         *
         * @param date the date; null for a blank
         */
        public void add(@Nullable LocalDate date) {
            if (size == days.length) {
                days = Arrays.copyOf(days, grown(size));
            }
            days[size++] = date == null ? Table.NO_DATE : Math.toIntExact(date.toEpochDay());
        }

        @Override
        ColumnValues values() {
            return ColumnValues.Dates.of(Arrays.copyOf(days, size));
        }
    }

    /** Collects exact decimals of at most 18 digits. */
    public static final class Numbers extends Column {
        private final boolean scaleIsFixed;
        private int scale;
        private long[] unscaled = new long[FIRST_ROWS];
        private boolean @Nullable [] blank;

        private Numbers(String name, int scale, boolean scaleIsFixed) {
            super(name);
            this.scale = scale;
            this.scaleIsFixed = scaleIsFixed;
        }

        /**
         * Adds the number of the next row.
         *
         * @param value the number; null for a blank
         * @throws DataException if it has too many digits
         */
        public void add(@Nullable BigDecimal value) {
            if (value == null) {
                addBlank();
                return;
            }
            if (value.scale() > scale) {
                widen(value);
            }
            add(unscaled(value));
        }

        /**
         * Adds the whole number of the next row.
         *
         * @param value the number
         * @throws DataException if it has too many digits
         */
        public void addWhole(long value) {
            if (scale == 0 && value > Long.MIN_VALUE) {
                add(value);
            } else {
                add(unscaled(BigDecimal.valueOf(value)));
            }
        }

        /** Adds a blank for the next row. */
        public void addBlank() {
            blank = blank == null ? new boolean[unscaled.length] : blank;
            add(0);
            blank[size - 1] = true;
        }

        private void add(long value) {
            if (size == unscaled.length) {
                unscaled = Arrays.copyOf(unscaled, grown(size));
                blank = blank == null ? null : Arrays.copyOf(blank, unscaled.length);
            }
            unscaled[size++] = value;
        }

        private long unscaled(BigDecimal value) {
            try {
                return value.setScale(scale).unscaledValue().longValueExact();
            } catch (ArithmeticException e) {
                throw tooLong(value, size);
            }
        }

        /** Gives all values before as many digits after the decimal point as this one needs. */
        private void widen(BigDecimal value) {
            if (scaleIsFixed) {
                if (value.stripTrailingZeros().scale() <= scale) {
                    return;
                }
                throw DataException.of(
                        "the column '%s' holds %s in row %d; it has %s after the decimal point: round the value, or give it more",
                        name, value.toPlainString(), size + 1, Messages.quantity(scale, "digit"));
            }
            int wider = value.scale();
            for (int row = 0; row < size; row++) {
                BigDecimal before = BigDecimal.valueOf(unscaled[row], scale);
                try {
                    unscaled[row] = before.setScale(wider).unscaledValue().longValueExact();
                } catch (ArithmeticException e) {
                    scale = wider;
                    throw tooLong(before, row);
                }
            }
            scale = wider;
        }

        private DataException tooLong(BigDecimal value, int row) {
            return DataException.of(
                    "the column '%s' holds %s in row %d, which with %s after the decimal point has more than 18 in all; round the column",
                    name, value.toPlainString(), row + 1, Messages.quantity(scale, "digit"));
        }

        @Override
        ColumnValues values() {
            return new ColumnValues.Decimals(
                    WholeNumbers.of(Arrays.copyOf(unscaled, size)),
                    scale,
                    blank == null ? null : Arrays.copyOf(blank, size));
        }
    }

    /** Collects binary floating numbers. */
    public static final class Doubles extends Column {
        private double[] values = new double[FIRST_ROWS];

        private Doubles(String name) {
            super(name);
        }

        /**
         * Adds the number of the next row.
         *
         * @param value the number; NaN for a blank
         * @throws DataException if it is infinite
         */
        public void add(double value) {
            if (size == values.length) {
                values = Arrays.copyOf(values, grown(size));
            }
            requireFinite(name, value, size);
            values[size++] = value;
        }

        @Override
        ColumnValues values() {
            return new ColumnValues.Doubles(Arrays.copyOf(values, size));
        }
    }

    /** Collects texts, each kept once. */
    public static final class Texts extends Column {
        private final Map<String, Integer> known = new HashMap<>();
        private final List<String> dictionary = new ArrayList<>();
        private int[] codes = new int[FIRST_ROWS];

        private Texts(String name) {
            super(name);
        }

        /**
         * Adds the text of the next row.
         *
         * @param text the text; null or empty for a blank
         */
        public void add(@Nullable String text) {
            if (size == codes.length) {
                codes = Arrays.copyOf(codes, grown(size));
            }
            codes[size++] = text == null || text.isEmpty() ? -1 : code(text);
        }

        private int code(String text) {
            Integer code = known.get(text);
            if (code == null) {
                code = dictionary.size();
                known.put(text, code);
                dictionary.add(text);
            }
            return code;
        }

        @Override
        ColumnValues values() {
            return new ColumnValues.Texts(
                    WholeNumbers.of(Arrays.copyOf(codes, size)), dictionary.toArray(String[]::new));
        }
    }
}
