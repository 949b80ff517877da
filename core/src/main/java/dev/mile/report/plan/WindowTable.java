package dev.mile.report.plan;

import dev.mile.engine.DayBuckets;
import dev.mile.report.axis.TimeCell;
import java.io.Serializable;
import java.util.Arrays;
import java.util.List;

/** The windows of every aggregate in every cell in time of a report, resolved. Immutable. */
public final class WindowTable implements Serializable {
    private static final long serialVersionUID = 1L;

    private final CellWindows[] cells;

    private WindowTable(CellWindows[] cells) {
        this.cells = cells;
    }

    /** Resolves the windows of the measures in the cells, which are given in the order of their indexes. */
    static WindowTable resolve(CompiledMeasures measures, List<TimeCell> cells, WindowResolver resolver) {
        return new WindowTable(
                cells.stream().map(cell -> resolver.resolve(measures, cell)).toArray(CellWindows[]::new));
    }

    /** Returns the windows of a cell. */
    public CellWindows of(TimeCell cell) {
        return cells[cell.index()];
    }

    /** Returns the windows of all cells. */
    List<CellWindows> all() {
        return List.of(cells);
    }

    /** Returns the table with the indexes of the windows among the buckets in which the totals come, by aggregate. */
    WindowTable alignedTo(List<DayBuckets> bucketsByAggregate) {
        return new WindowTable(Arrays.stream(cells)
                .map(cell -> cell.alignedTo(bucketsByAggregate))
                .toArray(CellWindows[]::new));
    }
}
