package dev.mile.report;

import dev.mile.engine.Comparisons;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.series.DailySeries;
import java.util.HashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** Where a formula is worked out: a place in time, the members of the row, and those of the loops around. */
final class Spot {
    private final Moment moment;
    private final RowSeries row;
    private final Map<Integer, String> loops;
    private final Spot outer;
    private boolean found;

    Spot(Moment moment, RowSeries row) {
        this(moment, row, Map.of(), null);
    }

    private Spot(Moment moment, RowSeries row, Map<Integer, String> loops, Spot outer) {
        this.moment = moment;
        this.row = row;
        this.loops = loops;
        this.outer = outer;
    }

    Moment moment() {
        return moment;
    }

    /** Returns the same place inside a loop, at one of its members. */
    Spot inside(int loop, String member) {
        Map<Integer, String> inner = new HashMap<>(loops);
        inner.put(loop, member);
        return new Spot(moment, row, inner, outer == null ? this : outer);
    }

    /** Returns the series that is read here; null where its fact lacks a dimension of the row. */
    DailySeries series(Formula.Reading reading, int filters) {
        return row.series(reading, filters, loops);
    }

    /** Remembers that the aggregate found rows, if they are of the row's own members. */
    void find(Formula.Leaf leaf) {
        if (row.owns(leaf)) {
            (outer == null ? this : outer).found = true;
        }
    }

    /** Tells whether any row was found for the row's own members. */
    boolean found() {
        return found;
    }

    /** Returns the members over which a loop adds here. */
    Set<String> members(Formula.Each each) {
        Members own = each.within() == PlanNode.MemberBinding.ROW
                ? row.members(each.dimension())
                : each.within() == PlanNode.Each.ALL ? null : Members.of(loops.get(each.within()));
        Set<String> members = new TreeSet<>(Comparisons.BY_CODE_POINT);
        for (Formula.Among among : each.among()) {
            int place = row.overAll(among.reading()) ? among.place() - 1 : among.place();
            for (String[] group : row.groups(among.reading())) {
                if (own == null || own.has(group[place])) {
                    members.add(group[place]);
                }
            }
        }
        return members;
    }
}
