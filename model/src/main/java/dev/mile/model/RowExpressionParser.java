package dev.mile.model;

import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import java.math.BigDecimal;
import java.util.LinkedHashSet;
import java.util.Optional;
import java.util.Set;

/** Reads expressions of the values of a row (docs/language.md), and notes the facts and lookups that they name. */
final class RowExpressionParser {
    private static final String VALUE =
            "a column (sales.units), a number, days(a, b), working_days(a, b), weeks(a, b), months(a, b), years(a, b)";

    private final TokenStream words;
    private final Optional<String> fact;
    private final Set<String> tables = new LinkedHashSet<>();

    private RowExpressionParser(TokenStream words, Optional<String> fact) {
        this.words = words;
        this.fact = fact;
    }

    /** Returns a reader of expressions in which every column is written with its fact or lookup. */
    static RowExpressionParser ofAnyFact(TokenStream words) {
        return new RowExpressionParser(words, Optional.empty());
    }

    /** Returns a reader of expressions in which a column without a dot is one of the fact. */
    static RowExpressionParser of(String fact, TokenStream words) {
        return new RowExpressionParser(words, Optional.of(fact));
    }

    /** Returns the facts and lookups that were named. */
    Set<String> tables() {
        return tables;
    }

    RowExpression expression() {
        RowExpression left = term();
        while (words.peek().is("+") || words.peek().is("-")) {
            RowExpression.Sign sign = words.next().is("+") ? RowExpression.Sign.PLUS : RowExpression.Sign.MINUS;
            left = new RowExpression.Arithmetic(left, sign, term());
        }
        return left;
    }

    private RowExpression term() {
        RowExpression left = factor();
        while (words.peek().is("*") || words.peek().is("/")) {
            RowExpression.Sign sign = words.next().is("*") ? RowExpression.Sign.TIMES : RowExpression.Sign.DIVIDED_BY;
            left = new RowExpression.Arithmetic(left, sign, factor());
        }
        return left;
    }

    private RowExpression factor() {
        RowExpression of = operand();
        if (!words.peek().is("or")) {
            return of;
        }
        words.next();
        boolean minus = words.accept("-");
        if (words.peek().kind() != Token.Kind.NUMBER) {
            throw words.unexpected("a number that stands in for blanks, such as 0");
        }
        BigDecimal number = new BigDecimal(words.next().text());
        return new RowExpression.OrElse(of, minus ? number.negate() : number);
    }

    /** Reads an expression without signs around it. */
    RowExpression operand() {
        if (words.accept("-")) {
            if (words.peek().kind() == Token.Kind.NUMBER) {
                return new RowExpression.Constant(new BigDecimal(words.next().text()).negate());
            }
            return new RowExpression.Arithmetic(
                    new RowExpression.Constant(BigDecimal.ZERO), RowExpression.Sign.MINUS, words.nested(this::operand));
        }
        if (words.peek().kind() == Token.Kind.NUMBER) {
            return new RowExpression.Constant(new BigDecimal(words.next().text()));
        }
        if (words.accept("(")) {
            RowExpression inner = words.nested(this::expression);
            words.expect(")", "a sign (+ - * /) or a closing bracket )");
            return inner;
        }
        Token name = words.expectName(VALUE);
        if (words.accept("(")) {
            for (RowExpression.TimeUnit unit : RowExpression.TimeUnit.values()) {
                if (name.is(unit.word())) {
                    Operand from = date("a date of the row, such as sales.ordered");
                    words.expect(",", "a comma and the second date");
                    Operand to = date("a date of the row, such as sales.dispatched, or as_of");
                    words.expect(")", "a closing bracket )");
                    RowExpression.Elapsed elapsed = RowExpression.Elapsed.of(unit, from, to);
                    return unit == RowExpression.TimeUnit.WORKING_DAYS && words.accept("of")
                            ? elapsed.withWeek(words.expectName("the name of a working week")
                                    .text())
                            : elapsed;
                }
            }
            throw new SyntaxException(
                    name.offset(), "'" + name.text() + "(' is not a function of rows; expected " + VALUE);
        }
        return new RowExpression.Value(column(name));
    }

    private Operand date(String expected) {
        return words.accept("as_of") ? Operand.Name.AS_OF : column(words.expectName(expected));
    }

    private Operand column(Token name) {
        int dot = name.text().indexOf('.');
        if (dot < 0 && fact.isPresent()) {
            return new Operand.Name(fact.get() + "." + name.text());
        }
        if (dot < 0) {
            throw new SyntaxException(
                    name.offset(),
                    "'" + name.text() + "' has no fact; write columns as fact.column, such as sales." + name.text());
        }
        tables.add(name.text().substring(0, dot));
        return new Operand.Name(name.text());
    }
}
