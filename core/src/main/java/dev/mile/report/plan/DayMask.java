package dev.mile.report.plan;

import dev.mile.calendar.DateRange;
import java.io.Serializable;
import java.util.BitSet;
import java.util.function.IntPredicate;

/** Days of the date dimension that a filter keeps. All windows with the same filters share one mask, so masks are compared by identity. */
public final class DayMask implements IntPredicate, Serializable {
    private static final long serialVersionUID = 1L;

    private final int firstEpochDay;
    private final BitSet kept = new BitSet();

    DayMask(DateRange dimension, IntPredicate test) {
        firstEpochDay = dimension.firstEpochDay();
        for (int day = firstEpochDay; day <= dimension.lastEpochDay(); day++) {
            kept.set(day - firstEpochDay, test.test(day));
        }
    }

    @Override
    public boolean test(int epochDay) {
        return epochDay >= firstEpochDay && kept.get(epochDay - firstEpochDay);
    }
}
