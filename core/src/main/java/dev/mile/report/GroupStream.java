package dev.mile.report;

import dev.mile.report.plan.PlanNode;
import java.util.List;
import java.util.Optional;

/**
 * Tells whether the groups of a report can be worked out while they come from the engine, one member of the first dimension of
 * the rows after the other, so that memory does not grow with their number.
 *
 * @param dimension the first dimension
 * @param before how many parts, all of time, stand before it
 * @param reordered whether rows come in another order than they are shown in: by time first, or sorted by a measure
 */
record GroupStream(String dimension, int before, boolean reordered) {
    /**
     * Returns the stream, if the report has one: its first dimension has members that come in the order of the rows, no
     * column needs the members of all rows, and every aggregate reads the row's own member of it, or ignores it.
     */
    static Optional<GroupStream> of(
            Report report, List<AxisPart> rows, List<AxisPart> columns, List<PlanNode.AggregateNode> leaves) {
        int before = 0;
        while (before < rows.size() && !(rows.get(before) instanceof AxisPart.OfMembers)) {
            before++;
        }
        if (before == rows.size() || columns.stream().anyMatch(AxisPart.OfMembers.class::isInstance)) {
            return Optional.empty();
        }
        // the rest of the members has figures of its own, for which those of all others are needed
        if (report.top().isPresent() && before == rows.size() - 1) {
            return Optional.empty();
        }
        AxisPart first = rows.get(before);
        List<PlanNode.AggregateNode> own =
                leaves.stream().filter(leaf -> readsOwn(leaf, first.name())).toList();
        boolean others = leaves.stream()
                .filter(leaf -> !own.contains(leaf))
                .allMatch(leaf -> ignores(leaf, first.name())
                        && own.stream().noneMatch(o -> samePass(o.series(), leaf.series())));
        return others && !own.isEmpty()
                ? Optional.of(new GroupStream(
                        first.name(),
                        before,
                        before > 0 || report.sort().isPresent() || report.top().isPresent()))
                : Optional.empty();
    }

    private static boolean samePass(PlanNode.Series a, PlanNode.Series b) {
        return a.fact().equals(b.fact())
                && a.role().equals(b.role())
                && a.groups().equals(b.groups());
    }

    /** Tells whether the aggregate reads the row's member of the dimension, by which its groups are sorted first. */
    static boolean readsOwn(PlanNode.AggregateNode leaf, String dimension) {
        PlanNode.MemberBinding reach = leaf.memberBindings().get(dimension);
        return leaf.alwaysBlankBecause().isEmpty()
                && reach != null
                && reach.scope() == PlanNode.MemberBinding.ROW
                && leaf.series().groups().get(0).equals(reach.field())
                && leaf.memberBindings().values().stream()
                        .filter(other -> other.field().equals(reach.field()))
                        .allMatch(other -> other == reach);
    }

    private static boolean ignores(PlanNode.AggregateNode leaf, String dimension) {
        return leaf.alwaysBlankBecause().isPresent() || !leaf.memberBindings().containsKey(dimension);
    }
}
