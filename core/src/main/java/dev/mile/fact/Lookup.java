package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import java.util.HashSet;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * A table of attributes joined to facts, or to other lookups, by a key.
 *
 * @param name its name in dimensions: {@code shops.region}
 * @param key its key column
 * @param links the lookups of this lookup, by the column that holds their key
 * @param covers the date columns between which a member can have rows; empty where members can have them always
 */
public record Lookup(String name, String key, Map<String, String> links, Optional<MemberDays> covers) {
    /**
     * The date columns between which a member can have rows.
     *
     * @param from the column of the first day; empty for no limit
     * @param until the column of the last day; empty for no limit
     */
    public record MemberDays(Optional<String> from, Optional<String> until) {
        public MemberDays {
            requireNonNull(from, "from is null");
            requireNonNull(until, "until is null");
        }
    }

    public Lookup {
        requireNonNull(name, "name is null");
        requireNonNull(key, "key is null");
        requireNonNull(covers, "covers is null");
        links = Map.copyOf(links);
    }

    /**
     * Returns a lookup whose members can have rows always.
     *
     * @param name the name
     * @param key the column with its keys
     * @param links further lookups by the column that holds their key
     */
    public Lookup(String name, String key, Map<String, String> links) {
        this(name, key, links, Optional.empty());
    }

    /**
     * {@return the lookup with the date columns between which a member can have rows}
     *
     * @param days the days
     */
    public Lookup withMemberDays(MemberDays days) {
        requireNonNull(days, "days is null");
        return new Lookup(name, key, links, Optional.of(days));
    }

    /** {@return the columns that are texts whatever their values look like: the key, and keys of further lookups} */
    public Set<String> textColumns() {
        Set<String> texts = new HashSet<>(links.keySet());
        texts.add(key);
        return texts;
    }
}
