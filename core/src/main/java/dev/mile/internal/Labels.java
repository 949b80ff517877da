package dev.mile.internal;

import java.util.Locale;

/** How people read what has no label of its own. */
public final class Labels {
    private Labels() {}

    /** Returns a name in words: {@code working_days} is Working days. */
    public static String of(String name) {
        String words = name.replace('_', ' ').replace('.', ' ');
        return words.isEmpty() ? words : words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
    }
}
