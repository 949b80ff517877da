package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.IntPredicate;

/**
 * The totals of some rows, day by day, with running sums, so that any window of any length is two reads.
 *
 * <p>Only days with rows are there. Amounts are exact decimals, or doubles for floating columns.
 */
final class DaySeries {
    /** The totals of one day. */
    static final class Day {
        long rows;
        long count;
        Object sum;
        Object min;
        Object max;
        Set<Integer> values;

        void add(Day other) {
            rows += other.rows;
            count += other.count;
            sum = added(sum, other.sum);
            min = other.min == null || (min != null && compare(min, other.min) <= 0) ? min : other.min;
            max = other.max == null || (max != null && compare(max, other.max) >= 0) ? max : other.max;
            if (other.values != null) {
                values = values == null ? new TreeSet<>() : new TreeSet<>(values);
                values.addAll(other.values);
            }
        }

        private static Object added(Object a, Object b) {
            if (a == null || b == null) {
                return a == null ? b : a;
            }
            return a instanceof BigDecimal x && b instanceof BigDecimal y
                    ? (Object) x.add(y)
                    : ((Number) a).doubleValue() + ((Number) b).doubleValue();
        }

        private static int compare(Object a, Object b) {
            return a instanceof BigDecimal x && b instanceof BigDecimal y
                    ? x.compareTo(y)
                    : Double.compare(((Number) a).doubleValue(), ((Number) b).doubleValue());
        }
    }

    static final DaySeries EMPTY = new DaySeries(new int[0], List.of());

    private final int[] days;
    private final List<Day> totals;
    private final long[] rows;
    private final long[] counts;
    private final BigDecimal[] exact;
    private final double[] floating;

    DaySeries(int[] days, List<Day> totals) {
        this.days = days;
        this.totals = totals;
        int n = days.length;
        rows = new long[n + 1];
        counts = new long[n + 1];
        boolean anyFloating = totals.stream().anyMatch(t -> t.sum instanceof Double);
        exact = anyFloating ? null : new BigDecimal[n + 1];
        floating = anyFloating ? new double[n] : null;
        if (exact != null) {
            exact[0] = BigDecimal.ZERO;
        }
        for (int i = 0; i < n; i++) {
            Day day = totals.get(i);
            rows[i + 1] = rows[i] + day.rows;
            counts[i + 1] = counts[i] + day.count;
            if (anyFloating) {
                floating[i] = day.sum == null ? 0 : ((Number) day.sum).doubleValue();
            } else {
                exact[i + 1] = day.sum == null ? exact[i] : exact[i].add((BigDecimal) day.sum);
            }
        }
    }

    int[] days() {
        return days;
    }

    private int from(DateRange window) {
        int at = Arrays.binarySearch(days, window.firstDay());
        return at >= 0 ? at : -at - 1;
    }

    private int to(DateRange window) {
        int at = Arrays.binarySearch(days, window.lastDay());
        return at >= 0 ? at + 1 : -at - 1;
    }

    /** Returns the number of rows in the window. */
    long rows(DateRange window) {
        return window.isEmpty() ? 0 : rows[to(window)] - rows[from(window)];
    }

    /** Returns what the aggregate makes of the window, which has at least one day. */
    Value value(Measure.Aggregation how, boolean ofRows, DateRange window) {
        int from = from(window);
        int to = to(window);
        long count = counts[to] - counts[from];
        return switch (how) {
            case COUNT -> Value.of(ofRows ? rows[to] - rows[from] : count);
            case DISTINCT -> Value.of(distinct(from, to));
            case SUM -> count == 0 ? Value.BLANK : sum(from, to);
            case AVG -> count == 0 ? Value.BLANK : sum(from, to).dividedBy(Value.of(count));
            case MIN, MAX -> extreme(how, from, to);
            case FIRST, LAST -> edge(how, from, to);
        };
    }

    private Value sum(int from, int to) {
        if (exact != null) {
            return Value.of(exact[to].subtract(exact[from]));
        }
        double sum = 0;
        double lost = 0;
        for (int i = from; i < to; i++) {
            double next = sum + floating[i];
            lost += Math.abs(sum) >= Math.abs(floating[i]) ? (sum - next) + floating[i] : (floating[i] - next) + sum;
            sum = next;
        }
        return Value.of(sum + lost);
    }

    private long distinct(int from, int to) {
        Set<Integer> seen = new HashSet<>();
        for (int i = from; i < to; i++) {
            if (totals.get(i).values != null) {
                seen.addAll(totals.get(i).values);
            }
        }
        return seen.size();
    }

    private Value extreme(Measure.Aggregation how, int from, int to) {
        Object best = null;
        for (int i = from; i < to; i++) {
            Object one = how == Measure.Aggregation.MIN ? totals.get(i).min : totals.get(i).max;
            if (one != null && (best == null || Day.compare(one, best) < 0 == (how == Measure.Aggregation.MIN))) {
                best = one;
            }
        }
        return value(best);
    }

    private Value edge(Measure.Aggregation how, int from, int to) {
        for (int i = from; i < to; i++) {
            Day day = totals.get(how == Measure.Aggregation.FIRST ? i : to - 1 - (i - from));
            if (day.count > 0) {
                return value(day.sum);
            }
        }
        return Value.BLANK;
    }

    private static Value value(Object amount) {
        return amount == null
                ? Value.BLANK
                : amount instanceof BigDecimal b ? Value.of(b) : Value.of(((Number) amount).doubleValue());
    }

    /** Returns the days that the predicate keeps. */
    DaySeries only(IntPredicate keeps) {
        List<Day> some = new ArrayList<>();
        int[] on = new int[days.length];
        int n = 0;
        for (int i = 0; i < days.length; i++) {
            if (keeps.test(days[i])) {
                on[n++] = days[i];
                some.add(totals.get(i));
            }
        }
        return new DaySeries(Arrays.copyOf(on, n), some);
    }

    /** Returns the series of the rows of all of them together. */
    static DaySeries merged(List<DaySeries> parts) {
        if (parts.isEmpty()) {
            return EMPTY;
        }
        if (parts.size() == 1) {
            return parts.get(0);
        }
        TreeMap<Integer, Day> all = new TreeMap<>();
        for (DaySeries part : parts) {
            for (int i = 0; i < part.days.length; i++) {
                all.computeIfAbsent(part.days[i], d -> new Day()).add(part.totals.get(i));
            }
        }
        return new DaySeries(
                all.keySet().stream().mapToInt(Integer::intValue).toArray(), new ArrayList<>(all.values()));
    }
}
