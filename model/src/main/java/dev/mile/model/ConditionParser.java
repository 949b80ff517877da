package dev.mile.model;

import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.TextFunction;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;

/** Reads conditions on rows. After them, an {@code or} followed by a number is left for the blank rule. */
final class ConditionParser {
    private static final String OPERATORS = "=, !=, <, <=, >, >=, in, between, like or is blank";

    private final TokenStream words;

    ConditionParser(TokenStream words) {
        this.words = words;
    }

    Condition condition() {
        List<Condition> parts = new ArrayList<>();
        parts.add(conjunction());
        while (words.peek().is("or") && !blankRule()) {
            words.next();
            parts.add(conjunction());
        }
        return parts.size() == 1 ? parts.get(0) : new Condition.Or(parts);
    }

    /** Returns whether a number follows the {@code or}, so that it stands in for blanks and is no condition. */
    private boolean blankRule() {
        Token next = words.peek(1).is("-") ? words.peek(2) : words.peek(1);
        return next.kind() == Token.Kind.NUMBER;
    }

    private Condition conjunction() {
        List<Condition> parts = new ArrayList<>();
        parts.add(primary());
        while (words.accept("and")) {
            parts.add(primary());
        }
        return parts.size() == 1 ? parts.get(0) : new Condition.And(parts);
    }

    private Condition primary() {
        if (words.accept("not")) {
            return new Condition.Not(words.nested(this::primary));
        }
        if (words.accept("(")) {
            Condition inner = words.nested(this::condition);
            words.expect(")", "and, or, or a closing bracket )");
            return inner;
        }
        Operand left = operand("a condition: a name, a number or a text in single quotes");
        boolean not = words.peek().is("not")
                && (words.peek(1).is("in")
                        || words.peek(1).is("like")
                        || words.peek(1).is("between"));
        if (not) {
            words.next();
        }
        Condition condition = comparison(left);
        return not ? new Condition.Not(condition) : condition;
    }

    private Condition comparison(Operand left) {
        for (Condition.Comparison comparison : Condition.Comparison.values()) {
            if (words.accept(comparison.sign())) {
                return new Condition.Compare(left, comparison, operand("a name, a number or a text in single quotes"));
            }
        }
        if (words.accept("is")) {
            boolean not = words.accept("not");
            words.expect("blank", "blank");
            Condition blank = new Condition.IsBlank(left);
            return not ? new Condition.Not(blank) : blank;
        }
        if (words.accept("like")) {
            if (words.peek().kind() != Token.Kind.STRING) {
                throw words.unexpected("a pattern in single quotes, where % matches any text and _ one character");
            }
            return new Condition.Like(left, words.next().text());
        }
        if (words.accept("between")) {
            Operand low = operand("a number or a text in single quotes");
            words.expect("and", "and, and the upper end");
            return new Condition.Between(left, low, operand("a number or a text in single quotes"));
        }
        if (words.peek().is("in") && words.peek(1).is("(")) {
            words.next();
            words.next();
            List<Operand> among = new ArrayList<>();
            do {
                among.add(operand("a number or a text in single quotes"));
            } while (words.accept(","));
            words.expect(")", "a comma or a closing bracket )");
            return new Condition.In(left, among);
        }
        throw words.unexpected(OPERATORS);
    }

    private Operand operand(String expected) {
        Token token = words.peek();
        switch (token.kind()) {
            case STRING:
                return new Operand.Text(words.next().text());
            case NUMBER:
                return new Operand.Number(new BigDecimal(words.next().text()));
            case NAME:
                return words.peek(1).is("(")
                        ? function()
                        : new Operand.Name(words.next().text());
            default:
                if (token.is("-") && words.peek(1).kind() == Token.Kind.NUMBER) {
                    words.next();
                    return new Operand.Number(new BigDecimal(words.next().text()).negate());
                }
                throw words.unexpected(expected);
        }
    }

    private Operand function() {
        for (TextFunction function : TextFunction.values()) {
            if (words.peek().is(function.word())) {
                words.next();
                words.next();
                Operand of = words.nested(() -> operand("the name of a column of texts"));
                words.expect(")", "a closing bracket )");
                return new Operand.Changed(function, of);
            }
        }
        for (RowExpression.TimeUnit unit : RowExpression.TimeUnit.values()) {
            if (words.peek().is(unit.word())) {
                return new Operand.Computed(RowExpressionParser.ofAnyFact(words).operand());
            }
        }
        throw words.unexpected(
                "a name, or one of the functions lower(x), trim(x), days(a, b), working_days(a, b), weeks(a, b),"
                        + " months(a, b), years(a, b)");
    }
}
