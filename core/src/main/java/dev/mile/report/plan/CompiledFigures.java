package dev.mile.report.plan;

import dev.mile.calendar.DateRange;
import dev.mile.report.axis.TimeCell;
import java.util.List;
import java.util.Optional;

/** Measures in some cells in time, compiled as those of a report are: what explanations follow. Immutable. */
public final class CompiledFigures {
    private final CompiledMeasures measures;
    private final WindowResolver resolver;
    private final WindowTable windows;
    private final TotalsPlan totals;

    private CompiledFigures(List<PlanNode> plans, List<TimeCell> cells, PlanningContext context) {
        measures = MeasureCompiler.compile(plans, Optional.empty());
        resolver = new WindowResolver(context);
        WindowTable resolved = WindowTable.resolve(measures, cells, resolver);
        totals = TotalsPlan.of(measures, resolved, true, context);
        windows = resolved.alignedTo(totals.bucketsByAggregate());
    }

    /** Compiles the plans for the cells, which are given in the order of their indexes. */
    public static CompiledFigures compile(List<PlanNode> plans, List<TimeCell> cells, PlanningContext context) {
        return new CompiledFigures(plans, cells, context);
    }

    /** Returns the compiled measure of a node of the plans. */
    public CompiledMeasure compiled(PlanNode node) {
        return measures.of(node);
    }

    /** Returns the compiled aggregate of a node of the plans. */
    public CompiledMeasure.Aggregate compiled(PlanNode.AggregateNode node) {
        return measures.of(node);
    }

    /** Returns where aggregates look in a cell. */
    public CellWindows windows(TimeCell cell) {
        return windows.of(cell);
    }

    /** Returns the days that an aggregate or a day count looks at in a cell. */
    public DateRange window(PlanNode.WindowSpec spec, TimeCell cell) {
        return resolver.window(spec, cell);
    }

    /** Returns what is asked of an engine. */
    public TotalsPlan totals() {
        return totals;
    }
}
