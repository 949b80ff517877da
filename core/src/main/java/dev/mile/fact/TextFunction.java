package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import java.util.Optional;

/** What a condition may do to a text before it compares it. */
public enum TextFunction {
    /** Small letters in place of capitals, each letter by itself as Unicode maps it, whatever the language. */
    LOWER("lower"),
    /** No blanks before and behind: {@link #BLANKS}. */
    TRIM("trim");

    /** What is taken away before and behind a text: spaces, no-break spaces, tabs and line breaks. */
    public static final String BLANKS = " \u00a0\u202f\u2007\u3000\t\n\r";

    private final String word;

    TextFunction(String word) {
        this.word = word;
    }

    /** {@return the word of the language} */
    public String word() {
        return word;
    }

    /**
     * {@return the changed text; empty if nothing is left of it, which is a blank}
     *
     * @param text the text
     */
    public Optional<String> apply(String text) {
        requireNonNull(text, "text is null");
        String changed = this == LOWER ? lower(text) : trim(text);
        return changed.isEmpty() ? Optional.empty() : Optional.of(changed);
    }

    private static String lower(String text) {
        StringBuilder small = new StringBuilder(text.length());
        text.codePoints().map(Character::toLowerCase).forEach(small::appendCodePoint);
        return small.toString();
    }

    private static String trim(String text) {
        int first = 0;
        int last = text.length();
        while (first < last && BLANKS.indexOf(text.charAt(first)) >= 0) {
            first++;
        }
        while (last > first && BLANKS.indexOf(text.charAt(last - 1)) >= 0) {
            last--;
        }
        return text.substring(first, last);
    }
}
