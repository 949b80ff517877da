package dev.mile.report.plan;

import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;

/** The values and statuses of a row on its way, by column of the grid. Not for use by several threads. */
public final class RowValues {
    private final Value[] values;
    private final TargetStatus[] statuses;

    /** Returns values that are unknown, and no statuses. */
    public RowValues(int columns) {
        values = new Value[columns];
        Arrays.fill(values, Value.UNKNOWN);
        statuses = new TargetStatus[columns];
    }

    /** Returns the values; blank in columns of statuses. */
    public Value[] values() {
        return values;
    }

    /** Returns the status of each target by column of the grid; no entry if it is unknown. */
    public Map<Integer, TargetStatus> statusesByColumn() {
        Map<Integer, TargetStatus> byColumn = null;
        for (int c = 0; c < statuses.length; c++) {
            if (statuses[c] != null) {
                byColumn = byColumn == null ? new LinkedHashMap<>() : byColumn;
                byColumn.put(c, statuses[c]);
            }
        }
        return byColumn == null ? Map.of() : byColumn;
    }

    /** Returns the statuses; null if there is none. */
    public TargetStatus[] statuses() {
        return statuses;
    }
}
