package dev.mile.report;

import dev.mile.MileException;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.Target;
import dev.mile.measure.Value;
import dev.mile.report.plan.MeasurePlanner;
import dev.mile.report.plan.PlanNode;
import java.io.Serializable;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * A measure or target that a report shows, planned; {@code against} and {@code target} are null for a measure.
 *
 * @param definition the measure
 * @param node its plan
 * @param against the plan of the goal
 * @param target the target
 */
record Shown(MeasureDefinition definition, PlanNode node, PlanNode against, Target target) {
    /**
     * Plans what has the name.
     *
     * @throws MileException if nothing has it
     */
    static Shown of(String name, Project project, MeasurePlanner planner) {
        Target target = project.targets().get(name);
        if (target != null) {
            try {
                MeasureDefinition of = project.measures().get(target.measure());
                PlanNode value = planner.plan(new Measure.Named(target.measure()));
                return new Shown(of, value, planner.plan(target.against()), target);
            } catch (MileException e) {
                throw e.withLocation(target.place());
            }
        }
        MeasureDefinition definition = project.measures().get(name);
        if (definition == null) {
            Set<String> known = new LinkedHashSet<>(project.measures().keySet());
            known.addAll(project.targets().keySet());
            throw MileException.invalidModel(
                    "unknown measure or target '%s'%s", name, Messages.didYouMean(name, known));
        }
        return new Shown(definition, planner.plan(new Measure.Named(name)), null, null);
    }

    /** Returns how many columns it has. */
    int width() {
        return target == null ? 1 : 3;
    }

    List<PlanNode> plans() {
        return against == null ? List.of(node) : List.of(node, against);
    }

    /** Returns it made ready to be worked out. */
    Made made(Evaluator evaluator) {
        return new Made(
                evaluator.formula(node),
                against == null ? null : evaluator.formula(against),
                target == null ? null : target.bands());
    }

    /**
     * It made ready; it can be sent to where the rows are.
     *
     * @param value the measure
     * @param goal the goal; null for a measure
     * @param rule how they are held against each other; null for a measure
     */
    record Made(Formula value, Formula goal, Target.TargetBands rule) implements Serializable {
        /**
         * Puts the value in the cell among others; for a target also the goal, and the place of its status among all.
         *
         * @return the place behind
         */
        int put(Value[] values, int at, Spot spot) {
            Value is = value.in(spot);
            values[at] = is;
            if (goal == null) {
                return at + 1;
            }
            Value against = goal.in(spot);
            values[at + 1] = against;
            values[at + 2] = rule.status(is, against)
                    .map(status -> Value.of(status.ordinal()))
                    .orElse(Value.BLANK);
            return at + 3;
        }
    }
}
