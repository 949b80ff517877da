package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import dev.mile.render.layout.Csv;
import dev.mile.render.layout.ExactText;
import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.List;

/**
 * Writes a report as CSV: exact values without format, blanks empty, LF; leaf rows only unless totals are asked for. It keeps no
 * row, so a report may be longer than the memory; notes are left out.
 */
public final class GridCsv implements GridSink {
    private final boolean totals;
    private final Appendable out;
    private Grid.Header head;

    /**
     * Returns a writer.
     *
     * @param totals whether subtotals, the rest and the total are written too, their finer columns empty
     * @param out where it is written
     */
    public GridCsv(boolean totals, Appendable out) {
        requireNonNull(out, "out is null");
        this.totals = totals;
        this.out = out;
    }

    /**
     * Writes a grid that was computed before.
     *
     * @param grid the report that was computed
     * @param totals whether subtotals are written
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void write(Grid grid, boolean totals, Appendable out) throws IOException {
        requireNonNull(grid, "grid is null");
        requireNonNull(out, "out is null");
        GridCsv csv = new GridCsv(totals, out);
        try {
            csv.header(grid.header());
            grid.rows().forEach(csv::row);
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    @Override
    public void header(Grid.Header known) {
        head = known;
        List<String> header = new ArrayList<>();
        head.keys().forEach(key -> header.add(key.name()));
        head.columns().forEach(column -> header.add(Csv.neutralizeFormula(column.header())));
        line(header);
    }

    @Override
    public void row(Grid.Row row) {
        if (row.kind() != Grid.RowKind.LEAF && !totals) {
            return;
        }
        List<String> fields = new ArrayList<>();
        for (int i = 0; i < head.keys().size(); i++) {
            fields.add(
                    i < row.labels().size() ? Csv.neutralizeFormula(row.labels().get(i)) : "");
        }
        for (int c = 0; c < head.columns().size(); c++) {
            fields.add(ExactText.of(row, c));
        }
        line(fields);
    }

    @Override
    public void notes(List<String> notes) {
        // data files hold data alone
    }

    private void line(List<String> fields) {
        try {
            Csv.line(out, fields);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
