package dev.mile.model;

/**
 * A word of the language.
 *
 * @param kind what it is
 * @param text the word; a string without its quotes
 * @param offset its place in the text, from 0
 * @param quoted whether a part of it stands in double quotes, so that it is a name whatever its letters
 */
record Token(Kind kind, String text, int offset, boolean quoted) {
    Token(Kind kind, String text, int offset) {
        this(kind, text, offset, false);
    }

    enum Kind {
        NAME,
        NUMBER,
        STRING,
        SYMBOL,
        END
    }

    boolean is(String word) {
        return (kind == Kind.NAME || kind == Kind.SYMBOL) && !quoted && text.equals(word);
    }

    String describe() {
        return switch (kind) {
            case END -> "the end";
            case STRING -> "the text '" + text + "'";
            default -> "'" + text + "'";
        };
    }
}
