package dev.mile.render.layout;

import dev.mile.measure.TargetStatus;
import dev.mile.report.Grid;

/** A cell as data files hold it: exact digits, empty for a blank, the word of a status. */
public final class ExactText {
    private ExactText() {}

    public static String of(Grid.Row row, int column) {
        return row.status(column)
                .map(TargetStatus::word)
                .orElseGet(() -> row.values().get(column).toString());
    }
}
