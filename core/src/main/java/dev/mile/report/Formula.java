package dev.mile.report;

import dev.mile.calendar.Level;
import dev.mile.fact.RowExpression;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.series.DailySeries;
import java.io.Serializable;
import java.util.List;
import java.util.Set;

/**
 * The plan of a measure made ready to be worked out again and again: series and aggregates are numbers, days are looked up in the
 * {@link Moment}. It can be sent to where the rows are.
 */
sealed interface Formula extends Serializable {
    /** Returns the value in a cell. */
    Value in(Spot spot);

    /** A number. */
    record Number(Value value) implements Formula {
        @Override
        public Value in(Spot spot) {
            return value;
        }
    }

    /** Two formulas with a sign between them. */
    record Arithmetic(Formula left, RowExpression.Sign sign, Formula right) implements Formula {
        @Override
        public Value in(Spot spot) {
            Value a = left.in(spot);
            Value b = right.in(spot);
            return switch (sign) {
                case PLUS -> a.plus(b);
                case MINUS -> a.minus(b);
                case TIMES -> a.times(b);
                case DIVIDED_BY -> a.dividedBy(b);
            };
        }
    }

    /** A formula with the other sign. */
    record Negated(Formula of) implements Formula {
        @Override
        public Value in(Spot spot) {
            return of.in(spot).negated();
        }
    }

    /** A formula, or a number where it is blank. */
    record OrElse(Formula of, Value otherwise) implements Formula {
        @Override
        public Value in(Spot spot) {
            return of.in(spot).or(otherwise);
        }
    }

    /** Two formulas that add, blank only if both are. */
    record Sum(Formula actual, Formula after) implements Formula {
        @Override
        public Value in(Spot spot) {
            return added(actual.in(spot), after.in(spot));
        }
    }

    /** A formula that is blank on rows coarser than the level. */
    record OnlyAt(Level level, Formula of) implements Formula {
        @Override
        public Value in(Spot spot) {
            Level finest = spot.moment().finest();
            return finest == null || finest.isCoarserThan(level) ? Value.BLANK : of.in(spot);
        }
    }

    /** The days, or working days, of a window. */
    record Days(int number) implements Formula {
        @Override
        public Value in(Spot spot) {
            return spot.moment().days(number);
        }
    }

    /**
     * The sum of a formula over the members of a dimension.
     *
     * @param id tells this loop from others
     * @param dimension the dimension
     * @param within the loop over the same dimension around it, {@link PlanNode.MemberBinding#ROW}, or {@link PlanNode.Each#ALL}
     * @param among whose groups tell the members
     * @param of the formula
     */
    record Each(int id, String dimension, int within, List<Among> among, Formula of) implements Formula {
        @Override
        public Value in(Spot spot) {
            Value sum = Value.BLANK;
            for (String member : members(spot)) {
                sum = added(sum, of.in(spot.inside(id, member)));
            }
            return sum;
        }

        /** Returns the members over which the loop adds. */
        Set<String> members(Spot spot) {
            return spot.members(this);
        }
    }

    /** Groups that have members of a dimension, and the place of the dimension in them. */
    record Among(Reading reading, int place) implements Serializable {}

    /**
     * Whose totals an aggregate reads; aggregates over many windows read those of the same members.
     *
     * @param number its number among those of the report
     * @param series the number of the series
     * @param whole the number of the series over all members of the first grouping column, without that column; the same number
     *     where there is none
     * @param dimensions the dimension of each grouping column
     * @param loops the loop of each grouping column, or {@link PlanNode.MemberBinding#ROW}
     * @param lacks the dimensions of the report that its fact lacks
     */
    record Reading(int number, int series, int whole, List<String> dimensions, List<Integer> loops, List<String> lacks)
            implements Serializable {
        /** Tells whether it takes only the row's own members. */
        boolean withoutLoops() {
            return loops.stream().allMatch(loop -> loop == PlanNode.MemberBinding.ROW);
        }
    }

    /**
     * An aggregate.
     *
     * @param number its number, by which moments know what it looks at
     * @param reading whose totals it reads
     * @param how how the days of the window become a number
     * @param ofRows whether it is about rows rather than values
     * @param across the dimensions of the report that it ignores
     */
    record Leaf(int number, Reading reading, Measure.Aggregation how, boolean ofRows, List<String> across)
            implements Formula {
        @Override
        public Value in(Spot spot) {
            Sight sight = spot.moment().sight(number);
            if (sight == null) {
                return Value.BLANK;
            }
            DailySeries of = spot.series(reading, sight.filters());
            if (of == null) {
                return Value.BLANK;
            }
            int from = of.indexOfFirstFrom(sight);
            int to = of.indexAfter(sight);
            if (sight.own() && of.rowsBetween(from, to) > 0) {
                spot.find(this);
            }
            Value value = of.value(how, ofRows, from, to);
            return sight.units() == null ? value : value.dividedBy(sight.units());
        }
    }

    /** Returns the sum of two values, blank only if both are. */
    static Value added(Value a, Value b) {
        return a.isBlank() ? b : b.isBlank() ? a : a.plus(b);
    }
}
