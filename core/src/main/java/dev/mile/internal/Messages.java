package dev.mile.internal;

import java.util.Collection;
import java.util.Locale;
import java.util.Optional;

/** How messages are worded, so that errors of one kind read alike everywhere. */
public final class Messages {
    /** How many characters a message has at most. */
    public static final int MAX_LENGTH = 2_000;

    private static final int MAX_VALUE_LENGTH = 500;
    private static final int EXCERPT_LENGTH = 160;
    private static final String CUT = " … ";

    private Messages() {}

    /**
     * Formats like {@link String#format}, free of the machine's locale; without arguments the text stays as it is. Values come from data and
     * models: they are shown with their control characters escaped, and long ones are cut in the middle.
     */
    public static String format(String pattern, Object... arguments) {
        if (arguments.length == 0) {
            return pattern;
        }
        Object[] shown = new Object[arguments.length];
        for (int i = 0; i < shown.length; i++) {
            shown[i] = arguments[i] == null || arguments[i] instanceof Number
                    ? arguments[i]
                    : cut(escaped(arguments[i].toString()).replace("\n", "\\n"), MAX_VALUE_LENGTH);
        }
        return String.format(Locale.ROOT, pattern, shown);
    }

    /**
     * Returns the text with its control characters, and those that change how what follows is read, as escapes such as {@code \\u001b}:
     * a terminal obeys no data. Line breaks stay.
     */
    public static String escaped(String text) {
        if (text.chars().noneMatch(Messages::isHarmful)) {
            return text;
        }
        StringBuilder escaped = new StringBuilder();
        text.chars().forEach(c -> {
            if (isHarmful(c)) {
                escaped.append(String.format(Locale.ROOT, "\\u%04x", c));
            } else {
                escaped.append((char) c);
            }
        });
        return escaped.toString();
    }

    private static boolean isHarmful(int c) {
        boolean reorders = c >= 0x202a && c <= 0x202e || c >= 0x2066 && c <= 0x2069 || c == 0x200e || c == 0x200f;
        boolean breaksLines = c == 0x2028 || c == 0x2029;
        return Character.isISOControl(c) && c != '\n' || reorders || breaksLines;
    }

    /** Returns the text, cut in the middle where it is longer than a message may be. */
    public static String limited(String text) {
        return cut(text, MAX_LENGTH);
    }

    private static String cut(String text, int most) {
        if (text.length() <= most) {
            return text;
        }
        int kept = (most - CUT.length()) / 2;
        return text.substring(0, kept) + CUT + text.substring(text.length() - kept);
    }

    /** Returns the part of a long text that is around the position; a short one whole. */
    public static String excerpt(String text, int position) {
        if (text.length() <= EXCERPT_LENGTH) {
            return text;
        }
        int first = Math.max(0, Math.min(position - EXCERPT_LENGTH / 2, text.length() - EXCERPT_LENGTH));
        int end = first + EXCERPT_LENGTH;
        return (first == 0 ? "" : "… ") + text.substring(first, end) + (end == text.length() ? "" : " …");
    }

    /** Returns "; did you mean 'x'?" for the nearest known word, or "; known: a, b" where none is near. */
    public static String didYouMean(String word, Collection<String> known) {
        Optional<String> nearest = closestMatch(word, known);
        if (nearest.isPresent()) {
            return "; did you mean '" + nearest.get() + "'?";
        }
        return known.isEmpty()
                ? "; there are none"
                : "; known: " + String.join(", ", known.stream().limit(30).toList());
    }

    /** Returns the known word that is nearest, letters of either case alike; empty where none is near. */
    public static Optional<String> closestMatch(String word, Collection<String> known) {
        String best = null;
        int distance = Math.max(2, word.length() / 3) + 1;
        for (String candidate : known) {
            int d = distance(word.toLowerCase(Locale.ROOT), candidate.toLowerCase(Locale.ROOT));
            // of a word that would change altogether nothing is near
            if (d < distance && d < word.length()) {
                distance = d;
                best = candidate;
            }
        }
        return Optional.ofNullable(best);
    }

    /** Returns the count and the noun, with an s where the count is not 1: {@code 1 row}, {@code 2,000 rows}. */
    public static String quantity(long count, String noun) {
        return String.format(Locale.ROOT, "%,d %s%s", count, noun, count == 1 ? "" : "s");
    }

    private static int distance(String a, String b) {
        int[] previous = new int[b.length() + 1];
        for (int j = 0; j <= b.length(); j++) {
            previous[j] = j;
        }
        for (int i = 1; i <= a.length(); i++) {
            int[] current = new int[b.length() + 1];
            current[0] = i;
            for (int j = 1; j <= b.length(); j++) {
                int swap = a.charAt(i - 1) == b.charAt(j - 1) ? 0 : 1;
                current[j] = Math.min(Math.min(current[j - 1], previous[j]) + 1, previous[j - 1] + swap);
            }
            previous = current;
        }
        return previous[b.length()];
    }
}
