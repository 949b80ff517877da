package dev.mile.report.run;

import dev.mile.measure.Value;
import dev.mile.report.plan.CellWindows;
import dev.mile.report.plan.CompiledColumn;
import dev.mile.report.plan.CompiledMeasure;
import dev.mile.report.plan.RowValues;
import dev.mile.report.series.MemberFilter;
import dev.mile.report.series.SeriesStore;
import java.util.List;
import java.util.Map;

/**
 * Evaluates measures over the totals of a store: the one place where that is done, for reports, explanations and the machines of a
 * cluster. Not for use by several threads.
 */
public final class RowEvaluator {
    /** An array, since the iterator of a list took a tenth of the evaluation. */
    private final CompiledColumn[] columns;

    private final SeriesStore store;
    private final boolean streamed;

    /**
     * Returns an evaluator.
     *
     * @param columns what is shown
     * @param streamed whether the store holds the groups of one member at a time
     */
    public RowEvaluator(List<CompiledColumn> columns, SeriesStore store, boolean streamed) {
        this.columns = columns.toArray(CompiledColumn[]::new);
        this.store = store;
        this.streamed = streamed;
    }

    /** Returns the totals of the members, a dimension that is not among them taken with all its members. */
    public MemberTotals totalsOf(Map<String, MemberFilter> members) {
        return new MemberTotals(store, members, streamed);
    }

    /**
     * Evaluates all that is shown in a cell.
     *
     * @param row where the values go
     * @param index the column of the first of them
     * @return whether rows were found that count as the row's own
     */
    public boolean evaluateInto(RowValues row, int index, CellWindows windows, MemberTotals totals) {
        CellContext context = new CellContext(windows, totals);
        int at = index;
        for (CompiledColumn column : columns) {
            at = column.evaluateInto(row, at, context);
        }
        return context.foundRows();
    }

    /** Evaluates one measure in a cell. */
    public Value evaluate(CompiledMeasure measure, CellWindows windows, MemberTotals totals) {
        return measure.evaluate(new CellContext(windows, totals));
    }

    /** Returns the context in which the measures of a cell are evaluated one by one. */
    CellContext context(CellWindows windows, MemberTotals totals) {
        return new CellContext(windows, totals);
    }
}
