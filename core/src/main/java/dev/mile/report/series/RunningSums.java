package dev.mile.report.series;

import dev.mile.engine.DailyTotals;
import dev.mile.engine.NeumaierSum;
import dev.mile.internal.Overflow;
import dev.mile.measure.Value;
import java.math.BigDecimal;

/** Counts and sums up to each index, so that the sum of any range is one subtraction. */
sealed interface RunningSums {
    /** Returns the sum from an index up to before another; {@link Value#NOTHING} where nothing was counted. */
    Value between(int from, int to);

    /** @param counts how many values there are before each index, and all of them at the end */
    static RunningSums of(long[] counts, DailyTotals values, int size) {
        if (values instanceof DailyTotals.Doubles floating) {
            return new Doubles(counts, floating.values());
        }
        if (values instanceof DailyTotals.Longs exact) {
            Longs whole = whole(counts, exact, size);
            if (whole != null) {
                return whole;
            }
        }
        BigDecimal[] sums = new BigDecimal[size + 1];
        sums[0] = BigDecimal.ZERO;
        for (int i = 0; i < size; i++) {
            sums[i + 1] = values.isBlank(i) ? sums[i] : sums[i].add((BigDecimal) values.amount(i));
        }
        return new Decimals(counts, sums);
    }

    /** Returns the sums in longs; null where one is too large. */
    private static Longs whole(long[] counts, DailyTotals.Longs exact, int size) {
        long[] both = new long[2 * size + 2];
        long sum = 0;
        for (int i = 0; i < size; i++) {
            long one = exact.isBlank(i) ? 0 : exact.unscaled()[i];
            long before = sum;
            sum += one;
            if (Overflow.ofSum(before, one, sum)) {
                return null;
            }
            both[2 * i + 2] = counts[i + 1];
            both[2 * i + 3] = sum;
        }
        return new Longs(both, exact.scale());
    }

    /**
     * Exact decimals of one scale.
     *
     * @param both the count before each index, and behind it the sum: what is read together lies together
     */
    record Longs(long[] both, int scale) implements RunningSums {
        @Override
        public Value between(int from, int to) {
            if (both[2 * to] == both[2 * from]) {
                return Value.NOTHING;
            }
            // two sums of different signs may lie further apart than a long reaches
            long a = both[2 * to + 1];
            long b = both[2 * from + 1];
            long difference = a - b;
            return Overflow.ofDifference(a, b, difference)
                    ? Value.of(BigDecimal.valueOf(a, scale).subtract(BigDecimal.valueOf(b, scale)))
                    : Value.of(difference, scale);
        }
    }

    /** Exact decimals of any size. */
    record Decimals(long[] counts, BigDecimal[] sums) implements RunningSums {
        @Override
        public Value between(int from, int to) {
            return counts[to] == counts[from] ? Value.NOTHING : Value.of(sums[to].subtract(sums[from]));
        }
    }

    /** Floating numbers: added again for each range, with compensation, since differences of sums would lose digits. */
    record Doubles(long[] counts, double[] values) implements RunningSums {
        @Override
        public Value between(int from, int to) {
            if (counts[to] == counts[from]) {
                return Value.NOTHING;
            }
            double sum = 0;
            double roundingError = 0;
            for (int i = from; i < to; i++) {
                double value = Double.isNaN(values[i]) ? 0 : values[i];
                roundingError += NeumaierSum.roundingError(sum, value);
                sum += value;
            }
            return Value.of(sum + roundingError);
        }
    }
}
