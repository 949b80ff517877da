package dev.mile.model;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.span.Span;
import java.util.Set;
import java.util.function.Function;

/**
 * The measure language: {@code Language.measure("sum(sales.net_amount) over year to date")}. It makes the same objects as the
 * Java API, and they print themselves back in it.
 */
public final class MeasureLanguage {
    private MeasureLanguage() {}

    /**
     * {@return the measure of the text}
     *
     * @param text the text
     * @throws MileException that points at the character and says what was expected
     */
    public static Measure measure(String text) {
        return measure(text, Set.of());
    }

    /**
     * {@return the measure of the text, in which columns may be of these lookups too}
     *
     * @param text the text
     * @param lookups the lookups by name
     */
    public static Measure measure(String text, Set<String> lookups) {
        requireNonNull(text, "text is null");
        requireNonNull(lookups, "lookups is null");
        return read(text, words -> new MeasureParser(words, lookups).whole());
    }

    /**
     * {@return the condition of the text}
     *
     * @param text the text
     */
    public static Condition condition(String text) {
        requireNonNull(text, "text is null");
        return read(text, words -> {
            Condition condition = new ConditionParser(words).condition();
            end(words, "and, or, or the end");
            return condition;
        });
    }

    /**
     * {@return the expression of the values of a row of a fact; a column without a dot is one of that fact}
     *
     * @param text the text
     * @param fact the fact
     */
    public static RowExpression rowExpression(String text, String fact) {
        requireNonNull(text, "text is null");
        requireNonNull(fact, "fact is null");
        return read(text, words -> rowExpression(words, fact));
    }

    static RowExpression rowExpression(TokenStream words, String fact) {
        RowExpression expression = RowExpressionParser.of(fact, words).expression();
        end(words, "a sign (+ - * /), or the end");
        return expression;
    }

    /**
     * {@return the span of the text}
     *
     * @param text the text
     */
    public static Span span(String text) {
        requireNonNull(text, "text is null");
        return read(text, words -> {
            Span span = new SpanParser(words).span();
            end(words, "a comma and another step, or the end");
            return span;
        });
    }

    private static void end(TokenStream words, String expected) {
        if (words.peek().kind() != Token.Kind.END) {
            throw words.unexpected(expected);
        }
    }

    static <T> T parse(String text, Function<TokenStream, T> how) {
        return how.apply(new TokenStream(text));
    }

    private static <T> T read(String text, Function<TokenStream, T> how) {
        try {
            return parse(text, how);
        } catch (SyntaxException e) {
            throw ModelException.of(
                    "`%s`, character %d: %s", Messages.excerpt(text, e.offset()), e.offset() + 1, e.getMessage());
        }
    }
}
