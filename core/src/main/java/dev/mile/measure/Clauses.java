package dev.mile.measure;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.calendar.Level;
import dev.mile.fact.Condition;
import dev.mile.internal.LanguageNames;
import dev.mile.span.Span;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/**
 * The clauses behind an operand, each at most once.
 *
 * @param on the date role; empty for the one from outside, or the default
 * @param over the span
 * @param where the rows kept
 * @param across the dimensions whose rows of the report are ignored
 * @param per the unit to divide by
 * @param each the dimensions for whose every member the operand is computed, before adding
 * @param inFull whether the cell is not cut at the as-of date
 * @param coverage how much of the window must be covered; empty for the rule from outside, or the default: whole if it is moved
 * @param onlyAt the coarsest level at which it is known
 */
public record Clauses(
        Optional<String> on,
        Span over,
        Optional<Condition> where,
        List<String> across,
        Optional<Per> per,
        List<String> each,
        boolean inFull,
        Optional<CoverageRule> coverage,
        Optional<Level> onlyAt) {
    /** How much of a window must be covered for its value to be known. */
    public enum CoverageRule {
        /** {@code if full}: every day. */
        IF_FULL,
        /** {@code if any}: at least one day. */
        IF_ANY
    }

    /** No clause. */
    public static final Clauses NONE = new Clauses(
            Optional.empty(),
            Span.NONE,
            Optional.empty(),
            List.of(),
            Optional.empty(),
            List.of(),
            false,
            Optional.empty(),
            Optional.empty());

    public Clauses {
        across = List.copyOf(across);
        each = List.copyOf(each);
        checkNames(across, "across");
        checkNames(each, "each");
    }

    private static void checkNames(List<String> names, String clause) {
        if (names.stream().anyMatch(String::isBlank)) {
            throw ModelException.of("`%s` has an empty name of a dimension; name one, such as shops.region", clause);
        }
    }

    /** Returns whether they are equal to {@link #NONE}. */
    boolean saysNothing() {
        return on.isEmpty()
                && over.steps().isEmpty()
                && where.isEmpty()
                && across.isEmpty()
                && per.isEmpty()
                && each.isEmpty()
                && !inFull
                && coverage.isEmpty()
                && onlyAt.isEmpty();
    }

    /**
     * {@return the clauses with {@code on} the role}
     *
     * @param role the date role
     */
    public Clauses withOn(String role) {
        requireNonNull(role, "role is null");
        return new Clauses(Optional.of(role), over, where, across, per, each, inFull, coverage, onlyAt);
    }

    /**
     * {@return the clauses with {@code over} the span}
     *
     * @param span the steps
     */
    public Clauses withOver(Span span) {
        requireNonNull(span, "span is null");
        return new Clauses(on, span, where, across, per, each, inFull, coverage, onlyAt);
    }

    /**
     * {@return the clauses with {@code where} the condition}
     *
     * @param condition the condition
     */
    public Clauses withWhere(Condition condition) {
        requireNonNull(condition, "condition is null");
        return new Clauses(on, over, Optional.of(condition), across, per, each, inFull, coverage, onlyAt);
    }

    /**
     * {@return the clauses with {@code across} the dimensions}
     *
     * @param dimensions the names of dimensions
     */
    public Clauses withAcross(List<String> dimensions) {
        requireNonNull(dimensions, "dimensions is null");
        return new Clauses(on, over, where, dimensions, per, each, inFull, coverage, onlyAt);
    }

    /**
     * {@return the clauses with {@code per} the unit}
     *
     * @param unit the unit
     */
    public Clauses withPer(Per unit) {
        requireNonNull(unit, "unit is null");
        return new Clauses(on, over, where, across, Optional.of(unit), each, inFull, coverage, onlyAt);
    }

    /**
     * {@return the clauses with {@code each} of the dimensions}
     *
     * @param dimensions the names of dimensions
     */
    public Clauses withEach(List<String> dimensions) {
        requireNonNull(dimensions, "dimensions is null");
        return new Clauses(on, over, where, across, per, dimensions, inFull, coverage, onlyAt);
    }

    /** {@return the clauses with {@code in full}} */
    public Clauses withInFull() {
        return new Clauses(on, over, where, across, per, each, true, coverage, onlyAt);
    }

    /** {@return the clauses with {@code if full}} */
    public Clauses withIfFull() {
        return new Clauses(on, over, where, across, per, each, inFull, Optional.of(CoverageRule.IF_FULL), onlyAt);
    }

    /** {@return the clauses with {@code if any}} */
    public Clauses withIfAny() {
        return new Clauses(on, over, where, across, per, each, inFull, Optional.of(CoverageRule.IF_ANY), onlyAt);
    }

    /**
     * {@return the clauses with {@code only at} the level}
     *
     * @param level the level
     */
    public Clauses withOnlyAt(Level level) {
        requireNonNull(level, "level is null");
        return new Clauses(on, over, where, across, per, each, inFull, coverage, Optional.of(level));
    }

    /** Returns the clauses in the language, in the order of its grammar. */
    @Override
    public String toString() {
        List<String> words = new ArrayList<>();
        on.ifPresent(role -> words.add("on " + LanguageNames.of(role)));
        if (!over.isEmpty()) {
            words.add("over " + over);
        }
        where.ifPresent(condition -> words.add("where " + condition));
        if (!across.isEmpty()) {
            words.add("across " + LanguageNames.list(across));
        }
        per.ifPresent(unit -> words.add("per " + unit));
        if (!each.isEmpty()) {
            words.add("each " + LanguageNames.list(each));
        }
        if (inFull) {
            words.add("in full");
        }
        coverage.ifPresent(rule -> words.add(rule == CoverageRule.IF_FULL ? "if full" : "if any"));
        onlyAt.ifPresent(level -> words.add("only at " + level.word()));
        return String.join(" ", words);
    }
}
