package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import java.math.BigDecimal;
import java.util.Optional;
import java.util.function.Function;
import java.util.stream.Stream;

/** A value of one row: a column, a number, arithmetic on them, or the time between two dates of the row. */
public sealed interface RowExpression {
    /** The signs of arithmetic. */
    enum Sign {
        /** The sum. */
        PLUS("+"),
        /** The difference. */
        MINUS("-"),
        /** The product. */
        TIMES("*"),
        /** The quotient, a double. */
        DIVIDED_BY("/");

        private final String text;

        Sign(String text) {
            this.text = text;
        }

        /** Returns the sign of the language. */
        public String text() {
            return text;
        }
    }

    /** In what the time between two dates of a row is counted. */
    enum TimeUnit {
        /** Days elapsed. */
        DAYS("days"),
        /** Working days elapsed. */
        WORKING_DAYS("working_days"),
        /** Complete weeks of seven days. */
        WEEKS("weeks"),
        /** Complete civil months. */
        MONTHS("months"),
        /** Complete civil years. */
        YEARS("years");

        private final String word;

        TimeUnit(String word) {
            this.word = word;
        }

        /** Returns the word of the language. */
        public String word() {
            return word;
        }
    }

    /** A column, or (before names are looked up) the name of one. */
    record Value(Operand operand) implements RowExpression {
        @Override
        public String toString() {
            return operand.toString();
        }
    }

    /** A number. */
    record Constant(BigDecimal value) implements RowExpression {
        public Constant {
            // 1E+3 is written 1000, and has as many decimals
            value = value.scale() < 0 ? value.setScale(0) : value;
        }

        @Override
        public String toString() {
            return value.toPlainString();
        }
    }

    /** Two values and a sign between them; a division by zero is blank. */
    record Arithmetic(RowExpression left, Sign sign, RowExpression right) implements RowExpression {
        @Override
        public String toString() {
            return bracketed(left) + " " + sign.text() + " " + bracketed(right);
        }

        private static String bracketed(RowExpression e) {
            return e instanceof Arithmetic || e instanceof OrElse ? "(" + e + ")" : e.toString();
        }
    }

    /**
     * A value, or a number where it is blank.
     *
     * @param of the value
     * @param otherwise the number
     */
    record OrElse(RowExpression of, BigDecimal otherwise) implements RowExpression {
        public OrElse {
            requireNonNull(of, "of is null");
            otherwise = otherwise.scale() < 0 ? otherwise.setScale(0) : otherwise;
        }

        @Override
        public String toString() {
            return Arithmetic.bracketed(of) + " or " + otherwise.toPlainString();
        }
    }

    /**
     * The elapsed days or working days, or the complete weeks, months or years of the civil calendar, from one date of the row to
     * another, or to the as-of date ({@link Operand#AS_OF}); blank if either is.
     *
     * @param unit the unit
     * @param from the first date
     * @param to the second date; where it lies before the first, the number is negative
     * @param week the working week it names, if it does; only for working days
     */
    record Elapsed(TimeUnit unit, Operand from, Operand to, Optional<String> week) implements RowExpression {
        /** Returns the time between the dates, in the model's first working week where working days are counted. */
        public static Elapsed of(TimeUnit unit, Operand from, Operand to) {
            return new Elapsed(unit, from, to, Optional.empty());
        }

        /** Returns the working days counted in the named working week. */
        public Elapsed withWeek(String name) {
            requireNonNull(name, "name is null");
            return new Elapsed(unit, from, to, Optional.of(name));
        }

        @Override
        public String toString() {
            return unit.word() + "(" + from + ", " + to + ")"
                    + week.map(name -> " of " + name).orElse("");
        }
    }

    /** Returns whether the values are floating: a column is, or something is divided. */
    default boolean floating() {
        if (this instanceof Arithmetic a) {
            return a.sign() == Sign.DIVIDED_BY
                    || a.left().floating()
                    || a.right().floating();
        }
        if (this instanceof OrElse o) {
            return o.of().floating();
        }
        return this instanceof Value v && v.operand() instanceof Operand.Field f && f.type() == ValueType.FLOATING;
    }

    /** Returns every count of time between two dates of a row in the expression, from left to right. */
    default Stream<Elapsed> elapsed() {
        if (this instanceof Arithmetic a) {
            return Stream.concat(a.left().elapsed(), a.right().elapsed());
        }
        if (this instanceof OrElse o) {
            return o.of().elapsed();
        }
        return this instanceof Elapsed e ? Stream.of(e) : Stream.empty();
    }

    /** Returns the expression with every operand replaced. */
    default RowExpression map(Function<Operand, Operand> how) {
        if (this instanceof Value v) {
            return new Value(how.apply(v.operand()));
        }
        if (this instanceof Arithmetic a) {
            return new Arithmetic(a.left().map(how), a.sign(), a.right().map(how));
        }
        if (this instanceof OrElse o) {
            return new OrElse(o.of().map(how), o.otherwise());
        }
        if (this instanceof Elapsed e) {
            return new Elapsed(e.unit(), how.apply(e.from()), how.apply(e.to()), e.week());
        }
        return this;
    }
}
