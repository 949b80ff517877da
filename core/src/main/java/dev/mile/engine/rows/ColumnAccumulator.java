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
import dev.mile.internal.Overflow;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.TreeSet;

/** Adds up one column of a request by slot. */
abstract class ColumnAccumulator {
    private final RowPredicate where;

    ColumnAccumulator(RowPredicate where) {
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
        return number.scale() == RowExpressionReader.FLOATING
                ? new Floating(where, column.kind(), number, places)
                : new Exact(where, column.kind(), number, places);
    }

    /** Returns whether it counts all rows, as others may have done already. */
    boolean countsAllRows() {
        return false;
    }

    final boolean isUnfiltered() {
        return where == null;
    }

    /** Adds the first n places, which have these slots. */
    final void add(int[] at, int[] slotOf, int n, int slots) {
        ensureCapacity(slots);
        if (where == null) {
            accumulate(at, slotOf, n);
            return;
        }
        int[] present = new int[n];
        int[] theirs = new int[n];
        int kept = 0;
        for (int i = 0; i < n; i++) {
            if (where.test(at[i]) == TruthValue.TRUE) {
                present[kept] = at[i];
                theirs[kept++] = slotOf[i];
            }
        }
        accumulate(present, theirs, kept);
    }

    /** Makes room for a number of slots. */
    abstract void ensureCapacity(int slots);

    abstract void accumulate(int[] at, int[] slotOf, int n);

    /** Adds what another thread has found of the same slots; only where places need not come in order. */
    abstract void add(ColumnAccumulator other);

    /** Returns the totals of some slots. */
    abstract DailyTotals values(int[] slots);

    /** Returns whether the result depends on the order of places. */
    boolean needsRowOrder() {
        return false;
    }

    /** How many rows, or values that are not blank. */
    static final class Counts extends ColumnAccumulator {
        private final RowPredicate blank;
        private long[] counts = new long[0];

        Counts(RowPredicate where, RowPredicate blank) {
            super(where);
            this.blank = blank;
        }

        long[] counts() {
            return counts;
        }

        @Override
        boolean countsAllRows() {
            return blank == null && isUnfiltered();
        }

        @Override
        void ensureCapacity(int slots) {
            counts = counts.length < slots ? Arrays.copyOf(counts, roomFor(slots)) : counts;
        }

        @Override
        void accumulate(int[] at, int[] slotOf, int n) {
            long[] into = counts;
            if (blank == null) {
                for (int i = 0; i < n; i++) {
                    into[slotOf[i]]++;
                }
                return;
            }
            for (int i = 0; i < n; i++) {
                if (blank.test(at[i]) == TruthValue.FALSE) {
                    into[slotOf[i]]++;
                }
            }
        }

        @Override
        void add(ColumnAccumulator other) {
            long[] theirs = ((Counts) other).counts;
            ensureCapacity(theirs.length);
            for (int s = 0; s < theirs.length; s++) {
                counts[s] += theirs[s];
            }
        }

        @Override
        DailyTotals values(int[] slots) {
            long[] present = new long[slots.length];
            for (int i = 0; i < present.length; i++) {
                present[i] = slots[i] < counts.length ? counts[slots[i]] : 0;
            }
            return DailyTotals.counts(present);
        }
    }

    private static int roomFor(int slots) {
        return (int) Math.min(Integer.MAX_VALUE - 8L, Math.max(slots, slots + (slots >> 1)));
    }

    /** Exact decimals in longs; what does not fit into a long is kept beside them, by slot, in a big integer. */
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
        void ensureCapacity(int slots) {
            if (totals.length < slots) {
                totals = Arrays.copyOf(totals, roomFor(slots));
                present = Arrays.copyOf(present, totals.length);
            }
        }

        @Override
        void accumulate(int[] at, int[] slotOf, int n) {
            long[] plain = number.rawLongsOrNull();
            if (plain != null && kind == TotalColumn.Kind.SUM) {
                sum(plain, at, slotOf, n);
                return;
            }
            for (int i = 0; i < n; i++) {
                int row = places.row(at[i]);
                if (!number.isBlank(row)) {
                    accumulate(slotOf[i], row);
                }
            }
        }

        private void accumulate(int slot, int row) {
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

        /** The same for a column without blanks: no calls inside the loop. */
        private void sum(long[] values, int[] at, int[] slotOf, int n) {
            long[] into = totals;
            for (int i = 0; i < n; i++) {
                int slot = slotOf[i];
                long value = values[places.row(at[i])];
                long running = into[slot];
                long sum = running + value;
                if (Overflow.ofSum(running, value, sum)) {
                    accumulate(slot, value);
                } else {
                    into[slot] = sum;
                    present[slot] = true;
                }
            }
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
            ensureCapacity(theirs.totals.length);
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
        void ensureCapacity(int slots) {
            int before = totals.length;
            if (before < slots) {
                totals = Arrays.copyOf(totals, roomFor(slots));
                roundingErrors = Arrays.copyOf(roundingErrors, totals.length);
                Arrays.fill(totals, before, totals.length, Double.NaN);
            }
        }

        @Override
        void accumulate(int[] at, int[] slotOf, int n) {
            for (int i = 0; i < n; i++) {
                int row = places.row(at[i]);
                if (number.isBlank(row)) {
                    continue;
                }
                int slot = slotOf[i];
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
                int day = places.days()[from];
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
        void ensureCapacity(int slots) {
            totals = totals.length < slots ? Arrays.copyOf(totals, roomFor(slots)) : totals;
        }

        @Override
        void accumulate(int[] at, int[] slotOf, int n) {
            for (int i = 0; i < n; i++) {
                BigDecimal value = parts[at[i]];
                BigDecimal running = totals[slotOf[i]];
                if (value != null) {
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
        void ensureCapacity(int slots) {}

        @Override
        void accumulate(int[] at, int[] slotOf, int n) {
            for (int i = 0; i < n; i++) {
                int code = coded.codes()[places.row(at[i])];
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
