package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.internal.LanguageNames;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
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

        /** {@return the sign of the language} */
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

        /** {@return the word of the language} */
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
        public Arithmetic {
            requireNonNull(left, "left is null");
            requireNonNull(sign, "sign is null");
            requireNonNull(right, "right is null");
        }

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
     * another, or to the as-of date ({@link Operand.Name#AS_OF}); blank if either is.
     *
     * @param unit the unit
     * @param from the first date
     * @param to the second date; where it lies before the first, the number is negative
     * @param week the working week it names, if it does; only for working days
     */
    record Elapsed(TimeUnit unit, Operand from, Operand to, Optional<String> week) implements RowExpression {
        /**
         * {@return the time between the dates, in the model's first working week where working days are counted}
         *
         * @param unit the unit
         * @param from the first
         * @param to the second
         */
        public static Elapsed of(TimeUnit unit, Operand from, Operand to) {
            return new Elapsed(unit, from, to, Optional.empty());
        }

        /**
         * {@return the working days counted in the named working week}
         *
         * @param name the name
         */
        public Elapsed withWeek(String name) {
            requireNonNull(name, "name is null");
            return new Elapsed(unit, from, to, Optional.of(name));
        }

        @Override
        public String toString() {
            return unit.word() + "(" + from + ", " + to + ")"
                    + week.map(name -> " of " + LanguageNames.of(name)).orElse("");
        }
    }

    /**
     * {@return the value of a column}
     *
     * @param name the column behind its fact, {@code sales.units}, or behind its lookup, {@code shops.area}
     */
    static RowExpression column(String name) {
        return new Value(new Operand.Name(name));
    }

    /**
     * {@return a number that is the same for all rows}
     *
     * @param value the number
     */
    static RowExpression number(BigDecimal value) {
        return new Constant(value);
    }

    /**
     * {@return a whole number that is the same for all rows}
     *
     * @param value the number
     */
    static RowExpression number(long value) {
        return new Constant(BigDecimal.valueOf(value));
    }

    /**
     * {@return the time from one date of the row to another, in the model's first working week where working days are counted}
     *
     * @param unit the unit
     * @param from the first date, such as {@code sales.ordered}
     * @param to the second date, or {@code as_of}
     */
    static Elapsed elapsed(TimeUnit unit, String from, String to) {
        return Elapsed.of(unit, new Operand.Name(from), new Operand.Name(to));
    }

    /**
     * {@return the sum; blank if either is}
     *
     * @param other the other
     */
    default RowExpression plus(RowExpression other) {
        return new Arithmetic(this, Sign.PLUS, other);
    }

    /**
     * {@return the difference; blank if either is}
     *
     * @param other the other
     */
    default RowExpression minus(RowExpression other) {
        return new Arithmetic(this, Sign.MINUS, other);
    }

    /**
     * {@return the product; blank if either is}
     *
     * @param other the other
     */
    default RowExpression times(RowExpression other) {
        return new Arithmetic(this, Sign.TIMES, other);
    }

    /**
     * {@return the quotient, a double; blank if either is, and for a division by zero}
     *
     * @param other the other
     */
    default RowExpression dividedBy(RowExpression other) {
        return new Arithmetic(this, Sign.DIVIDED_BY, other);
    }

    /**
     * {@return this value, or the number where it is blank}
     *
     * @param number the number
     */
    default RowExpression orElse(BigDecimal number) {
        return new OrElse(this, number);
    }

    /** {@return all operands, in order} */
    default List<Operand> operands() {
        List<Operand> operands = new ArrayList<>();
        map(operand -> {
            operands.add(operand);
            return operand;
        });
        return operands;
    }

    /** {@return whether the values are floating: a column is, or something is divided} */
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

    /** {@return every count of time between two dates of a row in the expression, from left to right} */
    default Stream<Elapsed> elapsed() {
        if (this instanceof Arithmetic a) {
            return Stream.concat(a.left().elapsed(), a.right().elapsed());
        }
        if (this instanceof OrElse o) {
            return o.of().elapsed();
        }
        return this instanceof Elapsed e ? Stream.of(e) : Stream.empty();
    }

    /** {@return whether all values are whole numbers: time in whole units, and arithmetic on it} */
    default boolean whole() {
        if (this instanceof Arithmetic a) {
            return a.sign() != Sign.DIVIDED_BY && a.left().whole() && a.right().whole();
        }
        if (this instanceof OrElse o) {
            return o.of().whole() && o.otherwise().scale() == 0;
        }
        return this instanceof Elapsed e
                ? e.unit() != TimeUnit.WORKING_DAYS
                : this instanceof Constant c && c.value().scale() == 0;
    }

    /**
     * {@return the expression with every value of a column replaced, and no other operand}
     *
     * @param how what replaces each
     */
    default RowExpression mapValues(Function<Operand, RowExpression> how) {
        if (this instanceof Value v) {
            return how.apply(v.operand());
        }
        if (this instanceof Arithmetic a) {
            return new Arithmetic(a.left().mapValues(how), a.sign(), a.right().mapValues(how));
        }
        return this instanceof OrElse o ? new OrElse(o.of().mapValues(how), o.otherwise()) : this;
    }

    /**
     * {@return the expression with every operand replaced}
     *
     * @param how what replaces each
     */
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

    /** One side of a comparison. */
    sealed interface Operand {
        /** {@return what a changed text is made of; any other operand itself} */
        default Operand innermost() {
            return this instanceof Changed changed ? changed.of().innermost() : this;
        }

        /** {@return whether it is the name of the as-of date} */
        default boolean isAsOf() {
            return this instanceof Name name && name.text().equals(Name.AS_OF.text());
        }

        /** {@return whether rows of the same day have the same value: an attribute of the day, or a constant} */
        default boolean isSameForAllRowsOfADay() {
            return this instanceof DayAttribute || this instanceof Text || this instanceof Number;
        }

        /** {@return every count of time between two dates of a row in the operand} */
        default Stream<Elapsed> elapsed() {
            if (this instanceof Field field) {
                return field.named().stream().flatMap(named -> named.of().elapsed());
            }
            if (this instanceof Computed computed) {
                return computed.of().elapsed();
            }
            return this instanceof Changed changed ? changed.of().elapsed() : Stream.empty();
        }

        /**
         * A name as people write it, not yet looked up: {@code shops.region}, {@code channel}, {@code weekday_name}.
         *
         * @param text the name
         */
        record Name(String text) implements Operand {
            /** The as-of date among the dates between which time is counted. */
            public static final Name AS_OF = new Name("as_of");

            public Name {
                if (requireNonNull(text, "text is null").isBlank()) {
                    throw ModelException.of("the name of a column is empty; name one, such as net_amount");
                }
            }

            @Override
            public String toString() {
                return LanguageNames.dotted(text);
            }
        }

        /**
         * A column of the fact, or of a lookup reached over links, or one that the fact names.
         *
         * @param path the columns that are followed from the fact to the lookup; empty for a column of the fact itself
         * @param column the column
         * @param type what it holds
         * @param named how it comes from the row, its names looked up; empty for a column of a source
         */
        record Field(List<String> path, String column, ValueType type, Optional<NamedColumn> named) implements Operand {
            public Field {
                path = List.copyOf(path);
                requireNonNull(named, "named is null");
            }

            /**
             * A column of a source.
             *
             * @param path the linked columns that are followed from the fact
             * @param column the column
             * @param type what it holds
             */
            public Field(List<String> path, String column, ValueType type) {
                this(path, column, type, Optional.empty());
            }

            @Override
            public String toString() {
                return path.isEmpty() ? column : String.join(".", path) + "." + column;
            }
        }

        /**
         * A number computed from the row, in a condition.
         *
         * @param of the number
         */
        record Computed(RowExpression of) implements Operand {
            public Computed {
                requireNonNull(of, "of is null");
            }

            @Override
            public String toString() {
                return of.toString();
            }
        }

        /**
         * A changed text.
         *
         * @param function what changes it
         * @param of the text
         */
        record Changed(TextFunction function, Operand of) implements Operand {
            public Changed {
                requireNonNull(function, "function is null");
                requireNonNull(of, "of is null");
            }

            @Override
            public String toString() {
                return function.word() + "(" + of + ")";
            }
        }

        /**
         * The date of a row in a role.
         *
         * @param role the role
         */
        record RowDate(String role) implements Operand {
            @Override
            public String toString() {
                return role;
            }
        }

        /**
         * A day that is the same for all rows, such as the as-of date.
         *
         * @param date the day
         */
        record Date(LocalDate date) implements Operand {
            public Date {
                requireNonNull(date, "date is null");
            }

            @Override
            public String toString() {
                return "'" + date + "'";
            }
        }

        /**
         * An attribute of the day on which the row is placed.
         *
         * @param column the column of the date dimension
         */
        record DayAttribute(String column) implements Operand {
            @Override
            public String toString() {
                return column;
            }
        }

        /**
         * A text in quotes.
         *
         * @param value the text
         */
        record Text(String value) implements Operand {
            @Override
            public String toString() {
                return "'" + value.replace("'", "''") + "'";
            }
        }

        /**
         * A number.
         *
         * @param value the number
         */
        record Number(BigDecimal value) implements Operand {
            public Number {
                // 1E+3 is written 1000, and has as many decimals
                value = value.scale() < 0 ? value.setScale(0) : value;
            }

            @Override
            public String toString() {
                return value.toPlainString();
            }
        }
    }

    /**
     * A column that a fact names though its source lacks it: a number computed from each row, or the band that holds the number.
     *
     * @param of the number
     * @param bands the bands; empty for the number itself
     */
    record NamedColumn(RowExpression of, Optional<Bands> bands) {
        public NamedColumn {
            requireNonNull(of, "of is null");
            requireNonNull(bands, "bands is null");
        }

        /** {@return what the column holds: a text where it has bands} */
        public ValueType type() {
            return bands.isPresent() ? ValueType.TEXT : of.floating() ? ValueType.FLOATING : ValueType.NUMBER;
        }
    }
}
