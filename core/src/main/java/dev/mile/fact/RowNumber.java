package dev.mile.fact;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.calendar.MileException;
import java.math.BigDecimal;

/** A row expression made ready for the rows of one table: exact decimals of one scale, or floating numbers. */
interface RowNumber {
    /** Stands for a scale that is not one: the values are floating. */
    int FLOATING = -1;

    boolean blank(int row);

    /** Returns the unscaled value of a row that is not blank; only where the scale is not {@link #FLOATING}. */
    long exact(int row);

    /** Returns the value of a row that is not blank as a floating number. */
    default double floating(int row) {
        return BigDecimal.valueOf(exact(row), scale()).doubleValue();
    }

    int scale();

    /** Returns the unscaled values of all rows, where none is blank and they lie in an array; else null. */
    default long[] plain() {
        return null;
    }

    /** Where columns and dates come from. */
    interface Source {
        RowNumber number(Operand.Field field);

        /** Returns the epoch day of a row's date, {@link Table#NO_DATE} where it has none that can be read. */
        int day(Operand operand, int row);
    }

    static RowNumber of(RowExpression expression, Source source, DayKnowledge days) {
        if (expression instanceof RowExpression.Constant c) {
            BigDecimal value = c.value();
            return constant(value.unscaledValue().longValueExact(), value.scale());
        }
        if (expression instanceof RowExpression.Value v) {
            if (v.operand() instanceof Operand.Field f) {
                return source.number(f);
            }
            throw MileException.model("'%s' is not a number; add up a column of numbers", v.operand());
        }
        if (expression instanceof RowExpression.Elapsed e) {
            return elapsed(e, source, days);
        }
        RowExpression.Arithmetic a = (RowExpression.Arithmetic) expression;
        return arithmetic(of(a.left(), source, days), a.sign(), of(a.right(), source, days));
    }

    private static RowNumber constant(long unscaled, int scale) {
        return new RowNumber() {
            @Override
            public boolean blank(int row) {
                return false;
            }

            @Override
            public long exact(int row) {
                return unscaled;
            }

            @Override
            public int scale() {
                return Math.max(scale, 0);
            }
        };
    }

    private static RowNumber elapsed(RowExpression.Elapsed e, Source source, DayKnowledge days) {
        int scale = e.unit() == RowExpression.TimeUnit.WORKING_DAYS ? 6 : 0;
        FiscalCalendar calendar = days.calendar("");
        return new RowNumber() {
            @Override
            public boolean blank(int row) {
                return outside(source.day(e.from(), row)) || outside(source.day(e.to(), row));
            }

            private boolean outside(int day) {
                return day == Table.NO_DATE
                        || day == Table.UNREADABLE
                        || !days.counted().contains(day);
            }

            @Override
            public long exact(int row) {
                int from = source.day(e.from(), row);
                int to = source.day(e.to(), row);
                return switch (e.unit()) {
                    case DAYS -> to - from;
                    case WORKING_DAYS ->
                        days.workingIndexMillionths(e.week(), to) - days.workingIndexMillionths(e.week(), from);
                    case MONTHS -> calendar.completeUnits(from, to, Level.PERIOD);
                    case YEARS -> calendar.completeUnits(from, to, Level.YEAR);
                };
            }

            @Override
            public int scale() {
                return scale;
            }
        };
    }

    private static RowNumber arithmetic(RowNumber left, RowExpression.Sign sign, RowNumber right) {
        boolean exact = left.scale() != FLOATING && right.scale() != FLOATING && sign != RowExpression.Sign.DIVIDED_BY;
        int scale = !exact
                ? FLOATING
                : sign == RowExpression.Sign.TIMES
                        ? left.scale() + right.scale()
                        : Math.max(left.scale(), right.scale());
        long liftLeft = !exact || sign == RowExpression.Sign.TIMES ? 1 : power(scale - left.scale());
        long liftRight = !exact || sign == RowExpression.Sign.TIMES ? 1 : power(scale - right.scale());
        return new RowNumber() {
            @Override
            public boolean blank(int row) {
                return left.blank(row)
                        || right.blank(row)
                        || (sign == RowExpression.Sign.DIVIDED_BY && right.floating(row) == 0);
            }

            @Override
            public long exact(int row) {
                long a = left.exact(row);
                long b = right.exact(row);
                return switch (sign) {
                    case PLUS -> Math.addExact(Math.multiplyExact(a, liftLeft), Math.multiplyExact(b, liftRight));
                    case MINUS -> Math.subtractExact(Math.multiplyExact(a, liftLeft), Math.multiplyExact(b, liftRight));
                    default -> Math.multiplyExact(a, b);
                };
            }

            @Override
            public double floating(int row) {
                if (exact) {
                    return BigDecimal.valueOf(exact(row), scale).doubleValue();
                }
                double a = left.floating(row);
                double b = right.floating(row);
                return switch (sign) {
                    case PLUS -> a + b;
                    case MINUS -> a - b;
                    case TIMES -> a * b;
                    case DIVIDED_BY -> a / b;
                };
            }

            @Override
            public int scale() {
                return scale;
            }
        };
    }

    private static long power(int exponent) {
        long power = 1;
        for (int i = 0; i < exponent; i++) {
            power = Math.multiplyExact(power, 10L);
        }
        return power;
    }
}
