package dev.mile.report.series;

import dev.mile.engine.DailyTotals;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import java.math.BigDecimal;
import java.util.Arrays;

/**
 * The totals of some rows, day by day, with running sums, so that any window of any length is two reads.
 *
 * <p>Only days with rows are there. Amounts are exact decimals, or doubles for floating columns.
 */
public final class DailySeries {
    public static final DailySeries EMPTY =
            new DailySeries(new int[0], new long[1], new long[1], null, null, null, null);

    private final int[] days;
    private final long[] rows;
    private final long[] counts;
    private final DailyTotals sums;
    private final DailyTotals smallest;
    private final DailyTotals largest;
    private final int[][] texts;
    private RunningSums running;
    private RangeMinMax least;
    private RangeMinMax most;
    private DistinctCounter distinct;

    /**
     * Returns a series.
     *
     * @param days the days, rising
     * @param rows the rows before each day, and all of them at the end
     * @param counts the values that are not blank, likewise
     * @param sums the sum of each day; null where no measure needs it, and so on
     * @param texts the numbers of the different texts of each day
     */
    private DailySeries(
            int[] days,
            long[] rows,
            long[] counts,
            DailyTotals sums,
            DailyTotals smallest,
            DailyTotals largest,
            int[][] texts) {
        this.days = days;
        this.rows = rows;
        this.counts = counts;
        this.sums = sums;
        this.smallest = smallest;
        this.largest = largest;
        this.texts = texts;
    }

    /** Returns a series of the totals of each day; all but the rows may be null where no measure needs them. */
    public static DailySeries of(
            int[] days,
            DailyTotals rows,
            DailyTotals counts,
            DailyTotals sums,
            DailyTotals smallest,
            DailyTotals largest,
            int[][] texts) {
        long[] before = before(rows, days.length);
        return new DailySeries(
                days,
                before,
                counts == null || counts == rows ? before : before(counts, days.length),
                sums,
                smallest,
                largest,
                texts);
    }

    private static long[] before(DailyTotals counts, int size) {
        long[] unscaled = ((DailyTotals.Longs) counts).unscaled();
        long[] before = new long[size + 1];
        for (int i = 0; i < size; i++) {
            before[i + 1] = before[i] + unscaled[i];
        }
        return before;
    }

    /** Returns the number of all rows. */
    public long rows() {
        return rows[days.length];
    }

    /** Returns the index of the first day that is not before the day. */
    int indexOfFirstFrom(int day) {
        // days follow each other in most series
        int guess = days.length == 0 ? 0 : day - days[0];
        if (guess >= 0 && guess < days.length && days[guess] == day) {
            return guess;
        }
        int at = Arrays.binarySearch(days, day);
        return at >= 0 ? at : -at - 1;
    }

    /** Returns the index behind the last day that is not after the day. */
    int indexAfter(int day) {
        int at = indexOfFirstFrom(day);
        return at < days.length && days[at] == day ? at + 1 : at;
    }

    /**
     * Returns the index of the first day that is not before the day.
     *
     * @param guess the index that it has in a series with rows in every bucket of days; negative where that is not known
     */
    public int indexOfFirstFrom(int day, int guess) {
        boolean guessIsRight = guess >= 0 && guess < days.length && (guess == 0 ? days[0] >= day : days[guess] == day);
        return guessIsRight ? guess : indexOfFirstFrom(day);
    }

    /**
     * Returns the index behind the last day that is not after the day.
     *
     * @param guess the index that it has in a series with rows in every bucket of days; negative where that is not known
     */
    public int indexAfter(int day, int guess) {
        boolean guessIsRight = guess == 0
                ? days.length == 0 || days[0] > day
                : guess > 0
                        && (guess < days.length
                                ? days[guess] == day + 1
                                : guess == days.length && days[guess - 1] <= day);
        return guessIsRight ? guess : indexAfter(day);
    }

    /** Returns the number of rows from the first to the last day. */
    public long rows(int first, int last) {
        return last < first ? 0 : rowsBetween(indexOfFirstFrom(first), indexAfter(last));
    }

    /** Returns the number of rows from an index up to before another. */
    public long rowsBetween(int from, int to) {
        return rows[to] - rows[from];
    }

    /** Returns what the aggregate makes of the days from an index up to before another. */
    public Value value(Measure.Aggregation how, boolean ofRows, int from, int to) {
        return switch (how) {
            case COUNT -> Value.of(ofRows ? rowsBetween(from, to) : countBetween(from, to));
            case DISTINCT -> Value.of(distinct().between(from, to));
            case SUM -> sum(from, to);
            case AVG ->
                countBetween(from, to) == 0
                        ? Value.UNDEFINED
                        : sum(from, to).dividedBy(Value.of(countBetween(from, to)));
            case MIN -> value(least().between(from, to));
            case MAX -> value(most().between(from, to));
            case FIRST -> countBetween(from, to) == 0 ? Value.UNDEFINED : value(sums.amount(firstCounted(from, to)));
            case LAST -> countBetween(from, to) == 0 ? Value.UNDEFINED : value(sums.amount(lastCounted(from, to)));
        };
    }

    private long countBetween(int from, int to) {
        return counts[to] - counts[from];
    }

    private Value sum(int from, int to) {
        if (running == null) {
            running = RunningSums.of(counts, sums, days.length);
        }
        return running.between(from, to);
    }

    private RangeMinMax least() {
        if (least == null) {
            least = new RangeMinMax(smallest, days.length, true);
        }
        return least;
    }

    private RangeMinMax most() {
        if (most == null) {
            most = new RangeMinMax(largest, days.length, false);
        }
        return most;
    }

    private DistinctCounter distinct() {
        if (distinct == null) {
            distinct = new DistinctCounter(texts == null ? new int[0][] : texts);
        }
        return distinct;
    }

    /** Returns the first index with a value; there is one. Counts rise, so it is found by halving. */
    private int firstCounted(int from, int to) {
        int low = from;
        int high = to - 1;
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (counts[middle + 1] > counts[from]) {
                high = middle;
            } else {
                low = middle + 1;
            }
        }
        return low;
    }

    private int lastCounted(int from, int to) {
        int low = from;
        int high = to - 1;
        while (low < high) {
            int middle = (low + high + 1) >>> 1;
            if (counts[middle] < counts[to]) {
                low = middle;
            } else {
                high = middle - 1;
            }
        }
        return low;
    }

    private static Value value(Number amount) {
        return amount == null
                ? Value.UNDEFINED
                : amount instanceof BigDecimal b ? Value.of(b) : Value.of(amount.doubleValue());
    }

    int size() {
        return days.length;
    }

    int day(int index) {
        return days[index];
    }

    long rowsAt(int index) {
        return rows[index + 1] - rows[index];
    }

    long countAt(int index) {
        return counts[index + 1] - counts[index];
    }

    DailyTotals sums() {
        return sums;
    }

    DailyTotals smallest() {
        return smallest;
    }

    DailyTotals largest() {
        return largest;
    }

    int[][] texts() {
        return texts;
    }
}
