package dev.mile.render;

import dev.mile.measure.Target;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Writes a grid as CSV: exact values without format, blanks empty, LF; leaf rows only unless totals are asked for. */
public final class GridCsv {
    private GridCsv() {}

    /**
     * Writes the grid.
     *
     * @param totals whether subtotals, the rest and the total are written too, their finer columns empty
     */
    public static void write(Grid grid, boolean totals, Appendable out) throws IOException {
        List<String> header = new ArrayList<>(grid.keys());
        grid.columns().forEach(column -> header.add(Csv.harmless(column.header())));
        Csv.line(out, header);
        for (Grid.Row row : grid.rows()) {
            if (row.kind() != Grid.Kind.LEAF && !totals) {
                continue;
            }
            List<String> fields = new ArrayList<>();
            for (int i = 0; i < grid.keys().size(); i++) {
                fields.add(i < row.labels().size() ? Csv.harmless(row.labels().get(i)) : "");
            }
            for (int c = 0; c < grid.columns().size(); c++) {
                fields.add(value(grid.columns().get(c), row.values().get(c)));
            }
            Csv.line(out, fields);
        }
    }

    /** Returns the value in exact digits; the word of a status. */
    static String value(Grid.Column column, Value value) {
        if (column.part() == Grid.Part.STATUS) {
            return value.isBlank() ? "" : status(value).word();
        }
        return value.toString();
    }

    static Target.Status status(Value value) {
        return Target.Status.values()[value.decimal().intValueExact()];
    }
}
