package dev.mile.fact;

import java.util.Map;

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
}
