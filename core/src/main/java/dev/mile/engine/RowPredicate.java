package dev.mile.engine;

import dev.mile.fact.Condition;
import dev.mile.fact.Operand;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/** A condition made ready for the rows of one table: true, false, or unknown where a blank decides. */
@FunctionalInterface
public interface RowPredicate {
    byte NO = 0;
    byte YES = 1;
    byte UNKNOWN = 2;

    byte test(int row);

    /** Where the values of operands come from. */
    interface Source {
        /** Returns the value of the operand in a row: a text, a number, or a date; null for a blank. */
        Object value(Operand operand, int row);
    }

    static RowPredicate of(Condition condition, Source source, DayContext days) {
        if (condition instanceof Condition.And and) {
            List<RowPredicate> parts =
                    and.parts().stream().map(p -> of(p, source, days)).toList();
            return row -> {
                byte all = YES;
                for (RowPredicate part : parts) {
                    byte one = part.test(row);
                    if (one == NO) {
                        return NO;
                    }
                    all = one == UNKNOWN ? UNKNOWN : all;
                }
                return all;
            };
        }
        if (condition instanceof Condition.Or or) {
            return anyOf(or.parts().stream().map(p -> of(p, source, days)).toList());
        }
        if (condition instanceof Condition.Not not) {
            RowPredicate part = of(not.part(), source, days);
            return row -> {
                byte one = part.test(row);
                return one == UNKNOWN ? UNKNOWN : one == YES ? NO : YES;
            };
        }
        if (condition instanceof Condition.IsBlank blank) {
            return row -> source.value(blank.value(), row) == null ? YES : NO;
        }
        if (condition instanceof Condition.Like like) {
            Comparisons.commonType(condition, List.of(like.value(), new Operand.Text("x")), days);
            return row -> {
                Object value = source.value(like.value(), row);
                return value == null ? UNKNOWN : yes(Comparisons.like(value.toString(), like.pattern()));
            };
        }
        if (condition instanceof Condition.Between between) {
            RowPredicate low = of(
                    new Condition.Compare(between.value(), Condition.Comparison.AT_LEAST, between.low()), source, days);
            RowPredicate high = of(
                    new Condition.Compare(between.value(), Condition.Comparison.AT_MOST, between.high()), source, days);
            return row -> {
                byte one = low.test(row);
                byte two = high.test(row);
                return one == NO || two == NO ? NO : one == UNKNOWN || two == UNKNOWN ? UNKNOWN : YES;
            };
        }
        if (condition instanceof Condition.In in) {
            List<RowPredicate> each = new ArrayList<>();
            for (Operand value : in.among()) {
                each.add(of(new Condition.Compare(in.value(), Condition.Comparison.EQUAL, value), source, days));
            }
            return anyOf(each);
        }
        Condition.Compare compare = (Condition.Compare) condition;
        ValueType type = Comparisons.commonType(condition, List.of(compare.left(), compare.right()), days);
        return row -> {
            Object left = typed(source.value(compare.left(), row), type);
            Object right = typed(source.value(compare.right(), row), type);
            if (left == null || right == null) {
                return UNKNOWN;
            }
            return yes(compare.comparison().holds(compare(left, right)));
        };
    }

    /** One that holds decides, whatever blanks stand before it. */
    private static RowPredicate anyOf(List<RowPredicate> tests) {
        return row -> {
            byte any = NO;
            for (RowPredicate test : tests) {
                byte one = test.test(row);
                if (one == YES) {
                    return YES;
                }
                any = one == UNKNOWN ? UNKNOWN : any;
            }
            return any;
        };
    }

    private static byte yes(boolean holds) {
        return holds ? YES : NO;
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
}
