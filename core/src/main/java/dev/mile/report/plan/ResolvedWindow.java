package dev.mile.report.plan;

import dev.mile.engine.DayBuckets;
import dev.mile.measure.Value;
import java.io.Serializable;
import org.jspecify.annotations.Nullable;

/**
 * What an aggregate looks at in one cell in time: resolved once, for all members.
 *
 * @param first the first epoch day of its window
 * @param last the last day
 * @param fromIndex the index of the first day in a series that has rows in every bucket of days; {@link #UNKNOWN_INDEX} where
 *     buckets are days
 * @param toIndex the index of the day after the window, in the same way
 * @param filter which days count; null for all
 * @param divisor what its value is divided by; null for nothing
 * @param countsAsOwn whether rows found there count as the row's own, judging by its days; they decide whether the row is kept
 */
public record ResolvedWindow(
        int first,
        int last,
        int fromIndex,
        int toIndex,
        @Nullable DayMask filter,
        @Nullable Value divisor,
        boolean countsAsOwn)
        implements Serializable {
    /** Stands for an index that is not known. */
    public static final int UNKNOWN_INDEX = -1;

    /** Returns the same window with its indexes among the buckets. */
    ResolvedWindow alignedTo(DayBuckets buckets) {
        return new ResolvedWindow(
                first,
                last,
                buckets.boundaryIndex(first),
                buckets.boundaryIndex(last + 1),
                filter,
                divisor,
                countsAsOwn);
    }
}
