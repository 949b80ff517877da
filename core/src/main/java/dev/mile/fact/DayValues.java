package dev.mile.fact;

import java.io.Serializable;
import java.math.BigDecimal;
import java.util.Arrays;

/** The totals of one column of a group, one for each of its days, in primitive arrays wherever the numbers fit. */
public sealed interface DayValues extends Serializable {
    /** Tells whether there is no value on the day at the place. */
    boolean blank(int place);

    /** Returns the total at the place: a {@link BigDecimal}, or a {@link Double} for floating columns; null for a blank. */
    Number amount(int place);

    /** Compares two totals that are not blank. */
    int compare(int place, int other);

    /** Returns the first totals alone. */
    DayValues first(int size);

    /**
     * Exact decimals.
     *
     * @param unscaled the digits
     * @param scale how many of them stand behind the point
     * @param blanks the places without a value; null where every place has one
     */
    record Exact(long[] unscaled, int scale, boolean[] blanks) implements DayValues {
        @Override
        public boolean blank(int place) {
            return blanks != null && blanks[place];
        }

        @Override
        public Number amount(int place) {
            return blank(place) ? null : BigDecimal.valueOf(unscaled[place], scale);
        }

        @Override
        public int compare(int place, int other) {
            return Long.compare(unscaled[place], unscaled[other]);
        }

        @Override
        public DayValues first(int size) {
            return new Exact(Arrays.copyOf(unscaled, size), scale, blanks == null ? null : Arrays.copyOf(blanks, size));
        }
    }

    /**
     * Exact decimals of any size.
     *
     * @param values the totals, null for a blank
     */
    record Large(BigDecimal[] values) implements DayValues {
        @Override
        public boolean blank(int place) {
            return values[place] == null;
        }

        @Override
        public Number amount(int place) {
            return values[place];
        }

        @Override
        public int compare(int place, int other) {
            return values[place].compareTo(values[other]);
        }

        @Override
        public DayValues first(int size) {
            return new Large(Arrays.copyOf(values, size));
        }
    }

    /**
     * Binary floating numbers.
     *
     * @param values the totals, NaN for a blank
     */
    record Floating(double[] values) implements DayValues {
        @Override
        public boolean blank(int place) {
            return Double.isNaN(values[place]);
        }

        @Override
        public Number amount(int place) {
            return blank(place) ? null : Double.valueOf(values[place]);
        }

        @Override
        public int compare(int place, int other) {
            return Double.compare(values[place], values[other]);
        }

        @Override
        public DayValues first(int size) {
            return new Floating(Arrays.copyOf(values, size));
        }
    }

    /**
     * The values themselves, each once, for {@link Column.Kind#DISTINCT}.
     *
     * @param values by day; null where there is none
     */
    record Texts(String[][] values) implements DayValues {
        @Override
        public boolean blank(int place) {
            return values[place] == null;
        }

        @Override
        public Number amount(int place) {
            return null;
        }

        @Override
        public int compare(int place, int other) {
            return 0;
        }

        @Override
        public DayValues first(int size) {
            return new Texts(Arrays.copyOf(values, size));
        }
    }

    /** Returns whole numbers without blanks: counts. */
    static DayValues counts(long[] counts) {
        return new Exact(counts, 0, null);
    }

    /** Returns exact decimals, in primitive form if all fit into 18 digits at one scale. */
    static DayValues of(BigDecimal[] values) {
        int scale = 0;
        for (BigDecimal value : values) {
            scale = value == null ? scale : Math.max(scale, value.scale());
        }
        long[] unscaled = new long[values.length];
        boolean[] blanks = null;
        for (int i = 0; i < values.length; i++) {
            BigDecimal value = values[i];
            if (value == null) {
                blanks = blanks == null ? new boolean[values.length] : blanks;
                blanks[i] = true;
            } else if (value.precision() + scale - value.scale() > MOST_DIGITS) {
                return new Large(Arrays.copyOf(values, values.length));
            } else {
                unscaled[i] = value.setScale(scale).unscaledValue().longValue();
            }
        }
        return new Exact(unscaled, scale, blanks);
    }

    /** The decimal digits that any long can hold. */
    int MOST_DIGITS = 18;
}
