package dev.mile.report.plan;

import dev.mile.measure.TargetBands;
import dev.mile.measure.Value;
import dev.mile.report.plan.CompiledMeasure.EvaluationContext;
import java.io.Serializable;
import org.jspecify.annotations.Nullable;

/**
 * A measure or target that a report shows, compiled. Immutable.
 *
 * @param value the measure
 * @param goal its goal; null for a measure
 * @param bands how; null for a measure
 */
public record CompiledColumn(CompiledMeasure value, @Nullable CompiledMeasure goal, @Nullable TargetBands bands)
        implements Serializable {
    /**
     * Puts the value into the row, and for a target the goal and the status behind it.
     *
     * @return the index of the column behind
     */
    public int evaluateInto(RowValues row, int index, EvaluationContext context) {
        Value measured = value.evaluate(context);
        row.values()[index] = measured;
        if (goal == null || bands == null) {
            return index + 1;
        }
        Value against = goal.evaluate(context);
        row.values()[index + 1] = against;
        bands.status(measured, against).ifPresent(status -> row.setStatus(index + 2, status));
        return index + 3;
    }
}
