package dev.mile.model;

/**
 * A word of the language.
 *
 * @param kind what it is
 * @param text the word; a string without its quotes
 * @param offset its place in the text, from 0
 */
record Token(Kind kind, String text, int offset) {
    enum Kind {
        NAME,
        NUMBER,
        STRING,
        SYMBOL,
        END
    }

    boolean is(String word) {
        return (kind == Kind.NAME || kind == Kind.SYMBOL) && text.equals(word);
    }

    String describe() {
        return switch (kind) {
            case END -> "the end";
            case STRING -> "the text '" + text + "'";
            default -> "'" + text + "'";
        };
    }
}
