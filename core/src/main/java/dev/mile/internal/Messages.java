package dev.mile.internal;

import java.util.Collection;
import java.util.Locale;
import java.util.Optional;

/** How messages are worded, so that errors of one kind read alike everywhere. */
public final class Messages {
    private Messages() {}

    /** Formats like {@link String#format}, free of the machine's locale; without arguments the text stays as it is. */
    public static String format(String pattern, Object... arguments) {
        return arguments.length == 0 ? pattern : String.format(Locale.ROOT, pattern, arguments);
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
