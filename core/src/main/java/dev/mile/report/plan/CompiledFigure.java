package dev.mile.report.plan;

import dev.mile.calendar.DateRange;
import dev.mile.report.axis.TimeCell;
import java.util.List;
import java.util.Optional;

/** One measure in one cell, compiled as a report is: what an explanation follows. Immutable. */
public final class CompiledFigure {
    private final CompiledMeasures measures;
    private final WindowResolver resolver;
    private final CellWindows windows;
    private final TotalsPlan totals;

    private CompiledFigure(PlanNode plan, TimeCell cell, PlanningContext context) {
        measures = MeasureCompiler.compile(List.of(plan), Optional.empty());
        resolver = new WindowResolver(context);
        WindowTable resolved = WindowTable.resolve(measures, List.of(cell), resolver);
        totals = TotalsPlan.of(measures, resolved, true, context);
        windows = resolved.alignedTo(totals.bucketsByAggregate()).of(cell);
    }

    /** Compiles the plan for the cell. */
    public static CompiledFigure compile(PlanNode plan, TimeCell cell, PlanningContext context) {
        return new CompiledFigure(plan, cell, context);
    }

    /** Returns the compiled measure of a node of the plan. */
    public CompiledMeasure compiled(PlanNode node) {
        return measures.of(node);
    }

    /** Returns the compiled aggregate of a node of the plan. */
    public CompiledMeasure.Aggregate compiled(PlanNode.AggregateNode node) {
        return measures.of(node);
    }

    /** Returns where aggregates look in the cell. */
    public CellWindows windows() {
        return windows;
    }

    /** Returns the days that an aggregate or a day count looks at in the cell. */
    public DateRange window(PlanNode.WindowSpec spec, TimeCell cell) {
        return resolver.window(spec, cell);
    }

    /** Returns what is asked of an engine. */
    public TotalsPlan totals() {
        return totals;
    }
}
