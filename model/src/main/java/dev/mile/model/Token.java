package dev.mile.model;

/**
 * A word of the language.
 *
 * @param kind what it is
 * @param text the word; a string without its quotes
 * @param at its place in the text, from 0
 */
record Token(Kind kind, String text, int at) {
    enum Kind {
        NAME,
        NUMBER,
        STRING,
        SIGN,
        END
    }

    boolean is(String word) {
        return (kind == Kind.NAME || kind == Kind.SIGN) && text.equals(word);
    }

    String shown() {
        return switch (kind) {
            case END -> "the end";
            case STRING -> "the text '" + text + "'";
            default -> "'" + text + "'";
        };
    }
}
