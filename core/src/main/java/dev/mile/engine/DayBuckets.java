package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import java.io.Serializable;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;

/**
 * Runs of days that are only ever read together, since no window begins or ends inside: one total for each is enough. They
 * divide the days of a request without a gap; each day outside is a bucket of its own.
 */
public final class DayBuckets implements Serializable {
    private static final long serialVersionUID = 1L;

    /** Every day is a bucket of its own. */
    public static final DayBuckets DAILY = new DayBuckets(new int[0], 0);

    private final int[] firstEpochDays;
    private final int end;

    private DayBuckets(int[] firsts, int end) {
        this.firstEpochDays = firsts;
        this.end = end;
    }

    /**
     * {@return the buckets of a range that begin on its first day and on each of the days that lie in it}
     *
     * @param range the days
     * @param begins the first days of buckets, as epoch days
     */
    public static DayBuckets of(DateRange range, Collection<Integer> begins) {
        requireNonNull(range, "range is null");
        requireNonNull(begins, "begins is null");
        if (range.isEmpty()) {
            return DAILY;
        }
        int[] inside = begins.stream()
                .mapToInt(Integer::intValue)
                .filter(day -> day > range.firstEpochDay() && day <= range.lastEpochDay())
                .sorted()
                .distinct()
                .toArray();
        int[] firsts = new int[inside.length + 1];
        firsts[0] = range.firstEpochDay();
        System.arraycopy(inside, 0, firsts, 1, inside.length);
        return new DayBuckets(firsts, range.lastEpochDay() + 1);
    }

    /** {@return whether every day is a bucket of its own} */
    public boolean isDaily() {
        return firstEpochDays.length == 0;
    }

    /** {@return the first epoch day of each bucket, rising; empty if every day is a bucket of its own} */
    public int[] firstEpochDays() {
        return firstEpochDays.clone();
    }

    /**
     * {@return whether a window may begin on the day: no bucket has days on both sides of its beginning}
     *
     * @param day the epoch day
     */
    public boolean isBoundary(int day) {
        return isDaily() || day <= firstEpochDays[0] || day >= end || Arrays.binarySearch(firstEpochDays, day) >= 0;
    }

    /**
     * {@return the index of the bucket boundary at the day: 0 before the first, their number after the last; -1 if buckets are days}
     *
     * @param day the epoch day
     */
    public int boundaryIndex(int day) {
        return isDaily() ? -1 : day < firstEpochDays[0] ? 0 : day >= end ? firstEpochDays.length : bucketOf(day);
    }

    /**
     * {@return the index of the day's bucket; -1 if the day is a bucket of its own}
     *
     * @param day the epoch day
     */
    public int bucketOf(int day) {
        if (isDaily() || day < firstEpochDays[0] || day >= end) {
            return -1;
        }
        int at = Arrays.binarySearch(firstEpochDays, day);
        return at >= 0 ? at : -at - 2;
    }

    /**
     * {@return the first epoch day of the day's bucket, on which the total of the bucket stands; the day itself if it is a bucket of its own}
     *
     * @param day the epoch day
     */
    public int firstDayOfBucket(int day) {
        int bucket = bucketOf(day);
        return bucket < 0 ? day : firstEpochDays[bucket];
    }

    /** Returns totals of days as totals of buckets, each on its first day. */
    GroupTotals of(GroupTotals totals, List<TotalColumn> columns) {
        int[] days = totals.days();
        int[] on = new int[days.length];
        int[] from = new int[days.length + 1];
        int n = 0;
        int bucket = -1;
        for (int i = 0; i < days.length; i++) {
            int day = days[i];
            boolean inside = day >= firstEpochDays[0] && day < end;
            int before = bucket;
            while (inside && bucket + 1 < firstEpochDays.length && firstEpochDays[bucket + 1] <= day) {
                bucket++;
            }
            if (!inside || bucket > before || i == 0) {
                on[n] = inside ? firstEpochDays[bucket] : day;
                from[n++] = i;
            }
        }
        from[n] = days.length;
        int[] parts = Arrays.copyOf(from, n + 1);
        DailyTotals[] values = new DailyTotals[columns.size()];
        for (int c = 0; c < values.length; c++) {
            TotalColumn.Kind kind = columns.get(c).kind();
            for (int other = 0; other < c && values[c] == null; other++) {
                boolean same = totals.values()[other] == totals.values()[c]
                        && (columns.get(other).kind() == kind
                                || isCount(columns.get(other)) && isCount(columns.get(c)));
                values[c] = same ? values[other] : null;
            }
            values[c] = values[c] == null ? totals.values()[c].aggregate(kind, parts) : values[c];
        }
        return new GroupTotals(totals.members(), Arrays.copyOf(on, n), values);
    }

    private static boolean isCount(TotalColumn column) {
        return column.kind() == TotalColumn.Kind.ROWS || column.kind() == TotalColumn.Kind.COUNT;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof DayBuckets o && end == o.end && Arrays.equals(firstEpochDays, o.firstEpochDays);
    }

    @Override
    public int hashCode() {
        return 31 * Arrays.hashCode(firstEpochDays) + end;
    }

    @Override
    public String toString() {
        return isDaily()
                ? "days"
                : firstEpochDays.length + " buckets up to " + (end - 1) + ": " + Arrays.toString(firstEpochDays);
    }
}
