package dev.mile.report;

import dev.mile.report.plan.PlanNode;
import dev.mile.report.series.DailySeries;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;

/** The members of a row of a report, and the series that are read there; found once, for all places in time. */
final class RowSeries {
    private final SeriesStore store;
    private final Map<String, Members> members;
    private DailySeries[] known = new DailySeries[4];

    RowSeries(SeriesStore store, Map<String, Members> members) {
        this.store = store;
        this.members = members;
    }

    /** Returns the members that the row takes of the dimension; null for all. */
    Members members(String dimension) {
        return members.get(dimension);
    }

    /** Tells whether the series over all members of the first grouping column is read. */
    boolean overAll(Formula.Reading reading) {
        return reading.whole() != reading.series()
                && !members.containsKey(reading.dimensions().get(0));
    }

    /** Returns the members of the groups that are read. */
    List<String[]> groups(Formula.Reading reading) {
        return store.members(overAll(reading) ? reading.whole() : reading.series());
    }

    /** Tells whether rows that the aggregate finds are of the row's own members. */
    boolean owns(Formula.Leaf leaf) {
        return leaf.across().isEmpty() || Collections.disjoint(leaf.across(), members.keySet());
    }

    /** Returns the series that is read; null where its fact lacks a dimension of the row. */
    DailySeries series(Formula.Reading reading, int filters, Map<Integer, String> loops) {
        if (filters != Sight.ALL_DAYS || !loops.isEmpty() && !reading.withoutLoops()) {
            return found(reading, filters, loops);
        }
        if (reading.number() >= known.length) {
            known = Arrays.copyOf(known, reading.number() * 2);
        }
        DailySeries series = known[reading.number()];
        if (series == null) {
            series = found(reading, filters, loops);
            known[reading.number()] = series;
        }
        return series;
    }

    private DailySeries found(Formula.Reading reading, int filters, Map<Integer, String> loops) {
        if (!Collections.disjoint(reading.lacks(), members.keySet())) {
            return null;
        }
        List<Members> taken = new ArrayList<>();
        for (int i = 0; i < reading.dimensions().size(); i++) {
            int loop = reading.loops().get(i);
            taken.add(
                    loop == PlanNode.MemberBinding.ROW
                            ? members.get(reading.dimensions().get(i))
                            : loops.containsKey(loop) ? Members.of(loops.get(loop)) : null);
        }
        return overAll(reading)
                ? store.slice(reading.whole(), taken.subList(1, taken.size()), filters)
                : store.slice(reading.series(), taken, filters);
    }
}
