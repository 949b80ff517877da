package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.fact.RowExpression.Operand;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Which rows are kept. A comparison with a blank does not hold, nor does its negation; {@code is blank} asks.
 */
public sealed interface Condition {
    /** How two values are compared. */
    enum Comparison {
        /** Both are equal. */
        EQUAL("="),
        /** They differ. */
        UNEQUAL("!="),
        /** The first is smaller. */
        LESS("<"),
        /** The first is not larger. */
        AT_MOST("<="),
        /** The first is larger. */
        MORE(">"),
        /** The first is not smaller. */
        AT_LEAST(">=");

        private final String sign;

        Comparison(String sign) {
            this.sign = sign;
        }

        /** {@return the sign of the language} */
        public String sign() {
            return sign;
        }

        /**
         * {@return whether it holds for the result of a comparison, negative, 0 or positive}
         *
         * @param compared negative, 0 or positive: how the first compares with the second
         */
        public boolean holds(int compared) {
            return switch (this) {
                case EQUAL -> compared == 0;
                case UNEQUAL -> compared != 0;
                case LESS -> compared < 0;
                case AT_MOST -> compared <= 0;
                case MORE -> compared > 0;
                case AT_LEAST -> compared >= 0;
            };
        }
    }

    /** {@code a < b}. */
    record Compare(Operand left, Comparison comparison, Operand right) implements Condition {
        @Override
        public String toString() {
            return left + " " + comparison.sign() + " " + right;
        }
    }

    /** {@code a in (b, c)}. */
    record In(Operand value, List<Operand> among) implements Condition {
        public In {
            requireNonNull(value, "value is null");
            among = List.copyOf(among);
            if (among.isEmpty()) {
                throw ModelException.of(
                        "`%s in ()` names no values; no row would be kept, so give at least one", value);
            }
        }

        @Override
        public String toString() {
            return value + " in " + among.stream().map(Object::toString).collect(Collectors.joining(", ", "(", ")"));
        }
    }

    /** {@code a between b and c}, both included. */
    record Between(Operand value, Operand low, Operand high) implements Condition {
        @Override
        public String toString() {
            return value + " between " + low + " and " + high;
        }
    }

    /** {@code a like 'N%'}, where % matches any text and _ one character. */
    record Like(Operand value, String pattern) implements Condition {
        @Override
        public String toString() {
            return value + " like " + new Operand.Text(pattern);
        }
    }

    /** {@code a is blank}. */
    record IsBlank(Operand value) implements Condition {
        @Override
        public String toString() {
            return value + " is blank";
        }
    }

    /** All of them hold. */
    record And(List<Condition> parts) implements Condition {
        public And {
            // what stands side by side is one list, however it was put together
            parts = parts.stream()
                    .flatMap(part -> part instanceof And inner ? inner.parts().stream() : Stream.of(part))
                    .toList();
            if (parts.size() < 2) {
                throw ModelException.of(
                        "`and` joins two conditions or more, and there %s %d",
                        parts.isEmpty() ? "are" : "is", parts.size());
            }
        }

        @Override
        public String toString() {
            return parts.stream()
                    .map(p -> p instanceof Or ? "(" + p + ")" : p.toString())
                    .collect(Collectors.joining(" and "));
        }
    }

    /** One of them holds. */
    record Or(List<Condition> parts) implements Condition {
        public Or {
            // what stands side by side is one list, however it was put together
            parts = parts.stream()
                    .flatMap(part -> part instanceof Or inner ? inner.parts().stream() : Stream.of(part))
                    .toList();
            if (parts.size() < 2) {
                throw ModelException.of(
                        "`or` joins two conditions or more, and there %s %d",
                        parts.isEmpty() ? "are" : "is", parts.size());
            }
        }

        @Override
        public String toString() {
            return parts.stream().map(Or::part).collect(Collectors.joining(" or "));
        }

        /** A number behind `or` would stand in for blanks. */
        private static String part(Condition part) {
            String text = part.toString();
            return "-0123456789".indexOf(text.charAt(0)) >= 0 ? "(" + text + ")" : text;
        }
    }

    /** It does not hold. */
    record Not(Condition part) implements Condition {
        @Override
        public String toString() {
            return "not (" + part + ")";
        }
    }

    /**
     * What a condition asks of, before it is said what: {@code column("shops.region").in("North", "West")}. Values are texts, dates
     * ({@link LocalDate}), numbers ({@link BigDecimal} and whole numbers), enum constants by their names, or another column.
     *
     * @param operand the column, or what is made of it
     */
    record Column(Operand operand) {
        public Column {
            requireNonNull(operand, "operand is null");
        }

        /** {@return the text in small letters} */
        public Column lower() {
            return new Column(new Operand.Changed(TextFunction.LOWER, operand));
        }

        /** {@return the text without blanks before and behind} */
        public Column trim() {
            return new Column(new Operand.Changed(TextFunction.TRIM, operand));
        }

        /**
         * {@return whether both are equal}
         *
         * @param value a text, date, number, enum constant or column
         */
        public Condition is(Object value) {
            return compared(Comparison.EQUAL, value);
        }

        /**
         * {@return whether they differ}
         *
         * @param value a text, date, number, enum constant or column
         */
        public Condition isNot(Object value) {
            return compared(Comparison.UNEQUAL, value);
        }

        /**
         * {@return whether this is smaller}
         *
         * @param value a number or column
         */
        public Condition lessThan(Object value) {
            return compared(Comparison.LESS, value);
        }

        /**
         * {@return whether this is not larger}
         *
         * @param value a number or column
         */
        public Condition atMost(Object value) {
            return compared(Comparison.AT_MOST, value);
        }

        /**
         * {@return whether this is larger}
         *
         * @param value a number or column
         */
        public Condition moreThan(Object value) {
            return compared(Comparison.MORE, value);
        }

        /**
         * {@return whether this is not smaller}
         *
         * @param value a number or column
         */
        public Condition atLeast(Object value) {
            return compared(Comparison.AT_LEAST, value);
        }

        /**
         * {@return whether the date lies before the day}
         *
         * @param day the day
         */
        public Condition before(LocalDate day) {
            return compared(Comparison.LESS, day);
        }

        /**
         * {@return whether the date lies after the day}
         *
         * @param day the day
         */
        public Condition after(LocalDate day) {
            return compared(Comparison.MORE, day);
        }

        /**
         * {@return whether the date is the day or lies before it}
         *
         * @param day the day
         */
        public Condition until(LocalDate day) {
            return compared(Comparison.AT_MOST, day);
        }

        /**
         * {@return whether the date is the day or lies after it}
         *
         * @param day the day
         */
        public Condition from(LocalDate day) {
            return compared(Comparison.AT_LEAST, day);
        }

        /**
         * {@return whether this lies between the two, both included}
         *
         * @param low a number, date, text or column
         * @param high likewise
         */
        public Condition between(Object low, Object high) {
            return new Between(operand, value(low), value(high));
        }

        /**
         * {@return whether this is one of the values}
         *
         * @param values texts, dates, numbers or enum constants, at least one
         * @throws ModelException if there are none
         */
        public Condition in(Object... values) {
            return in(Arrays.asList(requireNonNull(values, "values is null")));
        }

        /**
         * {@return whether this is one of the values}
         *
         * @param values texts, dates, numbers or enum constants, at least one
         * @throws ModelException if there are none
         */
        public Condition in(Collection<?> values) {
            return new In(operand, values.stream().map(Column::value).toList());
        }

        /**
         * {@return whether the text is like the pattern}
         *
         * @param pattern a text in which % matches any text and _ one character
         */
        public Condition like(String pattern) {
            return new Like(operand, requireNonNull(pattern, "pattern is null"));
        }

        /** {@return whether there is no value} */
        public Condition isBlank() {
            return new IsBlank(operand);
        }

        /** {@return whether there is a value} */
        public Condition isNotBlank() {
            return isBlank().not();
        }

        private Condition compared(Comparison comparison, Object value) {
            return new Compare(operand, comparison, value(value));
        }

        private static Operand value(Object value) {
            requireNonNull(value, "value is null");
            if (value instanceof Column column) {
                return column.operand();
            }
            if (value instanceof BigDecimal number) {
                return new Operand.Number(number);
            }
            if (value instanceof Long || value instanceof Integer || value instanceof Short || value instanceof Byte) {
                return new Operand.Number(BigDecimal.valueOf(((Number) value).longValue()));
            }
            if (value instanceof CharSequence || value instanceof LocalDate) {
                return new Operand.Text(value.toString());
            }
            if (value instanceof Enum<?> constant) {
                return new Operand.Text(constant.name());
            }
            throw ModelException.of(
                    "a condition cannot compare with %s (%s); give it a text, a LocalDate, a BigDecimal, a whole number, an enum"
                            + " constant or a column",
                    value, value.getClass().getSimpleName());
        }
    }

    /**
     * {@return a column, to ask something of}
     *
     * @param name a column of the fact, one of a lookup, {@code shops.region}, or an attribute of the day, {@code weekday_name}
     */
    static Column column(String name) {
        return new Column(new Operand.Name(name));
    }

    /**
     * {@return the time between two dates of a row, to ask something of}
     *
     * @param time the time
     */
    static Column column(RowExpression.Elapsed time) {
        return new Column(new Operand.Computed(time));
    }

    /**
     * {@return both conditions together}
     *
     * @param other the other
     */
    default Condition and(Condition other) {
        return new And(List.of(this, other));
    }

    /**
     * {@return at least one of both conditions}
     *
     * @param other the other
     */
    default Condition or(Condition other) {
        return new Or(List.of(this, other));
    }

    /** {@return the opposite; it does not hold for a row whose value is blank either} */
    default Condition not() {
        return new Not(this);
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

    /** {@return every count of time between two dates of a row in the condition} */
    default Stream<RowExpression.Elapsed> elapsed() {
        return operands().stream().flatMap(Operand::elapsed);
    }

    /**
     * {@return the condition with every operand replaced}
     *
     * @param change what replaces each
     */
    default Condition map(Function<Operand, Operand> change) {
        if (this instanceof Compare c) {
            return new Compare(change.apply(c.left()), c.comparison(), change.apply(c.right()));
        }
        if (this instanceof In c) {
            return new In(
                    change.apply(c.value()), c.among().stream().map(change).toList());
        }
        if (this instanceof Between c) {
            return new Between(change.apply(c.value()), change.apply(c.low()), change.apply(c.high()));
        }
        if (this instanceof Like c) {
            return new Like(change.apply(c.value()), c.pattern());
        }
        if (this instanceof IsBlank c) {
            return new IsBlank(change.apply(c.value()));
        }
        if (this instanceof And c) {
            return new And(c.parts().stream().map(p -> p.map(change)).toList());
        }
        if (this instanceof Or c) {
            return new Or(c.parts().stream().map(p -> p.map(change)).toList());
        }
        return new Not(((Not) this).part().map(change));
    }
}
