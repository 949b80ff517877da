package dev.mile.report.series;

import dev.mile.engine.DailyTotals;
import dev.mile.internal.Overflow;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntPredicate;

/** Adds series up, day by day, to the series of all their rows together. */
public final class DailySeriesBuilder {
    private final int first;
    private final long[] rows;
    private final long[] counts;
    private final IntBag[] texts;
    private AmountColumn sums;
    private AmountColumn smallest;
    private AmountColumn largest;
    private boolean anyTexts;

    /** How two amounts of a day become one. */
    private enum Combiner {
        SUM,
        SMALLEST,
        LARGEST
    }

    DailySeriesBuilder(int first, int last) {
        this.first = first;
        int width = Math.max(last - first + 1, 0);
        this.rows = new long[width];
        this.counts = new long[width];
        this.texts = new IntBag[width];
    }

    /** Returns the series of the rows of all of them together. */
    public static DailySeries of(List<DailySeries> parts) {
        if (parts.size() == 1) {
            return parts.get(0);
        }
        int first = Integer.MAX_VALUE;
        int last = Integer.MIN_VALUE;
        for (DailySeries part : parts) {
            if (part.size() > 0) {
                first = Math.min(first, part.day(0));
                last = Math.max(last, part.day(part.size() - 1));
            }
        }
        if (last < first) {
            return DailySeries.EMPTY;
        }
        DailySeriesBuilder sum = new DailySeriesBuilder(first, last);
        parts.forEach(part -> sum.add(part, null));
        return sum.series();
    }

    /** Returns the series of the days that the predicate keeps. */
    public static DailySeries filtered(DailySeries all, IntPredicate kept) {
        int size = all.size();
        DailySeriesBuilder sum =
                size == 0 ? new DailySeriesBuilder(0, -1) : new DailySeriesBuilder(all.day(0), all.day(size - 1));
        sum.add(all, kept);
        return sum.series();
    }

    /** Adds the days that the predicate keeps, all for null. */
    void add(DailySeries part, IntPredicate keeps) {
        int size = part.size();
        int[] at = new int[size];
        for (int i = 0; i < size; i++) {
            int day = part.day(i);
            at[i] = keeps == null || keeps.test(day) ? day - first : -1;
            if (at[i] >= 0) {
                rows[at[i]] += part.rowsAt(i);
                counts[at[i]] += part.countAt(i);
            }
        }
        sums = added(sums, part.sums(), at, Combiner.SUM);
        smallest = added(smallest, part.smallest(), at, Combiner.SMALLEST);
        largest = added(largest, part.largest(), at, Combiner.LARGEST);
        if (part.texts() != null) {
            anyTexts = true;
            for (int i = 0; i < size; i++) {
                if (at[i] >= 0) {
                    texts[at[i]] = texts[at[i]] == null ? new IntBag() : texts[at[i]];
                    texts[at[i]].add(part.texts()[i]);
                }
            }
        }
    }

    private AmountColumn added(AmountColumn running, DailyTotals values, int[] at, Combiner how) {
        if (values == null) {
            return running;
        }
        AmountColumn amounts = running == null ? new AmountColumn(rows.length) : running;
        for (int i = 0; i < at.length; i++) {
            if (at[i] >= 0 && !values.isBlank(i)) {
                amounts.add(at[i], values, i, how);
            }
        }
        return amounts;
    }

    DailySeries series() {
        int n = 0;
        int[] indexes = new int[rows.length];
        for (int i = 0; i < rows.length; i++) {
            if (rows[i] > 0) {
                indexes[n++] = i;
            }
        }
        indexes = Arrays.copyOf(indexes, n);
        int[] days = new int[n];
        int[][] kept = anyTexts ? new int[n][] : null;
        for (int i = 0; i < n; i++) {
            days[i] = first + indexes[i];
            if (anyTexts) {
                kept[i] = texts[indexes[i]] == null ? new int[0] : texts[indexes[i]].different();
            }
        }
        return DailySeries.of(
                days,
                picked(rows, indexes),
                picked(counts, indexes),
                sums == null ? null : sums.values(indexes),
                smallest == null ? null : smallest.values(indexes),
                largest == null ? null : largest.values(indexes),
                kept);
    }

    private static DailyTotals picked(long[] values, int[] indexes) {
        return DailyTotals.counts(
                Arrays.stream(indexes).mapToLong(p -> values[p]).toArray());
    }

    /** Numbers of texts, as many as come. */
    private static final class IntBag {
        private int[] present = new int[0];
        private int size;

        void add(int[] more) {
            if (size + more.length > present.length) {
                present = Arrays.copyOf(present, Math.max(size + more.length, 2 * size));
            }
            System.arraycopy(more, 0, present, size, more.length);
            size += more.length;
        }

        /** Returns each once. */
        int[] different() {
            Arrays.sort(present, 0, size);
            int n = 0;
            for (int i = 0; i < size; i++) {
                if (n == 0 || present[i] != present[n - 1]) {
                    present[n++] = present[i];
                }
            }
            return Arrays.copyOf(present, n);
        }
    }

    /** One amount for each day: longs of one scale as long as they fit, else decimals or floating numbers. */
    private static final class AmountColumn {
        private final boolean[] present;
        private long[] unscaled;
        private int scale = -1;
        private Number[] numbers;

        AmountColumn(int width) {
            present = new boolean[width];
            unscaled = new long[width];
        }

        void add(int at, DailyTotals values, int index, Combiner how) {
            if (numbers == null && values instanceof DailyTotals.Longs exact && (scale < 0 || scale == exact.scale())) {
                scale = exact.scale();
                if (add(at, exact.unscaled()[index], how)) {
                    return;
                }
            }
            widen();
            Number value = values.amount(index);
            numbers[at] = present[at] ? taken(numbers[at], value, how) : value;
            present[at] = true;
        }

        /** Adds in longs; returns false, and does nothing, if the sum is too large. */
        private boolean add(int at, long value, Combiner how) {
            long running = unscaled[at];
            if (!present[at]) {
                unscaled[at] = value;
            } else if (how == Combiner.SUM) {
                long sum = running + value;
                if (Overflow.ofSum(running, value, sum)) {
                    return false;
                }
                unscaled[at] = sum;
            } else {
                unscaled[at] = how == Combiner.SMALLEST ? Math.min(running, value) : Math.max(running, value);
            }
            present[at] = true;
            return true;
        }

        private void widen() {
            if (numbers == null) {
                numbers = new Number[present.length];
                for (int i = 0; i < present.length; i++) {
                    numbers[i] = present[i] ? BigDecimal.valueOf(unscaled[i], scale) : null;
                }
                unscaled = null;
            }
        }

        private static Number taken(Number a, Number b, Combiner how) {
            if (a instanceof BigDecimal x && b instanceof BigDecimal y) {
                return how == Combiner.SUM ? x.add(y) : how == Combiner.SMALLEST ? x.min(y) : x.max(y);
            }
            double x = a.doubleValue();
            double y = b.doubleValue();
            return how == Combiner.SUM ? x + y : how == Combiner.SMALLEST ? Math.min(x, y) : Math.max(x, y);
        }

        DailyTotals values(int[] indexes) {
            boolean floating = numbers != null && Arrays.stream(numbers).anyMatch(Double.class::isInstance);
            if (floating) {
                return new DailyTotals.Doubles(Arrays.stream(indexes)
                        .mapToDouble(p -> present[p] ? numbers[p].doubleValue() : Double.NaN)
                        .toArray());
            }
            if (numbers != null) {
                return new DailyTotals.Decimals(
                        Arrays.stream(indexes).mapToObj(p -> numbers[p]).toArray(BigDecimal[]::new));
            }
            boolean all = Arrays.stream(indexes).allMatch(p -> present[p]);
            boolean[] blanks = all ? null : new boolean[indexes.length];
            long[] picked = new long[indexes.length];
            for (int i = 0; i < picked.length; i++) {
                picked[i] = unscaled[indexes[i]];
                if (!present[indexes[i]]) {
                    blanks[i] = true;
                }
            }
            return new DailyTotals.Longs(picked, Math.max(scale, 0), blanks);
        }
    }
}
