package dev.mile.report;

import dev.mile.fact.DayValues;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntPredicate;

/** Adds series up, day by day, to the series of all their rows together. */
final class DaySeriesSum {
    private final int first;
    private final long[] rows;
    private final long[] counts;
    private final Numbers[] texts;
    private Amounts sums;
    private Amounts smallest;
    private Amounts largest;
    private boolean anyTexts;

    /** How two amounts of a day become one. */
    private enum Taking {
        SUM,
        SMALLEST,
        LARGEST
    }

    DaySeriesSum(int first, int last) {
        this.first = first;
        int width = Math.max(last - first + 1, 0);
        this.rows = new long[width];
        this.counts = new long[width];
        this.texts = new Numbers[width];
    }

    /** Returns the series of the rows of all of them together. */
    static DaySeries of(List<DaySeries> parts) {
        if (parts.size() == 1) {
            return parts.get(0);
        }
        int first = Integer.MAX_VALUE;
        int last = Integer.MIN_VALUE;
        for (DaySeries part : parts) {
            if (part.size() > 0) {
                first = Math.min(first, part.day(0));
                last = Math.max(last, part.day(part.size() - 1));
            }
        }
        if (last < first) {
            return DaySeries.EMPTY;
        }
        DaySeriesSum sum = new DaySeriesSum(first, last);
        parts.forEach(part -> sum.add(part, null));
        return sum.series();
    }

    /** Adds the days that the predicate keeps, all for null. */
    void add(DaySeries part, IntPredicate keeps) {
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
        sums = added(sums, part.sums(), at, Taking.SUM);
        smallest = added(smallest, part.smallest(), at, Taking.SMALLEST);
        largest = added(largest, part.largest(), at, Taking.LARGEST);
        if (part.texts() != null) {
            anyTexts = true;
            for (int i = 0; i < size; i++) {
                if (at[i] >= 0) {
                    texts[at[i]] = texts[at[i]] == null ? new Numbers() : texts[at[i]];
                    texts[at[i]].add(part.texts()[i]);
                }
            }
        }
    }

    private Amounts added(Amounts so, DayValues values, int[] at, Taking how) {
        if (values == null) {
            return so;
        }
        Amounts amounts = so == null ? new Amounts(rows.length) : so;
        for (int i = 0; i < at.length; i++) {
            if (at[i] >= 0 && !values.blank(i)) {
                amounts.add(at[i], values, i, how);
            }
        }
        return amounts;
    }

    DaySeries series() {
        int n = 0;
        int[] places = new int[rows.length];
        for (int i = 0; i < rows.length; i++) {
            if (rows[i] > 0) {
                places[n++] = i;
            }
        }
        places = Arrays.copyOf(places, n);
        int[] days = new int[n];
        int[][] kept = anyTexts ? new int[n][] : null;
        for (int i = 0; i < n; i++) {
            days[i] = first + places[i];
            if (anyTexts) {
                kept[i] = texts[places[i]] == null ? new int[0] : texts[places[i]].different();
            }
        }
        return DaySeries.of(
                days,
                picked(rows, places),
                picked(counts, places),
                sums == null ? null : sums.values(places),
                smallest == null ? null : smallest.values(places),
                largest == null ? null : largest.values(places),
                kept);
    }

    private static DayValues picked(long[] values, int[] places) {
        return DayValues.counts(Arrays.stream(places).mapToLong(p -> values[p]).toArray());
    }

    /** Numbers of texts, as many as come. */
    private static final class Numbers {
        private int[] some = new int[0];
        private int size;

        void add(int[] more) {
            if (size + more.length > some.length) {
                some = Arrays.copyOf(some, Math.max(size + more.length, 2 * size));
            }
            System.arraycopy(more, 0, some, size, more.length);
            size += more.length;
        }

        /** Returns each once. */
        int[] different() {
            Arrays.sort(some, 0, size);
            int n = 0;
            for (int i = 0; i < size; i++) {
                if (n == 0 || some[i] != some[n - 1]) {
                    some[n++] = some[i];
                }
            }
            return Arrays.copyOf(some, n);
        }
    }

    /** One amount for each day: longs of one scale as long as they fit, else decimals or floating numbers. */
    private static final class Amounts {
        private final boolean[] some;
        private long[] unscaled;
        private int scale = -1;
        private Number[] numbers;

        Amounts(int width) {
            some = new boolean[width];
            unscaled = new long[width];
        }

        void add(int at, DayValues values, int place, Taking how) {
            if (numbers == null && values instanceof DayValues.Exact exact && (scale < 0 || scale == exact.scale())) {
                scale = exact.scale();
                if (add(at, exact.unscaled()[place], how)) {
                    return;
                }
            }
            widen();
            Number value = values.amount(place);
            numbers[at] = some[at] ? taken(numbers[at], value, how) : value;
            some[at] = true;
        }

        /** Adds in longs; tells false, and does nothing, where the sum is too large. */
        private boolean add(int at, long value, Taking how) {
            long so = unscaled[at];
            if (!some[at]) {
                unscaled[at] = value;
            } else if (how == Taking.SUM) {
                long sum = so + value;
                if (((so ^ sum) & (value ^ sum)) < 0) {
                    return false;
                }
                unscaled[at] = sum;
            } else {
                unscaled[at] = how == Taking.SMALLEST ? Math.min(so, value) : Math.max(so, value);
            }
            some[at] = true;
            return true;
        }

        private void widen() {
            if (numbers == null) {
                numbers = new Number[some.length];
                for (int i = 0; i < some.length; i++) {
                    numbers[i] = some[i] ? BigDecimal.valueOf(unscaled[i], scale) : null;
                }
                unscaled = null;
            }
        }

        private static Number taken(Number a, Number b, Taking how) {
            if (a instanceof BigDecimal x && b instanceof BigDecimal y) {
                return how == Taking.SUM ? x.add(y) : how == Taking.SMALLEST ? x.min(y) : x.max(y);
            }
            double x = a.doubleValue();
            double y = b.doubleValue();
            return how == Taking.SUM ? x + y : how == Taking.SMALLEST ? Math.min(x, y) : Math.max(x, y);
        }

        DayValues values(int[] places) {
            boolean floating = numbers != null && Arrays.stream(numbers).anyMatch(Double.class::isInstance);
            if (floating) {
                return new DayValues.Floating(Arrays.stream(places)
                        .mapToDouble(p -> some[p] ? numbers[p].doubleValue() : Double.NaN)
                        .toArray());
            }
            if (numbers != null) {
                return new DayValues.Large(
                        Arrays.stream(places).mapToObj(p -> numbers[p]).toArray(BigDecimal[]::new));
            }
            boolean all = Arrays.stream(places).allMatch(p -> some[p]);
            boolean[] blanks = all ? null : new boolean[places.length];
            long[] of = new long[places.length];
            for (int i = 0; i < of.length; i++) {
                of[i] = unscaled[places[i]];
                if (!some[places[i]]) {
                    blanks[i] = true;
                }
            }
            return new DayValues.Exact(of, Math.max(scale, 0), blanks);
        }
    }
}
