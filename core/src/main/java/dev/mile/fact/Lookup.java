package dev.mile.fact;

import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/**
 * A table of attributes joined to facts, or to other lookups, by a key.
 *
 * @param name its name in dimensions: {@code shops.region}
 * @param key its key column
 * @param links the lookups of this lookup, by the column that holds their key
 */
public record Lookup(String name, String key, Map<String, String> links) {
    public Lookup {
        links = Map.copyOf(links);
    }

    /** Returns the columns that are texts whatever their values look like: the key, and keys of further lookups. */
    public Set<String> textColumns() {
        Set<String> texts = new HashSet<>(links.keySet());
        texts.add(key);
        return texts;
    }
}
