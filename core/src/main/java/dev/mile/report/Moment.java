package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.measure.Value;
import dev.mile.report.axis.DayFilter;
import java.io.Serializable;
import java.util.Arrays;
import java.util.List;

/**
 * The place of a cell in time. What each aggregate looks at in it is worked out once, since it is the same for all members; a
 * moment that has all of it can be sent to where the members are.
 */
final class Moment implements Serializable {
    private static final long serialVersionUID = 1L;
    private static final int MORE = 8;

    /** Works out what aggregates look at. */
    interface Resolver {
        /** Returns what the aggregate of the number looks at; null for nothing. */
        Sight sight(int leaf, Moment moment);

        /** Returns what the aggregate of the number looks at with its place in the series, as far as it is known by now. */
        Sight placed(int leaf, Sight sight);

        /** Returns the days, or working days, of the measure of the number. */
        Value days(int count, Moment moment);
    }

    private final transient DateRange days;
    private final transient List<DayFilter> filters;
    private final transient Resolver resolver;
    private final Level finest;
    private Sight[] sights = {};
    private boolean[] known = {};
    private Value[] counts = {};

    /**
     * Returns a place in time.
     *
     * @param days the first to the last day
     * @param filters what is left of the days, where they are not one stretch
     * @param finest the finest level of its row and column; null where it has none
     */
    Moment(DateRange days, List<DayFilter> filters, Level finest, Resolver resolver) {
        this.days = days;
        this.filters = filters;
        this.finest = finest;
        this.resolver = resolver;
    }

    DateRange days() {
        return days;
    }

    List<DayFilter> filters() {
        return filters;
    }

    Level finest() {
        return finest;
    }

    /** Gives what was worked out its place in the series, which is known by now. */
    void place() {
        for (int leaf = 0; leaf < sights.length; leaf++) {
            if (sights[leaf] != null) {
                sights[leaf] = resolver.placed(leaf, sights[leaf]);
            }
        }
    }

    /** Returns what the aggregate of the number looks at; null for nothing. */
    Sight sight(int leaf) {
        if (leaf >= known.length) {
            sights = Arrays.copyOf(sights, leaf + MORE);
            known = Arrays.copyOf(known, leaf + MORE);
        }
        if (!known[leaf]) {
            sights[leaf] = resolver.sight(leaf, this);
            known[leaf] = true;
        }
        return sights[leaf];
    }

    /** Returns the days, or working days, of the measure of the number. */
    Value days(int count) {
        if (count >= counts.length) {
            counts = Arrays.copyOf(counts, count + MORE);
        }
        if (counts[count] == null) {
            counts[count] = resolver.days(count, this);
        }
        return counts[count];
    }
}
