package dev.mile.report.series;

import dev.mile.engine.DailyTotals;
import dev.mile.engine.NeumaierSum;
import dev.mile.internal.Overflow;
import dev.mile.measure.Value;
import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;

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
    private static @Nullable Longs whole(long[] counts, DailyTotals.Longs exact, int size) {
        long[] sums = new long[size + 1];
        boolean eachHasOne = true;
        for (int i = 0; i < size; i++) {
            long one = exact.isBlank(i) ? 0 : exact.unscaled()[i];
            long sum = sums[i] + one;
            if (Overflow.ofSum(sums[i], one, sum)) {
                return null;
            }
            sums[i + 1] = sum;
            eachHasOne &= counts[i + 1] > counts[i];
        }
        return new Longs(eachHasOne ? null : counts, sums, exact.scale());
    }

    /**
     * Exact decimals of one scale.
     *
     * @param counts null where there is a value at each index, as in most series: what is not read need not be in the processor's cache
     */
    record Longs(long @Nullable [] counts, long[] sums, int scale) implements RunningSums {
        @Override
        public Value between(int from, int to) {
            if (counts == null ? to == from : counts[to] == counts[from]) {
                return Value.NOTHING;
            }
            // two sums of different signs may lie further apart than a long reaches
            long a = sums[to];
            long b = sums[from];
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
