package dev.mile.report.plan;

import dev.mile.report.Report;
import dev.mile.report.axis.Axis;
import dev.mile.report.axis.MemberAxis;
import dev.mile.report.axis.RecentAxis;
import dev.mile.report.axis.ReportAxes;
import java.io.Serializable;
import java.util.List;
import java.util.Optional;

/**
 * How the groups of a report can be evaluated while they come from the engine, one member of the first dimension of the rows after
 * the other, so that memory does not grow with their number.
 *
 * @param dimension the first dimension
 * @param leadingTimeAxes how many axes, all of time, come before it
 * @param needsReordering whether rows come in another order than they are shown in: by time first, or sorted by a measure
 * @param needsAllMembers whether there are rows of all members too; their totals are asked for by themselves
 */
public record StreamingPlan(String dimension, int leadingTimeAxes, boolean needsReordering, boolean needsAllMembers)
        implements Serializable {
    /**
     * Returns the plan, if the report has one: its first dimension has members that come in the order of the rows, no column needs
     * the members of all rows, and every aggregate reads the row's own member of it, or ignores it.
     */
    static Optional<StreamingPlan> of(Report report, ReportAxes axes, List<PlanNode.AggregateNode> aggregates) {
        List<Axis> rows = axes.rows();
        int leading = 0;
        while (leading < rows.size() && !(rows.get(leading) instanceof MemberAxis)) {
            leading++;
        }
        if (leading == rows.size() || axes.hasMemberColumns()) {
            return Optional.empty();
        }
        // the row of the rest needs the totals of all its members
        if (report.top().isPresent() && leading == rows.size() - 1) {
            return Optional.empty();
        }
        String dimension = rows.get(leading).name();
        List<PlanNode.AggregateNode> own = aggregates.stream()
                .filter(aggregate -> readsRowMember(aggregate, dimension))
                .toList();
        boolean othersIgnoreIt = aggregates.stream()
                .filter(aggregate -> !own.contains(aggregate))
                .allMatch(aggregate -> ignores(aggregate, dimension)
                        && own.stream().noneMatch(o -> o.series().isOfRequestOf(aggregate.series())));
        if (!othersIgnoreIt || own.isEmpty()) {
            return Optional.empty();
        }
        boolean reordered =
                leading > 0 || report.sort().isPresent() || report.top().isPresent();
        boolean totals =
                report.totals() && rows.subList(leading, rows.size()).stream().noneMatch(RecentAxis.class::isInstance);
        return Optional.of(new StreamingPlan(dimension, leading, reordered, totals));
    }

    /** Returns whether the aggregate reads the row's member of the dimension, by which its groups are sorted first. */
    static boolean readsRowMember(PlanNode.AggregateNode aggregate, String dimension) {
        PlanNode.MemberBinding binding = aggregate.memberBindings().get(dimension);
        return aggregate.alwaysBlankBecause().isEmpty()
                && binding != null
                && binding.scope() == PlanNode.MemberBinding.ROW
                && aggregate.series().groups().get(0).equals(binding.field())
                && aggregate.memberBindings().values().stream()
                        .filter(other -> other.field().equals(binding.field()))
                        .allMatch(other -> other == binding);
    }

    private static boolean ignores(PlanNode.AggregateNode aggregate, String dimension) {
        return aggregate.alwaysBlankBecause().isPresent()
                || !aggregate.memberBindings().containsKey(dimension);
    }
}
