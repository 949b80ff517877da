package dev.mile.report.plan;

import dev.mile.measure.Measure;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;

/**
 * The measures of a report compiled together, so that identical aggregates share their windows and series. Immutable.
 *
 * @param byNode the compiled measure of each node of the plans, by identity
 * @param aggregates the aggregates by number
 * @param bindings whose totals they read, by number
 * @param dayCounts the day counts by number
 * @param series the series by number
 * @param uses what aggregates need of series, in the order in which they were met
 */
public record CompiledMeasures(
        Map<PlanNode, CompiledMeasure> byNode,
        List<PlanNode.AggregateNode> aggregates,
        List<SeriesBinding> bindings,
        List<PlanNode.DayCount> dayCounts,
        List<PlanNode.Series> series,
        List<SeriesUse> uses) {
    /** What an aggregate needs of a series. */
    public record SeriesUse(int series, Measure.Aggregation aggregation) {}

    public CompiledMeasures {
        Map<PlanNode, CompiledMeasure> copy = new IdentityHashMap<>(byNode);
        byNode = copy;
        aggregates = List.copyOf(aggregates);
        bindings = List.copyOf(bindings);
        dayCounts = List.copyOf(dayCounts);
        series = List.copyOf(series);
        uses = List.copyOf(uses);
    }

    /** Returns the compiled measure of a node. */
    public CompiledMeasure of(PlanNode node) {
        return byNode.get(node);
    }

    /** Returns the compiled aggregate of a node. */
    public CompiledMeasure.Aggregate of(PlanNode.AggregateNode node) {
        return (CompiledMeasure.Aggregate) byNode.get(node).unshared();
    }
}
