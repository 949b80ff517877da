package dev.mile.model;

import dev.mile.calendar.Level;
import dev.mile.fact.RowExpression;
import dev.mile.internal.Messages;
import dev.mile.measure.Clauses;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import java.math.BigDecimal;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.Set;

/** Reads measures (docs/language.md) by recursive descent. */
final class MeasureParser {
    private static final String OPERAND =
            "a number, the name of a measure, an aggregate such as sum(sales.net_amount), days(), working_days() or a bracket";
    private static final String AFTER =
            "a sign (+ - * /), a clause (on, over, where, across, per, each, in full, if full, only at), or, then, or the end";
    private final TokenStream words;
    private final Set<String> lookups;

    MeasureParser(TokenStream words, Set<String> lookups) {
        this.words = words;
        this.lookups = lookups;
    }

    Measure whole() {
        Measure measure = measure();
        if (words.peek().kind() != Token.Kind.END) {
            throw words.unexpected(AFTER);
        }
        checkDepth(measure);
        return measure;
    }

    /** A chain of operands is as deep as it is long: all that walks a measure walks it by recursion. */
    private static void checkDepth(Measure measure) {
        Deque<Object> parts = new ArrayDeque<>(List.of(measure));
        for (int depth = 0; !parts.isEmpty(); depth++) {
            if (depth > TokenStream.MAX_OPERANDS) {
                throw new SyntaxException(
                        0,
                        "this has more than " + TokenStream.MAX_OPERANDS
                                + " operands in a row; name parts of it as measures of their own");
            }
            for (int i = parts.size(); i > 0; i--) {
                addParts(parts.remove(), parts);
            }
        }
    }

    private static void addParts(Object part, Deque<Object> into) {
        if (part instanceof Measure.Aggregate aggregate) {
            aggregate.expression().ifPresent(into::add);
        } else if (part instanceof Measure measure) {
            into.addAll(measure.parts());
        } else if (part instanceof RowExpression.OrElse orElse) {
            into.add(orElse.of());
        } else if (part instanceof RowExpression.Arithmetic arithmetic) {
            into.add(arithmetic.left());
            into.add(arithmetic.right());
        }
    }

    private Measure measure() {
        Measure measure = sum();
        while (words.accept("then")) {
            measure = measure.then(sum());
        }
        return measure;
    }

    private Measure sum() {
        Measure left = term();
        while (words.peek().is("+") || words.peek().is("-")) {
            left = words.next().is("+") ? left.plus(term()) : left.minus(term());
        }
        return left;
    }

    private Measure term() {
        Measure left = factor();
        while (words.peek().is("*") || words.peek().is("/")) {
            left = words.next().is("*") ? left.times(factor()) : left.dividedBy(factor());
        }
        return left;
    }

    private Measure factor() {
        boolean negative = words.accept("-");
        Measure measure = clauses(operand());
        measure = negative ? measure.negated() : measure;
        if (words.peek().is("or")) {
            words.next();
            boolean minus = words.accept("-");
            if (words.peek().kind() != Token.Kind.NUMBER) {
                throw words.unexpected("a number that stands in for blanks, such as 0");
            }
            BigDecimal number = new BigDecimal(words.next().text());
            measure = measure.orElse(minus ? number.negate() : number);
        }
        return measure;
    }

    private Measure operand() {
        Token token = words.peek();
        if (token.kind() == Token.Kind.NUMBER) {
            return Measure.number(new BigDecimal(words.next().text()));
        }
        if (words.accept("(")) {
            Measure inner = words.nested(this::measure);
            words.expect(")", AFTER.replace("the end", "a closing bracket )"));
            return inner;
        }
        if (token.kind() != Token.Kind.NAME) {
            throw words.unexpected(OPERAND);
        }
        words.next();
        if (!words.peek().is("(")) {
            if (token.text().contains(".") && !token.quoted()) {
                throw new SyntaxException(
                        token.offset(),
                        "'" + token.text() + "' is a column; a measure takes an aggregate of it, such as sum("
                                + token.text() + ")");
            }
            return Measure.named(token.text());
        }
        words.next();
        if (token.is("days") || token.is("working_days")) {
            words.expect(")", "a closing bracket: " + token.text() + "() takes nothing");
            Optional<String> week = token.is("working_days") && words.accept("of")
                    ? Optional.of(words.expectName("the name of a working week").text())
                    : Optional.empty();
            return new Measure.DayCount(token.is("working_days"), week);
        }
        for (Measure.Aggregation aggregation : Measure.Aggregation.values()) {
            if (token.is(aggregation.word())) {
                return aggregate(aggregation, token.offset());
            }
        }
        throw new SyntaxException(
                token.offset(),
                "unknown aggregate '" + token.text() + "'"
                        + Messages.didYouMean(
                                token.text(),
                                List.of(
                                        "sum",
                                        "count",
                                        "distinct",
                                        "avg",
                                        "min",
                                        "max",
                                        "first",
                                        "last",
                                        "days",
                                        "working_days")));
    }

    private Measure aggregate(Measure.Aggregation how, int at) {
        if (how == Measure.Aggregation.COUNT
                && words.peek().kind() == Token.Kind.NAME
                && !words.peek().text().contains(".")
                && words.peek(1).is(")")) {
            Token fact = words.next();
            words.next();
            return Measure.count(fact.text());
        }
        RowExpressionParser rows = RowExpressionParser.ofAnyFact(words);
        RowExpression of = rows.expression();
        words.expect(")", "a sign (+ - * /) or a closing bracket )");
        String fact = rows.tables().stream()
                .filter(t -> !lookups.contains(t))
                .findFirst()
                .orElse("");
        if (fact.isEmpty()) {
            throw new SyntaxException(
                    at,
                    "`" + how.word() + "(" + of
                            + ")` names no column of a fact; write it as fact.column, such as sales.units");
        }
        return new Measure.Aggregate(how, fact, Optional.of(of));
    }

    private Measure clauses(Measure of) {
        Clauses clauses = Clauses.NONE;
        while (true) {
            Token at = words.peek();
            if (words.accept("on")) {
                once(clauses.on().isEmpty(), at);
                clauses = clauses.withOn(
                        words.expectName("a date role, such as dispatched").text());
            } else if (words.accept("over")) {
                once(clauses.over().isEmpty(), at);
                clauses = clauses.withOver(new SpanParser(words).span());
            } else if (words.accept("where")) {
                once(clauses.where().isEmpty(), at);
                clauses = clauses.withWhere(new ConditionParser(words).condition());
            } else if (words.accept("across")) {
                once(clauses.across().isEmpty(), at);
                clauses = clauses.withAcross(dimensions());
            } else if (words.accept("per")) {
                once(clauses.per().isEmpty(), at);
                clauses = clauses.withPer(per());
            } else if (words.accept("each")) {
                once(clauses.each().isEmpty(), at);
                clauses = clauses.withEach(dimensions());
                if (words.accept("with")) {
                    // what follows belongs to the factor
                    return new Measure.Qualified(of, clauses, Optional.of(words.nested(this::factor)));
                }
            } else if (words.accept("in", "full")) {
                once(!clauses.inFull(), at);
                clauses = clauses.withInFull();
            } else if (words.accept("if", "full")) {
                once(clauses.coverage().isEmpty(), at);
                clauses = clauses.withIfFull();
            } else if (words.accept("if", "any")) {
                once(clauses.coverage().isEmpty(), at);
                clauses = clauses.withIfAny();
            } else if (words.accept("only", "at")) {
                once(clauses.onlyAt().isEmpty(), at);
                clauses = clauses.withOnlyAt(new SpanParser(words).unit());
            } else {
                return clauses == Clauses.NONE ? of : new Measure.Qualified(of, clauses);
            }
        }
    }

    private static void once(boolean first, Token at) {
        if (!first) {
            throw new SyntaxException(
                    at.offset(), "'" + at.text() + "' is given twice; put the operand in brackets to apply it again");
        }
    }

    private List<String> dimensions() {
        List<String> dimensions = new ArrayList<>();
        do {
            dimensions.add(words.expectName("a dimension, such as shop or shops.region")
                    .text());
        } while (words.accept(","));
        return dimensions;
    }

    private Per per() {
        if (words.accept("working")) {
            if (!words.accept("day") && !words.accept("days")) {
                throw words.unexpected("day");
            }
            return words.accept("of")
                    ? Per.workingDay()
                            .withWeek(words.expectName("the name of a working week")
                                    .text())
                    : Per.workingDay();
        }
        Level unit = new SpanParser(words).unit();
        boolean named = words.peek().is("in") && !words.peek(1).is("full");
        if (named) {
            words.next();
        }
        return named
                ? Per.unit(unit)
                        .withCalendar(words.expectName("the name of a calendar").text())
                : Per.unit(unit);
    }
}
