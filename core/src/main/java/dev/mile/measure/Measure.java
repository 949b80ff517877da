package dev.mile.measure;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.calendar.Level;
import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.internal.LanguageNames;
import dev.mile.span.Span;
import java.math.BigDecimal;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;

/**
 * A number for a cell: an aggregate, or arithmetic on measures. {@code Measure.sum("sales", "net_amount").over(Span.back(1,
 * YEAR))} prints itself as {@code sum(sales.net_amount) over 1 year back}.
 */
public sealed interface Measure {
    /** How rows become a number. */
    enum Aggregation {
        /** The sum of the values. */
        SUM,
        /** The number of rows, or of values that are not blank; 0 where there are none. */
        COUNT,
        /** The number of different values; 0 where there are none. */
        DISTINCT,
        /** The mean of the values. */
        AVG,
        /** The smallest value. */
        MIN,
        /** The largest value. */
        MAX,
        /** The amount on the first day in the window that has rows. */
        FIRST,
        /** The amount on the last day in the window that has rows. */
        LAST;

        /** {@return the word of the language} */
        public String word() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /** An aggregate of a fact; without an expression it counts rows. */
    record Aggregate(Aggregation aggregation, String fact, Optional<RowExpression> expression) implements Measure {
        public Aggregate {
            requireNonNull(aggregation, "aggregation is null");
            requireNonNull(expression, "expression is null");
            if (requireNonNull(fact, "fact is null").isBlank() || fact.contains(".")) {
                throw ModelException.of("'%s' cannot be the name of a fact, which is not empty and has no dots", fact);
            }
            if (expression.isEmpty() && aggregation != Aggregation.COUNT) {
                throw ModelException.of("%s takes a column; only rows are counted without one", aggregation.word());
            }
            expression = expression.map(of -> of.map(operand -> ofFact(operand, fact)));
            expression.ifPresent(of -> checkColumns(of, fact));
        }

        /** A column without a dot is one of the fact. */
        private static Operand ofFact(Operand operand, String fact) {
            return operand instanceof Operand.Name name
                            && !name.isAsOf()
                            && !name.text().contains(".")
                    ? new Operand.Name(fact + "." + name.text())
                    : operand;
        }

        /** A column that is named must be of the fact, or behind one that is. */
        private static void checkColumns(RowExpression of, String fact) {
            List<Operand> operands = of.operands();
            boolean lookedUp = operands.stream().anyMatch(Operand.Field.class::isInstance);
            boolean named = operands.stream()
                    .anyMatch(operand ->
                            operand instanceof Operand.Name name && name.text().startsWith(fact + "."));
            if (!lookedUp && !named) {
                throw ModelException.of(
                        "`%s` names no column of the fact '%s'; write it as fact.column, such as %s.units",
                        of, fact, fact);
            }
        }

        @Override
        public String toString() {
            return aggregation.word() + "(" + expression.map(Object::toString).orElseGet(() -> LanguageNames.of(fact))
                    + ")";
        }
    }

    /**
     * The days or working days of the window.
     *
     * @param week the working week, if it is not the first
     */
    record DayCount(boolean working, Optional<String> week) implements Measure {
        public DayCount {
            if (!working && requireNonNull(week, "week is null").isPresent()) {
                throw ModelException.of("days are counted without a working week; count working days");
            }
        }

        @Override
        public String toString() {
            return (working ? "working_days()" : "days()")
                    + week.map(name -> " of " + LanguageNames.of(name)).orElse("");
        }
    }

    /** A number that is not negative; {@link Measure#number} takes any. */
    record Constant(BigDecimal value) implements Measure {
        public Constant {
            // 1E+3 is written 1000, and has as many decimals
            value = plain(value);
            if (value.signum() < 0) {
                throw ModelException.of("the constant %s is negative; write Measure.number(…), or negate it", value);
            }
        }

        @Override
        public String toString() {
            return value.toPlainString();
        }
    }

    /** A measure by its name. */
    record Named(String name) implements Measure {
        public Named {
            if (requireNonNull(name, "name is null").isBlank()) {
                throw ModelException.of("the name of a measure is empty; give the name of one that the project has");
            }
        }

        @Override
        public String toString() {
            return LanguageNames.of(name);
        }
    }

    /** Two measures with a sign between them. */
    record Arithmetic(Measure left, RowExpression.Sign sign, Measure right) implements Measure {
        public Arithmetic {
            requireNonNull(left, "left is null");
            requireNonNull(sign, "sign is null");
            requireNonNull(right, "right is null");
        }

        @Override
        public String toString() {
            boolean product = sign == RowExpression.Sign.TIMES || sign == RowExpression.Sign.DIVIDED_BY;
            String a = product && isSum(left) || left instanceof Then ? "(" + left + ")" : left.toString();
            // of two equal signs the left one is done first, so the right side needs its brackets
            boolean bracket = right instanceof Arithmetic r && (product || isSum(r)) || right instanceof Then;
            return a + " " + sign.text() + " " + (bracket ? "(" + right + ")" : right.toString());
        }

        private static boolean isSum(Measure m) {
            return m instanceof Arithmetic a
                    && (a.sign() == RowExpression.Sign.PLUS || a.sign() == RowExpression.Sign.MINUS);
        }
    }

    /** A measure with the other sign. */
    record Negated(Measure of) implements Measure {
        public Negated {
            requireNonNull(of, "of is null");
        }

        @Override
        public String toString() {
            return "-" + atom(of);
        }
    }

    /** A measure, or a number where it is blank. */
    record OrElse(Measure of, BigDecimal otherwise) implements Measure {
        public OrElse {
            requireNonNull(of, "of is null");
            otherwise = plain(otherwise);
        }

        @Override
        public String toString() {
            return atom(of) + " or " + otherwise.toPlainString();
        }
    }

    /** One measure up to the as-of date and another after it. */
    record Then(Measure actual, Measure after) implements Measure {
        public Then {
            requireNonNull(actual, "actual is null");
            requireNonNull(after, "after is null");
        }

        @Override
        public String toString() {
            return actual + " then " + (after instanceof Then ? "(" + after + ")" : after.toString());
        }
    }

    /**
     * A measure with clauses.
     *
     * @param of the measure
     * @param clauses the clauses
     * @param factor what must be a number for a member of {@code each} to count: like for like
     */
    record Qualified(Measure of, Clauses clauses, Optional<Measure> factor) implements Measure {
        public Qualified {
            requireNonNull(of, "of is null");
            if (clauses.saysNothing()) {
                throw ModelException.of("the clauses of `%s` say nothing: no dimension or no step is named", of);
            }
            if (factor.isPresent() && clauses.each().isEmpty()) {
                throw ModelException.of(
                        "`with %s` needs members to choose from; write `each shop with %s`",
                        factor.get(), factor.get());
            }
        }

        /**
         * Returns the measure with clauses alone.
         *
         * @param of what is measured
         * @param clauses the clauses
         */
        public Qualified(Measure of, Clauses clauses) {
            this(of, clauses, Optional.empty());
        }

        @Override
        public String toString() {
            boolean plain =
                    of instanceof Aggregate || of instanceof DayCount || of instanceof Named || of instanceof Constant;
            String operand = plain ? of.toString() : "(" + of + ")";
            if (factor.isEmpty()) {
                return operand + " " + clauses;
            }
            // what follows `with` belongs to its factor, so it comes last
            String others = clauses.withEach(List.of()).toString();
            return operand + (others.isEmpty() ? "" : " " + others) + " each " + LanguageNames.list(clauses.each())
                    + " with " + factorText(factor.get());
        }
    }

    private static BigDecimal plain(BigDecimal number) {
        return number.scale() < 0 ? number.setScale(0) : number;
    }

    private static String atom(Measure m) {
        return m instanceof Arithmetic
                        || m instanceof Then
                        || m instanceof OrElse
                        || m instanceof Negated
                        || endsWithFactor(m)
                ? "(" + m + ")"
                : m.toString();
    }

    /**
     * {@return the measure as the factor behind {@code with}}
     *
     * @param m the measure
     */
    static String factorText(Measure m) {
        return m instanceof Arithmetic || m instanceof Then ? "(" + m + ")" : m.toString();
    }

    private static boolean endsWithFactor(Measure m) {
        return m instanceof Qualified q && q.factor().isPresent();
    }

    private static Measure aggregate(Aggregation how, String fact, String column) {
        return new Aggregate(how, fact, Optional.of(new RowExpression.Value(new Operand.Name(fact + "." + column))));
    }

    /**
     * {@return the sum of a column, {@code sum(fact.column)}}
     *
     * @param fact the fact
     * @param column the column
     */
    static Measure sum(String fact, String column) {
        return aggregate(Aggregation.SUM, fact, column);
    }

    /**
     * {@return the mean of a column, {@code avg(fact.column)}}
     *
     * @param fact the fact
     * @param column the column
     */
    static Measure avg(String fact, String column) {
        return aggregate(Aggregation.AVG, fact, column);
    }

    /**
     * {@return the smallest value of a column}
     *
     * @param fact the fact
     * @param column the column
     */
    static Measure min(String fact, String column) {
        return aggregate(Aggregation.MIN, fact, column);
    }

    /**
     * {@return the largest value of a column}
     *
     * @param fact the fact
     * @param column the column
     */
    static Measure max(String fact, String column) {
        return aggregate(Aggregation.MAX, fact, column);
    }

    /**
     * {@return the amount on the first day in the window that has rows}
     *
     * @param fact the fact
     * @param column the column
     */
    static Measure first(String fact, String column) {
        return aggregate(Aggregation.FIRST, fact, column);
    }

    /**
     * {@return the amount on the last day in the window that has rows: a closing balance}
     *
     * @param fact the fact
     * @param column the column
     */
    static Measure last(String fact, String column) {
        return aggregate(Aggregation.LAST, fact, column);
    }

    /**
     * {@return the number of different values of a column}
     *
     * @param fact the fact
     * @param column the column
     */
    static Measure distinct(String fact, String column) {
        return aggregate(Aggregation.DISTINCT, fact, column);
    }

    /**
     * {@return the number of rows of the fact}
     *
     * @param fact the fact
     */
    static Measure count(String fact) {
        return new Aggregate(Aggregation.COUNT, fact, Optional.empty());
    }

    /**
     * {@return an aggregate of what is computed from each row, such as {@code sum(sales.units * sales.price)}}
     *
     * @param how how rows become a number
     * @param fact the fact
     * @param expression the value of a row; a column without a dot is one of the fact
     * @throws ModelException if it names no column of the fact
     */
    static Measure aggregate(Aggregation how, String fact, RowExpression expression) {
        return new Aggregate(how, fact, Optional.of(expression));
    }

    /** {@return the number of days in the window} */
    static Measure days() {
        return new DayCount(false, Optional.empty());
    }

    /** {@return the working days in the window, by the first working week} */
    static Measure workingDays() {
        return new DayCount(true, Optional.empty());
    }

    /**
     * {@return the working days in the window, by a working week}
     *
     * @param week the name of the working week
     */
    static Measure workingDays(String week) {
        return new DayCount(true, Optional.of(week));
    }

    /**
     * {@return the measure of the name, looked up when it is planned}
     *
     * @param name the name
     */
    static Measure named(String name) {
        return new Named(name);
    }

    /**
     * {@return a number as a measure}
     *
     * @param value the value
     */
    static Measure number(BigDecimal value) {
        return value.signum() < 0 ? new Negated(new Constant(value.negate())) : new Constant(value);
    }

    /**
     * {@return a whole number as a measure}
     *
     * @param value the value
     */
    static Measure number(long value) {
        return number(BigDecimal.valueOf(value));
    }

    /** {@return the measures of which this one is made} */
    default List<Measure> parts() {
        if (this instanceof Arithmetic a) {
            return List.of(a.left(), a.right());
        }
        if (this instanceof Then t) {
            return List.of(t.actual(), t.after());
        }
        if (this instanceof Negated n) {
            return List.of(n.of());
        }
        if (this instanceof OrElse o) {
            return List.of(o.of());
        }
        if (this instanceof Qualified w) {
            return w.factor().map(factor -> List.of(w.of(), factor)).orElse(List.of(w.of()));
        }
        return List.of();
    }

    /** {@return the names of the measures that this one refers to, each once, in order} */
    default Set<String> names() {
        Set<String> names = new LinkedHashSet<>();
        if (this instanceof Named named) {
            names.add(named.name());
        }
        parts().forEach(part -> names.addAll(part.names()));
        return names;
    }

    /**
     * {@return this measure placed in time by another date of its rows}
     *
     * @param role the date role
     */
    default Measure on(String role) {
        return with(c -> c.withOn(role), c -> c.on().isPresent());
    }

    /**
     * {@return this measure over other days}
     *
     * @param span the steps
     */
    default Measure over(Span span) {
        return with(c -> c.withOver(span), c -> !c.over().isEmpty());
    }

    /**
     * {@return this measure of fewer rows}
     *
     * @param condition the condition
     */
    default Measure where(Condition condition) {
        return with(c -> c.withWhere(condition), c -> c.where().isPresent());
    }

    /**
     * {@return this measure without the report's rows of the dimensions: the whole, for shares}
     *
     * @param dimensions the names of dimensions
     */
    default Measure across(String... dimensions) {
        return with(c -> c.withAcross(List.of(dimensions)), c -> !c.across().isEmpty());
    }

    /**
     * {@return this measure divided by the units of its window}
     *
     * @param unit the unit
     */
    default Measure per(Per unit) {
        return with(c -> c.withPer(unit), c -> c.per().isPresent());
    }

    /**
     * {@return the sum of this measure computed for every member}
     *
     * @param dimensions the names of dimensions
     */
    default Measure each(String... dimensions) {
        return with(c -> c.withEach(List.of(dimensions)), c -> !c.each().isEmpty());
    }

    /**
     * {@return the measure computed for every member for which a factor is a number, then added: like for like}
     *
     * @param dimension the dimension
     * @param factor the factor, such as the sales of last year
     */
    default Measure eachWith(String dimension, Measure factor) {
        requireNonNull(dimension, "dimension is null");
        requireNonNull(factor, "factor is null");
        Qualified each = (Qualified) each(dimension);
        return new Qualified(each.of(), each.clauses(), Optional.of(factor));
    }

    /** {@return this measure without the cut of the cell at the as-of date} */
    default Measure inFull() {
        return with(Clauses::withInFull, Clauses::inFull);
    }

    /** {@return this measure, blank unless its window lies inside the days that the fact covers} */
    default Measure ifFull() {
        return with(Clauses::withIfFull, clauses -> clauses.coverage().isPresent());
    }

    /** {@return the measure with a figure of what is covered, even where its window is moved} */
    default Measure ifAny() {
        return with(Clauses::withIfAny, clauses -> clauses.coverage().isPresent());
    }

    /**
     * {@return this measure, blank on rows coarser than the level}
     *
     * @param level the level
     */
    default Measure onlyAt(Level level) {
        return with(c -> c.withOnlyAt(level), c -> c.onlyAt().isPresent());
    }

    private Measure with(UnaryOperator<Clauses> change, Predicate<Clauses> taken) {
        // a clause follows an operand once; a second one follows brackets
        return this instanceof Qualified w && !taken.test(w.clauses())
                ? new Qualified(w.of(), change.apply(w.clauses()), w.factor())
                : new Qualified(this, change.apply(Clauses.NONE));
    }

    /**
     * {@return the sum; blank if either is}
     *
     * @param other the other
     */
    default Measure plus(Measure other) {
        return new Arithmetic(this, RowExpression.Sign.PLUS, other);
    }

    /**
     * {@return the difference; blank if either is}
     *
     * @param other the other
     */
    default Measure minus(Measure other) {
        return new Arithmetic(this, RowExpression.Sign.MINUS, other);
    }

    /**
     * {@return the product; blank if either is}
     *
     * @param other the other
     */
    default Measure times(Measure other) {
        return new Arithmetic(this, RowExpression.Sign.TIMES, other);
    }

    /**
     * {@return the quotient, one correctly rounded double; blank if either is, and for a division by zero}
     *
     * @param other the other
     */
    default Measure dividedBy(Measure other) {
        return new Arithmetic(this, RowExpression.Sign.DIVIDED_BY, other);
    }

    /** {@return this measure with the other sign} */
    default Measure negated() {
        return new Negated(this);
    }

    /**
     * {@return this measure, or the number where it is blank}
     *
     * @param number the number
     */
    default Measure orElse(BigDecimal number) {
        return new OrElse(this, number);
    }

    /**
     * {@return this measure, or the whole number where it is blank}
     *
     * @param number the number
     */
    default Measure orElse(long number) {
        return new OrElse(this, BigDecimal.valueOf(number));
    }

    /**
     * {@return this measure up to the as-of date and the other after it}
     *
     * @param after what counts after the as-of date
     */
    default Measure then(Measure after) {
        return new Then(this, after);
    }
}
