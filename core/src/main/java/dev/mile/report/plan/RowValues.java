package dev.mile.report.plan;

import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The values and statuses of a row on its way, by column of the grid. Not for use by several threads. */
public final class RowValues {
    private final Value[] values;
    /** Null until there is one. */
    private TargetStatus @Nullable [] statuses;

    /** Returns values that are unknown, and no statuses. */
    public RowValues(int columns) {
        values = new Value[columns];
        Arrays.fill(values, Value.UNKNOWN);
    }

    /** Returns the values; blank in columns of statuses. */
    public Value[] values() {
        return values;
    }

    /** Returns the status of each target by column of the grid; no entry if it is unknown. */
    public Map<Integer, TargetStatus> statusesByColumn() {
        if (statuses == null) {
            return Map.of();
        }
        Map<Integer, TargetStatus> byColumn = new LinkedHashMap<>();
        for (int c = 0; c < statuses.length; c++) {
            if (statuses[c] != null) {
                byColumn.put(c, statuses[c]);
            }
        }
        return byColumn;
    }

    /** Sets the status of a target. */
    void setStatus(int column, TargetStatus status) {
        statuses = statuses == null ? new TargetStatus[values.length] : statuses;
        statuses[column] = status;
    }
}
