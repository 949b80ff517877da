package dev.mile.engine.rows;

import dev.mile.ModelException;
import dev.mile.engine.Comparisons;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.DayContext;
import dev.mile.engine.NeumaierSum;
import dev.mile.engine.RowExpressionReader;
import dev.mile.engine.RowPredicate;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TruthValue;
import dev.mile.fact.ColumnValues;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.WholeNumbers;
import dev.mile.internal.CountedSums;
import dev.mile.internal.Overflow;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** Adds up one column of a request by slot. What lies in {@link GroupDayIndex#NONE} is never asked for. */
abstract class ColumnAccumulator {
    private final @Nullable RowPredicate where;

    ColumnAccumulator(@Nullable RowPredicate where) {
        this.where = where;
    }

    static ColumnAccumulator of(TotalColumn column, JoinedRows rows, RowDays places, DayContext days) {
        RowPredicate where = column.where().map(c -> rows.test(c, places, days)).orElse(null);
        if (column.kind() == TotalColumn.Kind.ROWS) {
            return new Counts(where, null);
        }
        RowExpression expression = column.value().orElseThrow();
        if (column.kind() == TotalColumn.Kind.COUNT) {
            return new Counts(where, rows.blank(expression, places, days));
        }
        if (column.kind() == TotalColumn.Kind.DISTINCT) {
            if (!(expression instanceof RowExpression.Value v && v.operand() instanceof Operand.Field field)) {
                throw ModelException.of("distinct counts the values of a column, not of `%s`", expression);
            }
            return new Distinct(where, rows.coded(field, days), places);
        }
        RowExpressionReader number = RowExpressionReader.of(expression, rows, days);
        if (places.weights() != null) {
            return new Spread(where, column.kind(), number, places);
        }
        if (number.scale() == RowExpressionReader.FLOATING) {
            return new Floating(where, column.kind(), number, places);
        }
        WholeNumbers numbers = number.columnOrNull();
        return column.kind() == TotalColumn.Kind.SUM
                        && places.rows() == null
                        && numbers != null
                        && Sums.fitInLongs(numbers)
                ? new Sums(where, rows.blank(expression, places, days), numbers, number.scale())
                : new Exact(where, column.kind(), number, places);
    }

    /** Returns whether all places that have a slot count: {@link #count} then tells how many. */
    boolean countsAll() {
        return false;
    }

    /** Returns how many places of a slot count. */
    long count(int slot) {
        throw new IllegalStateException(getClass() + " counts nothing");
    }

    /** Returns how many places of some slots count. */
    final DailyTotals counts(int[] slots) {
        return DailyTotals.counts(Arrays.stream(slots).mapToLong(this::count).toArray());
    }

    final boolean isUnfiltered() {
        return where == null;
    }

    /** Adds places that follow one another, which have these slots. */
    final void add(int from, int n, int[] slotOf) {
        accumulate(from, n, where == null ? slotOf : kept(from, n, slotOf, where, TruthValue.TRUE));
    }

    /** Returns the slots of places for which a condition has an outcome, and none for others. */
    private static int[] kept(int from, int n, int[] slotOf, RowPredicate condition, TruthValue outcome) {
        int[] kept = new int[n];
        for (int i = 0; i < n; i++) {
            boolean counts = slotOf[i] != GroupDayIndex.NONE && condition.test(from + i) == outcome;
            kept[i] = counts ? slotOf[i] : GroupDayIndex.NONE;
        }
        return kept;
    }

    /** Makes room for a number of slots. */
    abstract void ensureSlots(int slots);

    abstract void accumulate(int from, int n, int[] slotOf);

    /** Adds what another thread has found of the same slots; only where places need not come in order. */
    abstract void add(ColumnAccumulator other);

    /** Returns the totals of some slots. */
    abstract DailyTotals values(int[] slots);

    /** Returns whether the result depends on the order of places. */
    boolean needsRowOrder() {
        return false;
    }

    private static int roomFor(int slots) {
        return (int) Math.min(Integer.MAX_VALUE - 8L, Math.max(slots, slots + (slots >> 1)));
    }

    /** Those that need no more than a sum and a count for each slot. */
    private abstract static class Counted extends ColumnAccumulator {
        final CountedSums totals = new CountedSums(0);
        private final @Nullable RowPredicate blank;

        Counted(@Nullable RowPredicate where, @Nullable RowPredicate blank) {
            super(where);
            this.blank = blank;
        }

        @Override
        final boolean countsAll() {
            return blank == null && isUnfiltered();
        }

        @Override
        final long count(int slot) {
            return totals.count(slot);
        }

        @Override
        final void ensureSlots(int slots) {
            totals.ensureSlots(slots);
        }

        @Override
        final void accumulate(int from, int n, int[] slotOf) {
            accumulateCounted(from, n, blank == null ? slotOf : kept(from, n, slotOf, blank, TruthValue.FALSE));
        }

        abstract void accumulateCounted(int from, int n, int[] slotOf);

        @Override
        final void add(ColumnAccumulator other) {
            totals.add(((Counted) other).totals);
        }
    }

    /** How many rows, or values that are not blank. */
    static final class Counts extends Counted {
        Counts(@Nullable RowPredicate where, @Nullable RowPredicate blank) {
            super(where, blank);
        }

        /** Counts all places that have a slot. */
        static ColumnAccumulator ofAll() {
            return new Counts(null, null);
        }

        @Override
        void accumulateCounted(int from, int n, int[] slotOf) {
            totals.count(slotOf, n);
        }

        @Override
        DailyTotals values(int[] slots) {
            return counts(slots);
        }
    }

    /** Sums of a column of exact decimals that fit into longs, whatever rows come together. */
    private static final class Sums extends Counted {
        private final WholeNumbers numbers;
        private final int scale;
        private final long largest;
        private int[] ints = new int[0];
        private long[] longs = new long[0];

        Sums(@Nullable RowPredicate where, @Nullable RowPredicate blank, WholeNumbers numbers, int scale) {
            super(where, blank);
            this.numbers = numbers;
            this.scale = scale;
            this.largest = largest(numbers);
        }

        /** Returns whether the sum of any of the numbers is a long. */
        static boolean fitInLongs(WholeNumbers numbers) {
            long largest = largest(numbers);
            // negative where the smallest of all longs is among them
            return largest >= 0 && largest <= Long.MAX_VALUE / Math.max(numbers.size(), 1);
        }

        /** Returns how far from zero a number lies at most. */
        private static long largest(WholeNumbers numbers) {
            return Math.max(Math.abs(numbers.smallest()), Math.abs(numbers.largest()));
        }

        @Override
        void accumulateCounted(int from, int n, int[] slotOf) {
            if (largest <= Integer.MAX_VALUE) {
                ints = ints.length < n ? new int[n] : ints;
                numbers.read(from, n, ints);
                totals.add(slotOf, ints, n, largest);
                return;
            }
            longs = longs.length < n ? new long[n] : longs;
            numbers.read(from, n, longs);
            totals.add(slotOf, longs, n, largest);
        }

        @Override
        DailyTotals values(int[] slots) {
            long[] sums = new long[slots.length];
            boolean[] blanks = null;
            for (int i = 0; i < sums.length; i++) {
                sums[i] = totals.sum(slots[i]);
                if (totals.count(slots[i]) == 0) {
                    blanks = blanks == null ? new boolean[sums.length] : blanks;
                    blanks[i] = true;
                }
            }
            return new DailyTotals.Longs(sums, scale, blanks);
        }
    }

    /** Other exact decimals, in longs; what does not fit into a long is kept beside them, by slot, in a big integer. */
    private static final class Exact extends ColumnAccumulator {
        private final TotalColumn.Kind kind;
        private final RowExpressionReader number;
        private final RowDays places;
        private long[] totals = new long[0];
        private boolean[] present = new boolean[0];
        /** What sums have run over, or the best of the values that are no longs. */
        private final Map<Integer, BigInteger> large = new HashMap<>();

        Exact(RowPredicate where, TotalColumn.Kind kind, RowExpressionReader number, RowDays places) {
            super(where);
            this.kind = kind;
            this.number = number;
            this.places = places;
        }

        @Override
        void ensureSlots(int slots) {
            if (totals.length < slots) {
                totals = Arrays.copyOf(totals, roomFor(slots));
                present = Arrays.copyOf(present, totals.length);
            }
        }

        @Override
        void accumulate(int from, int n, int[] slotOf) {
            for (int i = 0; i < n; i++) {
                int row = places.row(from + i);
                if (slotOf[i] != GroupDayIndex.NONE && !number.isBlank(row)) {
                    accumulateRow(slotOf[i], row);
                }
            }
        }

        private void accumulateRow(int slot, int row) {
            long value;
            try {
                value = number.unscaled(row);
            } catch (ArithmeticException e) {
                large.merge(slot, number.decimal(row).unscaledValue(), this::combined);
                return;
            }
            accumulate(slot, value);
        }

        private BigInteger combined(BigInteger a, BigInteger b) {
            return switch (kind) {
                case MIN -> a.min(b);
                case MAX -> a.max(b);
                default -> a.add(b);
            };
        }

        private void accumulate(int slot, long value) {
            if (!present[slot]) {
                totals[slot] = value;
                present[slot] = true;
                return;
            }
            long running = totals[slot];
            if (kind == TotalColumn.Kind.SUM) {
                long sum = running + value;
                if (Overflow.ofSum(running, value, sum)) {
                    large.merge(slot, BigInteger.valueOf(running), this::combined);
                    sum = value;
                }
                totals[slot] = sum;
            } else {
                totals[slot] = kind == TotalColumn.Kind.MIN ? Math.min(running, value) : Math.max(running, value);
            }
        }

        @Override
        void add(ColumnAccumulator other) {
            Exact theirs = (Exact) other;
            ensureSlots(theirs.totals.length);
            for (int s = 0; s < theirs.totals.length; s++) {
                if (theirs.present[s]) {
                    accumulate(s, theirs.totals[s]);
                }
            }
            theirs.large.forEach((slot, value) -> large.merge(slot, value, this::combined));
        }

        @Override
        DailyTotals values(int[] slots) {
            if (!large.isEmpty() && Arrays.stream(slots).anyMatch(large::containsKey)) {
                return largeValues(slots);
            }
            long[] picked = new long[slots.length];
            boolean[] blanks = null;
            for (int i = 0; i < picked.length; i++) {
                int slot = slots[i];
                if (slot < totals.length && present[slot]) {
                    picked[i] = totals[slot];
                } else {
                    blanks = blanks == null ? new boolean[picked.length] : blanks;
                    blanks[i] = true;
                }
            }
            return new DailyTotals.Longs(picked, number.scale(), blanks);
        }

        private DailyTotals largeValues(int[] slots) {
            BigDecimal[] values = new BigDecimal[slots.length];
            for (int i = 0; i < values.length; i++) {
                int slot = slots[i];
                BigInteger beside = large.get(slot);
                BigInteger total = slot < totals.length && present[slot] ? BigInteger.valueOf(totals[slot]) : null;
                BigInteger value = total == null ? beside : beside == null ? total : combined(total, beside);
                values[i] = value == null ? null : new BigDecimal(value, number.scale());
            }
            return new DailyTotals.Decimals(values);
        }
    }

    /** Floating numbers; sums with Neumaier's variant of compensated summation. */
    private static final class Floating extends ColumnAccumulator {
        private final TotalColumn.Kind kind;
        private final RowExpressionReader number;
        private final RowDays places;
        private double[] totals = new double[0];
        private double[] roundingErrors = new double[0];

        Floating(RowPredicate where, TotalColumn.Kind kind, RowExpressionReader number, RowDays places) {
            super(where);
            this.kind = kind;
            this.number = number;
            this.places = places;
        }

        @Override
        void ensureSlots(int slots) {
            int before = totals.length;
            if (before < slots) {
                totals = Arrays.copyOf(totals, roomFor(slots));
                roundingErrors = Arrays.copyOf(roundingErrors, totals.length);
                Arrays.fill(totals, before, totals.length, Double.NaN);
            }
        }

        @Override
        void accumulate(int from, int n, int[] slotOf) {
            for (int i = 0; i < n; i++) {
                int row = places.row(from + i);
                int slot = slotOf[i];
                if (slot == GroupDayIndex.NONE || number.isBlank(row)) {
                    continue;
                }
                double value = number.asDouble(row);
                double running = totals[slot];
                if (Double.isNaN(running)) {
                    totals[slot] = value;
                } else if (kind == TotalColumn.Kind.SUM) {
                    roundingErrors[slot] += NeumaierSum.roundingError(running, value);
                    totals[slot] = running + value;
                } else {
                    totals[slot] = kind == TotalColumn.Kind.MIN ? Math.min(running, value) : Math.max(running, value);
                }
            }
        }

        @Override
        void add(ColumnAccumulator other) {
            throw new IllegalStateException("floating sums are added in order");
        }

        @Override
        DailyTotals values(int[] slots) {
            double[] picked = new double[slots.length];
            for (int i = 0; i < picked.length; i++) {
                picked[i] = slots[i] < totals.length ? totals[slots[i]] + roundingErrors[slots[i]] : Double.NaN;
            }
            return new DailyTotals.Doubles(picked);
        }

        @Override
        boolean needsRowOrder() {
            return true;
        }
    }

    /** Amounts of plans, dealt out to the places of each row to the last digit. */
    private static final class Spread extends ColumnAccumulator {
        private final TotalColumn.Kind kind;
        private final BigDecimal[] parts;
        private BigDecimal[] totals = new BigDecimal[0];

        Spread(RowPredicate where, TotalColumn.Kind kind, RowExpressionReader number, RowDays places) {
            super(where);
            this.kind = kind;
            this.parts = parts(number, places);
        }

        private static BigDecimal[] parts(RowExpressionReader number, RowDays places) {
            BigDecimal[] parts = new BigDecimal[places.size()];
            int from = 0;
            while (from < parts.length) {
                int row = places.row(from);
                int to = from;
                while (to < parts.length && places.row(to) == row) {
                    to++;
                }
                int day = places.day(from);
                if (day != Table.NO_DATE && day != Table.UNREADABLE && !number.isBlank(row)) {
                    BigDecimal amount = number.scale() == RowExpressionReader.FLOATING
                            ? new BigDecimal(Double.toString(number.asDouble(row)))
                            : number.decimal(row);
                    BigDecimal[] present = Apportionment.parts(amount, Arrays.copyOfRange(places.weights(), from, to));
                    System.arraycopy(present, 0, parts, from, present.length);
                }
                from = to;
            }
            return parts;
        }

        @Override
        void ensureSlots(int slots) {
            totals = totals.length < slots ? Arrays.copyOf(totals, roomFor(slots)) : totals;
        }

        @Override
        void accumulate(int from, int n, int[] slotOf) {
            for (int i = 0; i < n; i++) {
                BigDecimal value = parts[from + i];
                BigDecimal running = totals[slotOf[i]];
                if (value != null && slotOf[i] != GroupDayIndex.NONE) {
                    totals[slotOf[i]] = running == null
                            ? value
                            : switch (kind) {
                                case MIN -> running.min(value);
                                case MAX -> running.max(value);
                                default -> running.add(value);
                            };
                }
            }
        }

        @Override
        void add(ColumnAccumulator other) {
            throw new IllegalStateException("plans are spread by one thread");
        }

        @Override
        DailyTotals values(int[] slots) {
            BigDecimal[] picked = new BigDecimal[slots.length];
            for (int i = 0; i < picked.length; i++) {
                picked[i] = slots[i] < totals.length ? totals[slots[i]] : null;
            }
            return DailyTotals.of(picked);
        }

        @Override
        boolean needsRowOrder() {
            return true;
        }
    }

    /** The different values of a column. */
    private static final class Distinct extends ColumnAccumulator {
        private final ColumnValues.Texts coded;
        private final RowDays places;
        private final Map<Integer, TreeSet<String>> sets = new HashMap<>();

        Distinct(RowPredicate where, ColumnValues.Texts coded, RowDays places) {
            super(where);
            this.coded = coded;
            this.places = places;
        }

        @Override
        void ensureSlots(int slots) {}

        @Override
        void accumulate(int from, int n, int[] slotOf) {
            for (int i = 0; i < n; i++) {
                int code = slotOf[i] == GroupDayIndex.NONE ? -1 : coded.code(places.row(from + i));
                if (code >= 0) {
                    sets.computeIfAbsent(slotOf[i], s -> new TreeSet<>(Comparisons.BY_CODE_POINT))
                            .add(coded.dictionary()[code]);
                }
            }
        }

        @Override
        void add(ColumnAccumulator other) {
            throw new IllegalStateException("values are listed by one thread");
        }

        @Override
        DailyTotals values(int[] slots) {
            String[][] picked = new String[slots.length][];
            for (int i = 0; i < picked.length; i++) {
                TreeSet<String> set = sets.get(slots[i]);
                picked[i] = set == null ? null : set.toArray(String[]::new);
            }
            return new DailyTotals.StringSets(picked);
        }

        @Override
        boolean needsRowOrder() {
            return true;
        }
    }
}
