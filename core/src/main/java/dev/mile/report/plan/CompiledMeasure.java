package dev.mile.report.plan;

import dev.mile.calendar.Level;
import dev.mile.fact.RowExpression;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import java.io.Serializable;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A measure compiled: aggregates are numbers in tables of windows and of series, so that evaluation looks no name up. Serializable,
 * so that machines of a cluster can evaluate it. Immutable.
 */
public sealed interface CompiledMeasure extends Serializable {
    /** Returns the value in a cell. */
    Value evaluate(EvaluationContext context);

    /** Returns the measure itself where it is one that others share. */
    default CompiledMeasure unshared() {
        return this instanceof Shared shared ? shared.operand() : this;
    }

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

    /** A measure, or a number where it is nothing or undefined. */
    record OrElse(CompiledMeasure operand, Value otherwise) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            return operand.evaluate(context).or(otherwise);
        }
    }

    /** Two measures that add; a blank side is left out. */
    record Sum(CompiledMeasure actual, CompiledMeasure after) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            return actual.evaluate(context).plusIfKnown(after.evaluate(context));
        }
    }

    /** A measure that is unknown in cells coarser than the level. */
    record OnlyAt(Level level, CompiledMeasure operand) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            boolean coarser =
                    context.finestLevel().map(f -> f.isCoarserThan(level)).orElse(true);
            return coarser ? Value.UNKNOWN : operand.evaluate(context);
        }
    }

    /**
     * A measure that others share; it is evaluated once in a cell.
     *
     * @param number its number among those that are shared
     */
    record Shared(int number, CompiledMeasure operand) implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            return context.shared(this);
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
     * @param with the factor that must be a number for a member to count; null for none
     * @param operand the measure
     */
    record Each(
            int id,
            String dimension,
            int within,
            List<LoopMembers> sources,
            @Nullable CompiledMeasure with,
            CompiledMeasure operand)
            implements CompiledMeasure {
        private static final String NO_MEMBER = "\u0000";

        @Override
        public Value evaluate(EvaluationContext context) {
            Set<String> members = context.members(this);
            Value sum = Value.UNKNOWN;
            // where no member is found, the kind of the blank is that of a member without rows
            for (String member : members.isEmpty() ? Set.of(NO_MEMBER) : members) {
                EvaluationContext inner = context.withMember(id, member);
                if (with == null || !with.evaluate(inner.withoutOwnRows()).isBlank()) {
                    sum = sum.plusIfKnown(operand.evaluate(inner));
                }
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
     * @param limits the days on which single members could have rows
     */
    record Aggregate(
            int number,
            SeriesBinding binding,
            Measure.Aggregation aggregation,
            boolean countsRows,
            List<String> across,
            List<MemberLimit> limits)
            implements CompiledMeasure {
        @Override
        public Value evaluate(EvaluationContext context) {
            return context.aggregate(this);
        }
    }

    /** What a compiled measure asks of the cell in which it is evaluated. */
    interface EvaluationContext {
        /** Returns the value of an aggregate in its window of the cell; notes whether it found rows of the row's own members. */
        Value aggregate(Aggregate aggregate);

        /** Returns the value of a measure that others share. */
        Value shared(Shared measure);

        /** Returns the days, or working days, of the count of the number. */
        Value dayCount(int number);

        /** Returns the finest level of the cell. */
        Optional<Level> finestLevel();

        /** Returns the members over which a loop runs in the cell, by code point, a blank as null. */
        Set<String> members(Each loop);

        /** Returns the context of the same cell inside a loop, at one of its members. */
        EvaluationContext withMember(int loop, String member);

        /** Returns the context of the same cell in which rows that are found do not count as the row's own. */
        EvaluationContext withoutOwnRows();
    }
}
