package dev.mile.report;

import dev.mile.measure.PlanNode;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;

/** The members of a row of a report, and the series that aggregates read there; found once, for all places in time. */
final class RowSeries {
    private final SeriesStore store;
    private final Map<String, Members> members;
    private DaySeries[] known = new DaySeries[16];

    RowSeries(SeriesStore store, Map<String, Members> members) {
        this.store = store;
        this.members = members;
    }

    /** Returns the members that the row takes of the dimension; null for all. */
    Members members(String dimension) {
        return members.get(dimension);
    }

    /** Tells whether the aggregate reads the series over all members of its first grouping column. */
    boolean overAll(Formula.Leaf leaf) {
        return leaf.whole() != leaf.series()
                && !members.containsKey(leaf.dimensions().get(0));
    }

    /** Returns the members of the groups that the aggregate reads. */
    List<String[]> groups(Formula.Leaf leaf) {
        return store.members(overAll(leaf) ? leaf.whole() : leaf.series());
    }

    /** Tells whether rows that the aggregate finds are of the row's own members. */
    boolean owns(Formula.Leaf leaf) {
        return leaf.across().isEmpty() || leaf.across().stream().noneMatch(members::containsKey);
    }

    /** Returns the series of an aggregate; null where its fact lacks a dimension of the row. */
    DaySeries series(Formula.Leaf leaf, int filters, Map<Integer, String> loops) {
        if (filters != Sight.ALL_DAYS || !loops.isEmpty() && !leaf.withoutLoops()) {
            return found(leaf, filters, loops);
        }
        if (leaf.number() >= known.length) {
            known = Arrays.copyOf(known, leaf.number() * 2);
        }
        DaySeries series = known[leaf.number()];
        if (series == null) {
            series = found(leaf, filters, loops);
            known[leaf.number()] = series;
        }
        return series;
    }

    private DaySeries found(Formula.Leaf leaf, int filters, Map<Integer, String> loops) {
        if (leaf.lacks().stream().anyMatch(members::containsKey)) {
            return null;
        }
        List<Members> taken = new ArrayList<>();
        for (int i = 0; i < leaf.dimensions().size(); i++) {
            int loop = leaf.loops().get(i);
            taken.add(
                    loop == PlanNode.Reach.ROW
                            ? members.get(leaf.dimensions().get(i))
                            : loops.containsKey(loop) ? Members.of(loops.get(loop)) : null);
        }
        return overAll(leaf)
                ? store.slice(leaf.whole(), taken.subList(1, taken.size()), filters)
                : store.slice(leaf.series(), taken, filters);
    }
}
