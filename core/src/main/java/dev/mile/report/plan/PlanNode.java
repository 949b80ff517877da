package dev.mile.report.plan;

import dev.mile.calendar.Level;
import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.measure.Value;
import dev.mile.span.Span;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;

/**
 * A measure with every name looked up, ready to be compiled. What two measures name in the same way is one node: plans are graphs, since the
 * trees of measures that name others twice would double at each name.
 */
public sealed interface PlanNode {
    /** Returns the nodes of which this one is made. */
    default List<PlanNode> parts() {
        return List.of();
    }

    /** Hands this node and all below it to the visitor, each once however often it is used. */
    default void visit(Consumer<PlanNode> visitor) {
        visit(visitor, Collections.newSetFromMap(new IdentityHashMap<>()));
    }

    private void visit(Consumer<PlanNode> visitor, Set<PlanNode> seen) {
        if (seen.add(this)) {
            visitor.accept(this);
            parts().forEach(part -> part.visit(visitor, seen));
        }
    }

    /** A number. */
    record Number(Value value) implements PlanNode {}

    /** Two nodes with a sign between them. */
    record Arithmetic(PlanNode left, RowExpression.Sign sign, PlanNode right) implements PlanNode {
        @Override
        public List<PlanNode> parts() {
            return List.of(left, right);
        }
    }

    /** A node with the other sign. */
    record Negated(PlanNode of) implements PlanNode {
        @Override
        public List<PlanNode> parts() {
            return List.of(of);
        }
    }

    /** A node, or a number where it is nothing or undefined. */
    record OrElse(PlanNode of, Value otherwise) implements PlanNode {
        @Override
        public List<PlanNode> parts() {
            return List.of(of);
        }
    }

    /** Two nodes that add, a blank one left out: actual and what comes after it. */
    record Sum(PlanNode actual, PlanNode after) implements PlanNode {
        @Override
        public List<PlanNode> parts() {
            return List.of(actual, after);
        }
    }

    /** A node that is unknown in cells coarser than the level. */
    record OnlyAt(Level level, PlanNode of) implements PlanNode {
        @Override
        public List<PlanNode> parts() {
            return List.of(of);
        }
    }

    /**
     * The sum of a node over the members of a dimension.
     *
     * @param id identifies this loop; aggregates below refer to it in {@link MemberBinding}
     * @param dimension the dimension
     * @param within the loop over the same dimension around it, whose member alone is taken; {@link MemberBinding#ROW} for the members of
     *     the report's row, {@link #ALL} for every member
     * @param with the factor that must be a number for a member to count
     * @param of the node
     */
    record Each(int id, String dimension, int within, Optional<PlanNode> with, PlanNode of) implements PlanNode {
        /** Stands for no limit of the members. */
        public static final int ALL = -2;

        @Override
        public List<PlanNode> parts() {
            return with.map(factor -> List.of(of, factor)).orElse(List.of(of));
        }
    }

    /** Which members of a dimension a leaf takes: those of the report's row, or the one of a loop. */
    record MemberBinding(Operand.Field field, int scope) {
        /** The loop number of the report's row. */
        public static final int ROW = -1;
    }

    /**
     * What every leaf has.
     *
     * @param span the steps
     * @param cutAtAsOf whether the cell is cut at the as-of date before the first step
     * @param per what its value is divided by
     */
    record WindowSpec(Span span, boolean cutAtAsOf, Optional<Per> per) {
        /** Returns the clauses as text, to follow their operand: {@code over 1 year back}. */
        @Override
        public String toString() {
            return (span.isEmpty() ? "" : " over " + span)
                    + per.map(unit -> " per " + unit).orElse("");
        }
    }

    /** The days or working days of the window. */
    record DayCount(boolean working, Optional<String> week, WindowSpec window, List<String> across)
            implements PlanNode {
        @Override
        public String toString() {
            return (working ? "working_days()" : "days()")
                    + week.map(name -> " of " + name).orElse("")
                    + window;
        }
    }

    /**
     * An aggregate.
     *
     * @param series what is asked of the engine
     * @param aggregation how the days of the window become a number
     * @param window its window
     * @param needsWhole whether it is unknown unless every day of the window is covered
     * @param limits the days on which single members could have rows
     * @param memberBindings the dimensions by name that its rows are grouped by
     * @param missingDimensions the dimensions of the report that its fact lacks
     * @param across the dimensions of the report that it ignores
     * @param alwaysBlankBecause why it is blank on every row; empty where it is not
     * @param text the aggregate in the language
     */
    record AggregateNode(
            Series series,
            Measure.Aggregation aggregation,
            WindowSpec window,
            boolean needsWhole,
            List<MemberLimit> limits,
            Map<String, MemberBinding> memberBindings,
            List<String> missingDimensions,
            List<String> across,
            Optional<String> alwaysBlankBecause,
            String text)
            implements PlanNode {
        @Override
        public String toString() {
            return text + window;
        }
    }

    /**
     * What is asked of the engine for a leaf; equal ones are asked once.
     *
     * @param fact the fact
     * @param role the role
     * @param value the value of a row; empty for rows
     * @param where the rows that count
     * @param groups the columns to group by
     */
    record Series(
            String fact,
            String role,
            Optional<RowExpression> value,
            Optional<Condition> where,
            List<Operand.Field> groups) {
        /** Returns the series of all members of the first grouping column together. */
        Series withoutFirstGroup() {
            return new Series(fact, role, value, where, groups.subList(1, groups.size()));
        }

        /** Returns whether both are answered by one request. */
        boolean isOfRequestOf(Series other) {
            return fact.equals(other.fact) && role.equals(other.role) && groups.equals(other.groups);
        }
    }
}
