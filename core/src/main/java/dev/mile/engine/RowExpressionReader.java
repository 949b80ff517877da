package dev.mile.engine;

import dev.mile.ModelException;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.WholeNumbers;
import java.math.BigDecimal;
import java.util.function.IntToLongFunction;
import org.jspecify.annotations.Nullable;

/** A row expression compiled for the rows of one table: exact decimals of one scale, or floating numbers. */
public interface RowExpressionReader {
    /** Stands for a scale that is not one: the values are floating. */
    int FLOATING = -1;

    /** A column of blanks only. */
    RowExpressionReader BLANK = new RowExpressionReader() {
        @Override
        public boolean isBlank(int row) {
            return true;
        }

        @Override
        public long unscaled(int row) {
            throw new IllegalStateException("row " + row + " is blank");
        }

        @Override
        public int scale() {
            return 0;
        }
    };

    /** The days of a week. */
    int DAYS_OF_A_WEEK = 7;

    /**
     * {@return whether the row has no value}
     *
     * @param row the row, from 0
     */
    boolean isBlank(int row);

    /**
     * {@return the unscaled value of a row that is not blank; only where the scale is not {@link #FLOATING}}
     *
     * @param row the row, from 0
     * @throws ArithmeticException if it does not fit into a long; {@link #decimal} gives it all the same
     */
    long unscaled(int row);

    /**
     * {@return the value of a row that is not blank, however many digits it has; only where the scale is not {@link #FLOATING}}
     *
     * @param row the row, from 0
     */
    default BigDecimal decimal(int row) {
        return BigDecimal.valueOf(unscaled(row), scale());
    }

    /**
     * {@return the value of a row that is not blank as a floating number}
     *
     * @param row the row, from 0
     */
    default double asDouble(int row) {
        return decimal(row).doubleValue();
    }

    /** {@return how many digits the values have after the decimal point; {@link #FLOATING} where they are floating} */
    int scale();

    /** {@return the unscaled values of all rows, 0 for a blank, where they are those of a column; else null} */
    default @Nullable WholeNumbers columnOrNull() {
        return null;
    }

    /** Where columns and dates come from. */
    interface Source {
        /**
         * {@return the numbers of a column}
         *
         * @param field the column
         */
        RowExpressionReader number(Operand.Field field);

        /**
         * {@return the epoch day of a row's date, {@link Table#NO_DATE} where it has none that can be read}
         *
         * @param operand the operand
         * @param row the row, from 0
         */
        int day(Operand operand, int row);
    }

    /**
     * {@return an expression, ready for rows}
     *
     * @param expression the expression, its names looked up
     * @param source where columns and dates come from
     * @param days what is known of days
     * @throws dev.mile.MileException if it names what is not a number
     */
    static RowExpressionReader of(RowExpression expression, Source source, DayContext days) {
        if (expression instanceof RowExpression.Constant c) {
            return constant(c.value());
        }
        if (expression instanceof RowExpression.Value v) {
            if (v.operand() instanceof Operand.Field f) {
                return source.number(f);
            }
            throw ModelException.of("'%s' is not a number; add up a column of numbers", v.operand());
        }
        if (expression instanceof RowExpression.Elapsed e) {
            return elapsed(e, source, days);
        }
        if (expression instanceof RowExpression.OrElse o) {
            return orElse(of(o.of(), source, days), constant(o.otherwise()));
        }
        RowExpression.Arithmetic a = (RowExpression.Arithmetic) expression;
        return arithmetic(of(a.left(), source, days), a.sign(), of(a.right(), source, days));
    }

    private static RowExpressionReader constant(BigDecimal value) {
        boolean fits = value.unscaledValue().bitLength() < Long.SIZE;
        long unscaled = fits ? value.unscaledValue().longValueExact() : 0;
        return new RowExpressionReader() {
            @Override
            public boolean isBlank(int row) {
                return false;
            }

            @Override
            public long unscaled(int row) {
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

    private static RowExpressionReader elapsed(RowExpression.Elapsed e, Source source, DayContext days) {
        int scale = e.unit() == RowExpression.TimeUnit.WORKING_DAYS ? 6 : 0;
        FiscalCalendar calendar = FiscalCalendar.civil();
        IntToLongFunction worked =
                e.unit() == RowExpression.TimeUnit.WORKING_DAYS ? days.cumulativeWorkingMillionths(e) : day -> 0;
        return new RowExpressionReader() {
            @Override
            public boolean isBlank(int row) {
                return outside(source.day(e.from(), row)) || outside(source.day(e.to(), row));
            }

            private boolean outside(int day) {
                return day == Table.NO_DATE
                        || day == Table.UNREADABLE
                        || !days.elapsedRange().contains(day);
            }

            @Override
            public long unscaled(int row) {
                int from = source.day(e.from(), row);
                int to = source.day(e.to(), row);
                return switch (e.unit()) {
                    case DAYS -> to - from;
                    case WEEKS -> (to - from) / DAYS_OF_A_WEEK;
                    case WORKING_DAYS -> worked.applyAsLong(to) - worked.applyAsLong(from);
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

    private static RowExpressionReader orElse(RowExpressionReader of, RowExpressionReader otherwise) {
        int scale = of.scale() == FLOATING ? FLOATING : Math.max(of.scale(), otherwise.scale());
        return new RowExpressionReader() {
            private RowExpressionReader at(int row) {
                return of.isBlank(row) ? otherwise : of;
            }

            @Override
            public boolean isBlank(int row) {
                return false;
            }

            @Override
            public long unscaled(int row) {
                long lift = power(scale - at(row).scale());
                if (lift == 0) {
                    throw new ArithmeticException("the scales lie too far apart for a long");
                }
                return Math.multiplyExact(at(row).unscaled(row), lift);
            }

            @Override
            public BigDecimal decimal(int row) {
                return at(row).decimal(row).setScale(scale);
            }

            @Override
            public double asDouble(int row) {
                return at(row).asDouble(row);
            }

            @Override
            public int scale() {
                return scale;
            }
        };
    }

    private static RowExpressionReader arithmetic(
            RowExpressionReader left, RowExpression.Sign sign, RowExpressionReader right) {
        boolean exact = left.scale() != FLOATING && right.scale() != FLOATING && sign != RowExpression.Sign.DIVIDED_BY;
        int scale = !exact
                ? FLOATING
                : sign == RowExpression.Sign.TIMES
                        ? left.scale() + right.scale()
                        : Math.max(left.scale(), right.scale());
        boolean lifted = exact && sign != RowExpression.Sign.TIMES;
        long liftLeft = lifted ? power(scale - left.scale()) : 1;
        long liftRight = lifted ? power(scale - right.scale()) : 1;
        return new RowExpressionReader() {
            @Override
            public boolean isBlank(int row) {
                return left.isBlank(row)
                        || right.isBlank(row)
                        || (sign == RowExpression.Sign.DIVIDED_BY && right.asDouble(row) == 0);
            }

            @Override
            public long unscaled(int row) {
                if (liftLeft == 0 || liftRight == 0) {
                    throw new ArithmeticException("the scales lie too far apart for a long");
                }
                long a = left.unscaled(row);
                long b = right.unscaled(row);
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
            public double asDouble(int row) {
                if (exact) {
                    return decimal(row).doubleValue();
                }
                double a = left.asDouble(row);
                double b = right.asDouble(row);
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
