package dev.mile.report.plan;

import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.Target;
import java.util.List;
import java.util.Optional;

/**
 * A measure or target that a report shows, planned.
 *
 * @param definition the measure
 * @param value its plan
 * @param goal for a target, its goal
 */
public record PlannedColumn(MeasureDefinition definition, PlanNode value, Optional<Goal> goal) {
    /**
     * The goal of a measure.
     *
     * @param target the target
     * @param against the plan of its goal
     */
    public record Goal(Target target, PlanNode against) {}

    /** Returns how many columns of the grid it has. */
    public int width() {
        return goal.isEmpty() ? 1 : 3;
    }

    /** Returns the plans that it is made of. */
    public List<PlanNode> plans() {
        return goal.map(g -> List.of(value, g.against())).orElse(List.of(value));
    }
}
