package dev.mile.report.plan;

import dev.mile.report.axis.MemberAxis;
import dev.mile.report.axis.ReportAxes;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * A series whose groups show which members have rows.
 *
 * @param series the number of the series
 * @param columns for each axis of the report the grouping column that holds its member; -1 for axes of time
 */
public record MemberSource(int series, List<Integer> columns) implements Serializable {
    public MemberSource {
        columns = List.copyOf(columns);
    }

    /** Returns the series of the aggregates that have the row's own member on every axis of members. */
    static List<MemberSource> of(ReportAxes axes, List<PlanNode.AggregateNode> aggregates, CompiledMeasures measures) {
        Set<MemberSource> sources = new LinkedHashSet<>();
        for (PlanNode.AggregateNode aggregate : aggregates) {
            List<Integer> columns = new ArrayList<>();
            boolean tells = aggregate.alwaysBlankBecause().isEmpty();
            for (var axis : axes.all()) {
                PlanNode.MemberBinding binding = aggregate.memberBindings().get(axis.name());
                boolean ofMembers = axis instanceof MemberAxis;
                tells &= !ofMembers || (binding != null && binding.scope() == PlanNode.MemberBinding.ROW);
                columns.add(ofMembers && tells ? aggregate.series().groups().indexOf(binding.field()) : -1);
            }
            if (tells) {
                sources.add(new MemberSource(measures.of(aggregate).binding().series(), columns));
            }
        }
        return List.copyOf(sources);
    }
}
