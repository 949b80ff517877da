package dev.mile.model;

import dev.mile.internal.LanguageNames;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;

/** The words of a text in the language, taken one after the other. */
final class TokenStream {
    /** How many characters a text may have. */
    static final int MAX_LENGTH = 100_000;

    /** How many operands a chain may have. */
    static final int MAX_OPERANDS = 500;

    /** How many levels deep brackets, signs and negations may be: each level takes some of a thread's stack. */
    private static final int MAX_NESTING = 200;

    private final List<Token> tokens;
    private int next;
    private int nesting;

    TokenStream(String text) {
        if (text.length() > MAX_LENGTH) {
            throw new SyntaxException(
                    0, "it is longer than " + MAX_LENGTH + " characters; name parts of it as measures of their own");
        }
        tokens = split(text);
    }

    private static List<Token> split(String text) {
        List<Token> tokens = new ArrayList<>();
        int at = 0;
        while (at < text.length()) {
            char c = text.charAt(at);
            if (Character.isWhitespace(c)) {
                at++;
            } else if (c == '\'') {
                at = string(text, at, tokens);
            } else if (isDigit(c)) {
                int end = at;
                boolean point = false;
                while (end < text.length() && (isDigit(text.charAt(end)) || !point && isDecimalPoint(text, end))) {
                    point |= text.charAt(end) == '.';
                    end++;
                }
                if (end < text.length() && (LanguageNames.isLetter(text.charAt(end)) || isDecimalPoint(text, end))) {
                    throw new SyntaxException(at, "'" + word(text, at) + "' is neither a number nor a name");
                }
                tokens.add(new Token(Token.Kind.NUMBER, text.substring(at, end), at));
                at = end;
            } else if (LanguageNames.isLetter(c) || c == '"') {
                at = expectName(text, at, tokens);
            } else {
                int length =
                        text.startsWith("!=", at) || text.startsWith("<=", at) || text.startsWith(">=", at) ? 2 : 1;
                String sign = text.substring(at, at + Math.max(length, Character.charCount(text.codePointAt(at))));
                if (!"+-*/(),=<>".contains(sign) && length == 1 || sign.length() > length) {
                    throw new SyntaxException(
                            at,
                            "'" + sign
                                    + "' has no meaning here; write texts in single quotes, and other names in double quotes");
                }
                tokens.add(new Token(Token.Kind.SYMBOL, sign, at));
                at += length;
            }
        }
        tokens.add(new Token(Token.Kind.END, "", text.length()));
        return tokens;
    }

    /** Returns the letters, digits and points from there on. */
    private static String word(String text, int start) {
        int end = start;
        while (end < text.length()
                && (isDigit(text.charAt(end)) || text.charAt(end) == '.' || LanguageNames.isLetter(text.charAt(end)))) {
            end++;
        }
        return text.substring(start, end);
    }

    private static boolean isDecimalPoint(String text, int at) {
        return text.charAt(at) == '.' && at + 1 < text.length() && isDigit(text.charAt(at + 1));
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }

    private static int string(String text, int start, List<Token> tokens) {
        StringBuilder value = new StringBuilder();
        int at = start + 1;
        while (true) {
            if (at >= text.length()) {
                throw new SyntaxException(start, "the text that begins here has no closing quote '");
            }
            if (text.charAt(at) == '\'') {
                if (at + 1 < text.length() && text.charAt(at + 1) == '\'') {
                    at++;
                } else {
                    tokens.add(new Token(Token.Kind.STRING, value.toString(), start));
                    return at + 1;
                }
            }
            value.append(text.charAt(at++));
        }
    }

    /** A name may have parts, joined by dots; a part with other characters is written in double quotes. */
    private static int expectName(String text, int start, List<Token> tokens) {
        StringBuilder name = new StringBuilder();
        boolean quoted = false;
        int at = start;
        while (true) {
            if (text.charAt(at) == '"') {
                at = quotedPart(text, at, name);
                quoted = true;
            } else {
                int end = at;
                while (end < text.length() && (LanguageNames.isLetter(text.charAt(end)) || isDigit(text.charAt(end)))) {
                    end++;
                }
                name.append(text, at, end);
                at = end;
            }
            boolean more = at + 1 < text.length()
                    && text.charAt(at) == '.'
                    && (LanguageNames.isLetter(text.charAt(at + 1)) || text.charAt(at + 1) == '"');
            if (!more) {
                tokens.add(new Token(Token.Kind.NAME, name.toString(), start, quoted));
                return at;
            }
            name.append('.');
            at++;
        }
    }

    /** Reads a part in double quotes, a quote in it written twice, and returns where it ends. */
    private static int quotedPart(String text, int start, StringBuilder name) {
        int at = start + 1;
        while (true) {
            int end = text.indexOf('"', at);
            if (end < 0) {
                throw new SyntaxException(start, "the name that begins here has no closing quote \"");
            }
            name.append(text, at, end);
            if (!text.startsWith("\"\"", end)) {
                return end + 1;
            }
            name.append('"');
            at = end + 2;
        }
    }

    Token peek() {
        return tokens.get(next);
    }

    Token peek(int ahead) {
        return tokens.get(Math.min(next + ahead, tokens.size() - 1));
    }

    Token next() {
        Token token = tokens.get(next);
        next = Math.min(next + 1, tokens.size() - 1);
        return token;
    }

    /** Takes the word if it is next. */
    boolean accept(String word) {
        if (peek().is(word)) {
            next();
            return true;
        }
        return false;
    }

    /** Takes both words if they are next. */
    boolean accept(String first, String second) {
        if (peek().is(first) && peek(1).is(second)) {
            next();
            next();
            return true;
        }
        return false;
    }

    void expect(String word, String expected) {
        if (!accept(word)) {
            throw unexpected(expected);
        }
    }

    /**
     * Reads what is nested one level deeper.
     *
     * @throws SyntaxException if that is too deep
     */
    <T> T nested(Supplier<T> reader) {
        if (++nesting > MAX_NESTING) {
            throw new SyntaxException(
                    peek().offset(),
                    "this is nested more than " + MAX_NESTING
                            + " levels deep; name parts of it as measures of their own");
        }
        T read = reader.get();
        nesting--;
        return read;
    }

    SyntaxException unexpected(String expected) {
        return new SyntaxException(peek().offset(), "found " + peek().describe() + "; expected " + expected);
    }

    Token expectName(String expected) {
        if (peek().kind() != Token.Kind.NAME) {
            throw unexpected(expected);
        }
        return next();
    }
}
