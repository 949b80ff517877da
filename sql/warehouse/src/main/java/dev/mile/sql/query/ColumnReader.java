package dev.mile.sql.query;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.NeumaierSum;
import dev.mile.engine.TotalColumn;
import java.math.BigDecimal;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Arrays;
import java.util.List;

/** Gathers one column of totals, day by day, for a group. */
public abstract class ColumnReader {
    private static final int ROOM = 64;

    final int at;

    ColumnReader(int at) {
        this.at = at;
    }

    /** Returns a reader of the column at the position, counted from one. */
    public static ColumnReader of(TotalColumn column, int at) {
        return switch (column.kind()) {
            case ROWS, COUNT -> new Counts(at);
            case DISTINCT -> new Texts(at);
            default -> new Amounts(at);
        };
    }

    /** Returns a reader of amounts that are given by their digits and the number of them after the decimal point. */
    public static ColumnReader digits(int at, int scale) {
        return new Digits(at, scale);
    }

    /** Returns a reader of texts that are given as numbers in a list, from 0, with commas between them. */
    public static ColumnReader numbered(int at, List<String> texts) {
        return new Numbered(at, texts);
    }

    /** Reads the value of a row as that of the day at the place. */
    abstract void read(ResultSet row, int place) throws SQLException;

    /** Returns the values of the first days, and forgets them. */
    abstract DailyTotals take(int size);

    private static final class Counts extends ColumnReader {
        private long[] counts = new long[ROOM];

        Counts(int at) {
            super(at);
        }

        @Override
        void read(ResultSet row, int place) throws SQLException {
            if (place == counts.length) {
                counts = Arrays.copyOf(counts, place * 2);
            }
            counts[place] = row.getLong(at);
        }

        @Override
        DailyTotals take(int size) {
            return DailyTotals.counts(Arrays.copyOf(counts, size));
        }
    }

    private static final class Digits extends ColumnReader {
        private final int scale;
        private long[] digits = new long[ROOM];
        private boolean[] blanks = new boolean[ROOM];
        private boolean anyBlank;

        Digits(int at, int scale) {
            super(at);
            this.scale = scale;
        }

        @Override
        void read(ResultSet row, int place) throws SQLException {
            if (place == digits.length) {
                digits = Arrays.copyOf(digits, place * 2);
                blanks = Arrays.copyOf(blanks, place * 2);
            }
            digits[place] = row.getLong(at);
            blanks[place] = digits[place] == 0 && row.wasNull();
            anyBlank |= blanks[place];
        }

        @Override
        DailyTotals take(int size) {
            DailyTotals values = new DailyTotals.Longs(
                    Arrays.copyOf(digits, size), scale, anyBlank ? Arrays.copyOf(blanks, size) : null);
            anyBlank = false;
            return values;
        }
    }

    private static final class Texts extends ColumnReader {
        private String[][] texts = new String[ROOM][];

        Texts(int at) {
            super(at);
        }

        @Override
        void read(ResultSet row, int place) throws SQLException {
            if (place == texts.length) {
                texts = Arrays.copyOf(texts, place * 2);
            }
            Array array = row.getArray(at);
            texts[place] = array == null
                    ? null
                    : Arrays.stream((Object[]) array.getArray())
                            .filter(v -> v != null)
                            // equal numbers may have zeros at their ends
                            .map(v -> v instanceof BigDecimal number
                                    ? number.stripTrailingZeros().toPlainString()
                                    : v.toString())
                            .toArray(String[]::new);
        }

        @Override
        DailyTotals take(int size) {
            return new DailyTotals.StringSets(Arrays.copyOf(texts, size));
        }
    }

    private static final class Numbered extends ColumnReader {
        private final List<String> texts;
        private int[][] numbers = new int[ROOM][];

        Numbered(int at, List<String> texts) {
            super(at);
            this.texts = texts;
        }

        @Override
        void read(ResultSet row, int place) throws SQLException {
            if (place == numbers.length) {
                numbers = Arrays.copyOf(numbers, place * 2);
            }
            String list = row.getString(at);
            numbers[place] = list == null ? null : numbers(list);
        }

        private static int[] numbers(String list) {
            int[] numbers = new int[1 + (int) list.chars().filter(c -> c == ',').count()];
            int n = 0;
            for (int i = 0; i < list.length(); i++) {
                char c = list.charAt(i);
                if (c == ',') {
                    n++;
                } else {
                    numbers[n] = numbers[n] * 10 + c - '0';
                }
            }
            return numbers;
        }

        @Override
        DailyTotals take(int size) {
            return new DailyTotals.NumberedStrings(Arrays.copyOf(numbers, size), texts);
        }
    }

    /** Decimals, or floating numbers where the first value is one. */
    private static final class Amounts extends ColumnReader {
        private BigDecimal[] decimals = new BigDecimal[ROOM];
        private double[] floating = new double[ROOM];
        private boolean anyFloating;

        Amounts(int at) {
            super(at);
        }

        @Override
        void read(ResultSet row, int place) throws SQLException {
            if (place == decimals.length) {
                decimals = Arrays.copyOf(decimals, place * 2);
                floating = Arrays.copyOf(floating, place * 2);
            }
            decimals[place] = null;
            floating[place] = Double.NaN;
            Object value = row.getObject(at);
            if (value == null) {
                return;
            }
            if (value instanceof Array some) {
                Double sum = compensated((Object[]) some.getArray());
                value = sum == null ? Double.NaN : sum;
            } else if (value instanceof Number number && !Double.isFinite(number.doubleValue())) {
                // PostgreSQL holds such values, in decimals too
                throw ColumnReader.notFinite();
            }
            if (value instanceof Double || value instanceof Float) {
                floating[place] = ((Number) value).doubleValue();
                anyFloating = true;
            } else {
                decimals[place] = value instanceof BigDecimal exact ? exact : new BigDecimal(value.toString());
            }
        }

        /** Adds floating numbers as the core does, with compensation, so that the sum does not depend on their order. */
        private static Double compensated(Object[] values) {
            double sum = 0;
            double roundingError = 0;
            boolean any = false;
            for (Object value : values) {
                if (value != null) {
                    double x = ((Number) value).doubleValue();
                    if (!Double.isFinite(x)) {
                        throw ColumnReader.notFinite();
                    }
                    roundingError += NeumaierSum.roundingError(sum, x);
                    sum += x;
                    any = true;
                }
            }
            return any ? Double.valueOf(sum + roundingError) : null;
        }

        @Override
        DailyTotals take(int size) {
            DailyTotals values = anyFloating
                    ? new DailyTotals.Doubles(Arrays.copyOf(floating, size))
                    : DailyTotals.of(Arrays.copyOf(decimals, size));
            anyFloating = false;
            return values;
        }
    }

    static MileException notFinite() {
        return DataException.of("a column holds an infinite number or NaN; correct the data");
    }
}
