package dev.mile.internal;

import java.util.Collection;
import java.util.Set;
import java.util.stream.Collectors;

/** Names as the measure language writes them: in double quotes where they would read as something else. */
public final class LanguageNames {
    /** Words that the language has a meaning for where a name may stand, or behind one. */
    private static final Set<String> WORDS = Set.of(
            "across", "and", "at", "between", "each", "full", "if", "in", "is", "like", "not", "of", "on", "only", "or",
            "over", "per", "then", "where", "with");

    private LanguageNames() {}

    /** Returns a name whose parts are joined by dots: {@code sales."Net amount"}. */
    public static String dotted(String name) {
        int dot = name.indexOf('.');
        return dot < 0 ? of(name) : of(name.substring(0, dot)) + "." + of(name.substring(dot + 1));
    }

    /** Returns names that are joined by commas, each with its parts. */
    public static String list(Collection<String> names) {
        return names.stream().map(LanguageNames::dotted).collect(Collectors.joining(", "));
    }

    /** Returns a name of one part. */
    public static String of(String name) {
        boolean plain = !name.isEmpty() && !isDigit(name.charAt(0)) && !WORDS.contains(name);
        for (int i = 0; plain && i < name.length(); i++) {
            plain = isLetter(name.charAt(i)) || isDigit(name.charAt(i));
        }
        return plain ? name : '"' + name.replace("\"", "\"\"") + '"';
    }

    /** Returns whether a character may begin a name that stands without quotes. */
    public static boolean isLetter(char c) {
        return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_' || c > 127 && Character.isLetter(c);
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }
}
