package dev.mile.report.plan;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.engine.DayBuckets;
import dev.mile.measure.Value;
import java.io.Serializable;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** What all aggregates and day counts of a report look at in one cell in time. Immutable. */
public final class CellWindows implements Serializable {
    private static final long serialVersionUID = 1L;

    private final ResolvedWindow[] windows;
    private final Map<DateRange, ResolvedWindow[]> limited;
    private final Value[] dayCounts;
    private final @Nullable Level finest;

    /** @param limited the windows for members that could have rows on some days only, by these days */
    CellWindows(
            ResolvedWindow[] windows,
            Map<DateRange, ResolvedWindow[]> limited,
            Value[] dayCounts,
            @Nullable Level finest) {
        this.windows = windows;
        this.limited = limited;
        this.dayCounts = dayCounts;
        this.finest = finest;
    }

    /** Returns the window of the aggregate of the number; null where it looks at nothing. */
    public @Nullable ResolvedWindow window(int aggregate) {
        return windows[aggregate];
    }

    /** Returns the window of the aggregate for a member that could have rows on these days only; null where it looks at nothing. */
    public @Nullable ResolvedWindow window(int aggregate, DateRange limit) {
        return limited.get(limit)[aggregate];
    }

    /** Returns the days, or working days, of the count of the number. */
    public Value dayCount(int number) {
        return dayCounts[number];
    }

    /** Returns the finest level of the cell. */
    public Optional<Level> finestLevel() {
        return Optional.ofNullable(finest);
    }

    /** Returns the same windows with their indexes among the buckets in which the totals come, by aggregate. */
    CellWindows alignedTo(List<DayBuckets> bucketsByAggregate) {
        Map<DateRange, ResolvedWindow[]> alignedLimited = new HashMap<>();
        limited.forEach((days, own) -> alignedLimited.put(days, aligned(own, bucketsByAggregate)));
        return new CellWindows(aligned(windows, bucketsByAggregate), alignedLimited, dayCounts, finest);
    }

    private static ResolvedWindow[] aligned(ResolvedWindow[] windows, List<DayBuckets> bucketsByAggregate) {
        ResolvedWindow[] aligned = windows.clone();
        for (int a = 0; a < aligned.length; a++) {
            aligned[a] = aligned[a] == null ? null : aligned[a].alignedTo(bucketsByAggregate.get(a));
        }
        return aligned;
    }
}
