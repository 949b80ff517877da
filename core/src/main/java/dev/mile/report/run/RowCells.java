package dev.mile.report.run;

import dev.mile.calendar.DateRange;
import dev.mile.report.axis.KeyTree;
import dev.mile.report.axis.ReportAxes;
import dev.mile.report.axis.TimeCell;
import dev.mile.report.plan.CompiledReport;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The cells in time of the rows of a report by column; looked up once for all rows of one time. Not for use by several threads. */
final class RowCells {
    private final ReportAxes axes;
    private final List<List<Object>> columnKeys;
    private final int width;
    private final @Nullable TimeCell[] @Nullable [] cellsByNode;
    private final @Nullable List<DateRange>[] daysByNode;

    @SuppressWarnings({"unchecked", "rawtypes"})
    RowCells(CompiledReport compiled, List<List<Object>> columnKeys) {
        this.axes = compiled.axes();
        this.columnKeys = columnKeys;
        this.width = compiled.width();
        this.cellsByNode = new TimeCell[axes.timeTree().size()][];
        this.daysByNode = new List[axes.timeTree().size()];
    }

    /** Returns the keys of the columns, in order. */
    List<List<Object>> columnKeys() {
        return columnKeys;
    }

    /** Returns the cells where a row meets each of the columns, and behind them that of the whole row. */
    TimeCell[] of(List<Object> row, KeyTree times) {
        TimeCell[] cells = cellsByNode[times.number()];
        if (cells == null) {
            cells = new TimeCell[columnKeys.size() + 1];
            for (int c = 0; c < columnKeys.size(); c++) {
                cells[c] = axes.cell(row, columnKeys.get(c));
            }
            cells[columnKeys.size()] = axes.cell(row, List.of());
            cellsByNode[times.number()] = cells;
        }
        return cells;
    }

    /** Returns the cell of a row whatever its columns. */
    TimeCell wholeRow(List<Object> row, KeyTree times) {
        return of(row, times)[columnKeys.size()];
    }

    /** Returns the days of the cells by column of the grid; none where all have those of the row. */
    List<DateRange> days(List<Object> row, KeyTree times) {
        if (!axes.hasTimeColumns()) {
            return List.of();
        }
        if (daysByNode[times.number()] == null) {
            List<DateRange> days = new ArrayList<>();
            for (int c = 0; c < columnKeys.size() * width; c++) {
                days.add(of(row, times)[c / width].days());
            }
            daysByNode[times.number()] = List.copyOf(days);
        }
        return daysByNode[times.number()];
    }
}
