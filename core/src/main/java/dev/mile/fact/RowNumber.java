package dev.mile.fact;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.calendar.MileException;
import java.math.BigDecimal;

/** A row expression made ready for the rows of one table: exact decimals of one scale, or floating numbers. */
interface RowNumber {
    /** Stands for a scale that is not one: the values are floating. */
    int FLOATING = -1;

    /** A column of blanks only. */
    RowNumber BLANK = new RowNumber() {
        @Override
        public boolean blank(int row) {
            return true;
        }

        @Override
        public long exact(int row) {
            throw new IllegalStateException("row " + row + " is blank");
        }

        @Override
        public int scale() {
            return 0;
        }
    };

    boolean blank(int row);

    /**
     * Returns the unscaled value of a row that is not blank; only where the scale is not {@link #FLOATING}.
     *
     * @throws ArithmeticException if it does not fit into a long; {@link #decimal} gives it all the same
     */
    long exact(int row);

    /** Returns the value of a row that is not blank, however many digits it has; only where the scale is not {@link #FLOATING}. */
    default BigDecimal decimal(int row) {
        return BigDecimal.valueOf(exact(row), scale());
    }

    /** Returns the value of a row that is not blank as a floating number. */
    default double floating(int row) {
        return decimal(row).doubleValue();
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
            return constant(c.value());
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

    private static RowNumber constant(BigDecimal value) {
        boolean fits = value.unscaledValue().bitLength() < Long.SIZE;
        long unscaled = fits ? value.unscaledValue().longValueExact() : 0;
        return new RowNumber() {
            @Override
            public boolean blank(int row) {
                return false;
            }

            @Override
            public long exact(int row) {
                if (!fits) {
                    throw new ArithmeticException(value + " does not fit into a long");
                }
                return unscaled;
            }

            @Override
            public BigDecimal decimal(int row) {
                return value;
            }

            @Override
            public int scale() {
                return value.scale();
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
        boolean lifted = exact && sign != RowExpression.Sign.TIMES;
        long liftLeft = lifted ? power(scale - left.scale()) : 1;
        long liftRight = lifted ? power(scale - right.scale()) : 1;
        return new RowNumber() {
            @Override
            public boolean blank(int row) {
                return left.blank(row)
                        || right.blank(row)
                        || (sign == RowExpression.Sign.DIVIDED_BY && right.floating(row) == 0);
            }

            @Override
            public long exact(int row) {
                if (liftLeft == 0 || liftRight == 0) {
                    throw new ArithmeticException("the scales lie too far apart for a long");
                }
                long a = left.exact(row);
                long b = right.exact(row);
                return switch (sign) {
                    case PLUS -> Math.addExact(Math.multiplyExact(a, liftLeft), Math.multiplyExact(b, liftRight));
                    case MINUS -> Math.subtractExact(Math.multiplyExact(a, liftLeft), Math.multiplyExact(b, liftRight));
                    default -> Math.multiplyExact(a, b);
                };
            }

            @Override
            public BigDecimal decimal(int row) {
                BigDecimal a = left.decimal(row);
                BigDecimal b = right.decimal(row);
                return switch (sign) {
                    case PLUS -> a.add(b);
                    case MINUS -> a.subtract(b);
                    default -> a.multiply(b);
                };
            }

            @Override
            public double floating(int row) {
                if (exact) {
                    return decimal(row).doubleValue();
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

    /** Returns the power of ten, 0 where it does not fit into a long. */
    private static long power(int exponent) {
        return exponent > 18 ? 0 : BigDecimal.ONE.movePointRight(exponent).longValueExact();
    }
}
