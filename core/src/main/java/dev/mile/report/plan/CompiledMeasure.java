package dev.mile.report.plan;

import dev.mile.calendar.Level;
import dev.mile.fact.RowExpression;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import java.io.Serializable;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/**
 * A measure compiled: aggregates are numbers in tables of windows and of series, so that evaluation looks no name up. Serializable,
 * so that machines of a cluster can evaluate it. Immutable.
 */
public sealed interface CompiledMeasure extends Serializable {
    /** Returns the value in a cell. */
    Value evaluate(EvaluationContext context);

    /** A number. */
    record Constant(Value value) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            return value;
        }
    }

    /** Two measures with a sign between them. */
    record Arithmetic(CompiledMeasure left, RowExpression.Sign sign, CompiledMeasure right) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            Value a = left.evaluate(context);
            Value b = right.evaluate(context);
            return switch (sign) {
                case PLUS -> a.plus(b);
                case MINUS -> a.minus(b);
                case TIMES -> a.times(b);
                case DIVIDED_BY -> a.dividedBy(b);
            };
        }
    }

    /** A measure with the other sign. */
    record Negated(CompiledMeasure operand) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            return operand.evaluate(context).negated();
        }
    }

    /** A measure, or a number where it is blank. */
    record OrElse(CompiledMeasure operand, Value otherwise) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            return operand.evaluate(context).or(otherwise);
        }
    }

    /** Two measures that add, blank only if both are. */
    record Sum(CompiledMeasure actual, CompiledMeasure after) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            return sumIgnoringBlanks(actual.evaluate(context), after.evaluate(context));
        }
    }

    /** A measure that is blank on rows coarser than the level. */
    record OnlyAt(Level level, CompiledMeasure operand) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            boolean coarser =
                    context.finestLevel().map(f -> f.isCoarserThan(level)).orElse(true);
            return coarser ? Value.BLANK : operand.evaluate(context);
        }
    }

    /** The days, or working days, of a window. */
    record DayCount(int number) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            return context.dayCount(number);
        }
    }

    /**
     * The sum of a measure over the members of a dimension.
     *
     * @param id identifies this loop
     * @param dimension the dimension
     * @param within the loop over the same dimension around it, {@link PlanNode.MemberBinding#ROW}, or {@link PlanNode.Each#ALL}
     * @param sources whose groups show the members
     * @param operand the measure
     */
    record Each(int id, String dimension, int within, List<LoopMembers> sources, CompiledMeasure operand)
            implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            Value sum = Value.BLANK;
            for (String member : context.members(this)) {
                sum = sumIgnoringBlanks(sum, operand.evaluate(context.withMember(id, member)));
            }
            return sum;
        }
    }

    /** Groups that have members of a dimension, and which of their columns it is. */
    record LoopMembers(SeriesBinding binding, int column) implements Serializable {}

    /**
     * An aggregate.
     *
     * @param number its number, by which the table of windows knows what it looks at
     * @param binding whose totals it reads
     * @param aggregation how the days of the window become a number
     * @param countsRows whether it is about rows rather than values
     * @param across the dimensions of the report that it ignores
     */
    record Aggregate(
            int number, SeriesBinding binding, Measure.Aggregation aggregation, boolean countsRows, List<String> across)
            implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            return context.aggregate(this);
        }
    }

    /** Returns the sum of two values, blank only if both are. */
    private static Value sumIgnoringBlanks(Value a, Value b) {
        return a.isBlank() ? b : b.isBlank() ? a : a.plus(b);
    }

    /** What a compiled measure asks of the cell in which it is evaluated. */
    interface EvaluationContext {
        /** Returns the value of an aggregate in its window of the cell; notes whether it found rows of the row's own members. */
        Value aggregate(Aggregate aggregate);

        /** Returns the days, or working days, of the count of the number. */
        Value dayCount(int number);

        /** Returns the finest level of the cell. */
        Optional<Level> finestLevel();

        /** Returns the members over which a loop runs in the cell, by code point, a blank as null. */
        Set<String> members(Each loop);

        /** Returns the context of the same cell inside a loop, at one of its members. */
        EvaluationContext withMember(int loop, String member);
    }
}
