package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.function.IntFunction;
import org.jspecify.annotations.Nullable;

/** A condition compiled for the rows of one table: true, false, or unknown where a blank decides. */
@FunctionalInterface
public interface RowPredicate {
    /**
     * {@return whether the condition holds for the row}
     *
     * @param row the row, from 0
     */
    TruthValue test(int row);

    /** Where the values of operands come from. */
    @FunctionalInterface
    interface Source {
        /**
         * {@return the values of the operand by row, from 0: texts, numbers, or dates; null for a blank}
         *
         * @param operand the operand; not a changed text
         */
        IntFunction<@Nullable Object> values(Operand operand);
    }

    /**
     * {@return a condition, ready for rows}
     *
     * @param condition the condition, its names looked up
     * @param source where values come from
     * @param days what is known of days; null where the condition names none of their attributes
     * @throws dev.mile.MileException if it compares values of different kinds
     */
    static RowPredicate of(Condition condition, Source source, @Nullable DayContext days) {
        if (condition instanceof Condition.And and) {
            RowPredicate[] parts =
                    and.parts().stream().map(p -> of(p, source, days)).toArray(RowPredicate[]::new);
            return row -> {
                TruthValue all = TruthValue.TRUE;
                for (RowPredicate part : parts) {
                    TruthValue one = part.test(row);
                    if (one == TruthValue.FALSE) {
                        return TruthValue.FALSE;
                    }
                    all = one == TruthValue.UNKNOWN ? TruthValue.UNKNOWN : all;
                }
                return all;
            };
        }
        if (condition instanceof Condition.Or or) {
            return anyOf(or.parts().stream().map(p -> of(p, source, days)).toArray(RowPredicate[]::new));
        }
        if (condition instanceof Condition.Not not) {
            RowPredicate part = of(not.part(), source, days);
            return row -> {
                TruthValue one = part.test(row);
                return one == TruthValue.UNKNOWN
                        ? TruthValue.UNKNOWN
                        : one == TruthValue.TRUE ? TruthValue.FALSE : TruthValue.TRUE;
            };
        }
        if (condition instanceof Condition.IsBlank blank) {
            Comparisons.type(blank.value(), days);
            IntFunction<@Nullable Object> values = values(source, blank.value());
            return row -> values.apply(row) == null ? TruthValue.TRUE : TruthValue.FALSE;
        }
        if (condition instanceof Condition.Like like) {
            Comparisons.commonType(condition, List.of(like.value(), new Operand.Text("x")), days);
            IntFunction<@Nullable Object> values = values(source, like.value());
            return row -> {
                Object value = values.apply(row);
                return value == null
                        ? TruthValue.UNKNOWN
                        : TruthValue.of(Comparisons.like(value.toString(), like.pattern()));
            };
        }
        if (condition instanceof Condition.Between between) {
            RowPredicate low = of(
                    new Condition.Compare(between.value(), Condition.Comparison.AT_LEAST, between.low()), source, days);
            RowPredicate high = of(
                    new Condition.Compare(between.value(), Condition.Comparison.AT_MOST, between.high()), source, days);
            return row -> {
                TruthValue one = low.test(row);
                TruthValue two = high.test(row);
                return one == TruthValue.FALSE || two == TruthValue.FALSE
                        ? TruthValue.FALSE
                        : one == TruthValue.UNKNOWN || two == TruthValue.UNKNOWN ? TruthValue.UNKNOWN : TruthValue.TRUE;
            };
        }
        if (condition instanceof Condition.In in) {
            List<RowPredicate> each = new ArrayList<>();
            for (Operand value : in.among()) {
                each.add(of(new Condition.Compare(in.value(), Condition.Comparison.EQUAL, value), source, days));
            }
            return anyOf(each.toArray(RowPredicate[]::new));
        }
        Condition.Compare compare = (Condition.Compare) condition;
        ValueType type = Comparisons.commonType(condition, List.of(compare.left(), compare.right()), days);
        IntFunction<@Nullable Object> lefts = values(source, compare.left());
        IntFunction<@Nullable Object> rights = values(source, compare.right());
        return row -> {
            Object left = typed(lefts.apply(row), type);
            Object right = typed(rights.apply(row), type);
            if (left == null || right == null) {
                return TruthValue.UNKNOWN;
            }
            return TruthValue.of(compare.comparison().holds(compare(left, right)));
        };
    }

    /** The first that holds decides, whatever blanks come before it. */
    private static RowPredicate anyOf(RowPredicate[] tests) {
        return row -> {
            TruthValue any = TruthValue.FALSE;
            for (RowPredicate test : tests) {
                TruthValue one = test.test(row);
                if (one == TruthValue.TRUE) {
                    return TruthValue.TRUE;
                }
                any = one == TruthValue.UNKNOWN ? TruthValue.UNKNOWN : any;
            }
            return any;
        };
    }

    /** Returns the values of the operand by row, texts changed as it says. */
    private static IntFunction<@Nullable Object> values(Source source, Operand operand) {
        if (!(operand instanceof Operand.Changed changed)) {
            return source.values(operand);
        }
        IntFunction<@Nullable Object> texts = values(source, changed.of());
        return row -> {
            Object text = texts.apply(row);
            return text == null
                    ? null
                    : changed.function().apply(text.toString()).orElse(null);
        };
    }

    private static Object typed(Object value, ValueType type) {
        if (value == null) {
            return null;
        }
        if (type == ValueType.DATE && value instanceof String text) {
            return EpochDays.parse(text).orElse(null);
        }
        if (type == ValueType.NUMBER && !(value instanceof BigDecimal)) {
            return new BigDecimal(value.toString());
        }
        return value;
    }

    private static int compare(Object left, Object right) {
        if (left instanceof BigDecimal a && right instanceof BigDecimal b) {
            return a.compareTo(b);
        }
        if (left instanceof LocalDate a && right instanceof LocalDate b) {
            return a.compareTo(b);
        }
        return Comparisons.BY_CODE_POINT.compare(left.toString(), right.toString());
    }

    /** A comparison of attributes of days with constants. */
    @FunctionalInterface
    public interface DayTest {
        /**
         * {@return whether it holds on the epoch day}
         *
         * @param day the epoch day
         */
        TruthValue test(int day);
    }

    /**
     * {@return the comparison, which names attributes of days and constants only, as a question to each day}
     *
     * @param condition the condition
     * @param days what is known of days
     */
    public static DayTest dayTest(Condition condition, DayContext days) {
        requireNonNull(condition, "condition is null");
        requireNonNull(days, "days is null");
        RowPredicate test = of(
                condition,
                operand -> {
                    if (operand instanceof Operand.DayAttribute attribute) {
                        return day -> days.attribute(attribute.column(), day);
                    }
                    Object constant =
                            operand instanceof Operand.Number n ? n.value() : ((Operand.Text) operand).value();
                    return day -> constant;
                },
                days);
        return test::test;
    }
}
