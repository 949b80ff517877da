package dev.mile.report.plan;

import java.util.ArrayList;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * What a report shows, every name looked up.
 *
 * @param columns what it shows, in order
 * @param sort what rows are sorted by; empty for the order of their keys
 * @param top what the first rows are chosen by; empty for all rows
 * @param notes why measures are blank on some rows, in sentences
 */
public record ReportPlan(
        List<PlannedColumn> columns, Optional<PlanNode> sort, Optional<PlanNode> top, List<String> notes) {
    public ReportPlan {
        columns = List.copyOf(columns);
        notes = List.copyOf(notes);
    }

    /** Returns the plans of all that is evaluated. */
    public List<PlanNode> all() {
        List<PlanNode> all = shown();
        sort.ifPresent(all::add);
        top.ifPresent(all::add);
        return all;
    }

    /** Returns the plans of what is shown. */
    public List<PlanNode> shown() {
        List<PlanNode> plans = new ArrayList<>();
        columns.forEach(column -> plans.addAll(column.plans()));
        return plans;
    }

    /** Returns the aggregates below the plans, in order, each once. */
    public static List<PlanNode.AggregateNode> aggregates(List<PlanNode> plans) {
        Set<PlanNode.AggregateNode> aggregates = Collections.newSetFromMap(new IdentityHashMap<>());
        List<PlanNode.AggregateNode> inOrder = new ArrayList<>();
        plans.forEach(plan -> plan.visit(node -> {
            if (node instanceof PlanNode.AggregateNode aggregate && aggregates.add(aggregate)) {
                inOrder.add(aggregate);
            }
        }));
        return inOrder;
    }
}
