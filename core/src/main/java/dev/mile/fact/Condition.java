package dev.mile.fact;

import dev.mile.fact.RowExpression.Operand;
import java.util.ArrayList;
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
            among = List.copyOf(among);
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
            parts = List.copyOf(parts);
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
            parts = List.copyOf(parts);
        }

        @Override
        public String toString() {
            return parts.stream().map(Object::toString).collect(Collectors.joining(" or "));
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
     * {@return the comparison of a named dimension or column with a text}
     *
     * @param name the name
     * @param text the text
     */
    static Condition equal(String name, String text) {
        return new Compare(new Operand.Name(name), Comparison.EQUAL, new Operand.Text(text));
    }

    /**
     * {@return both conditions together}
     *
     * @param other the other
     */
    default Condition and(Condition other) {
        return new And(List.of(this, other));
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
