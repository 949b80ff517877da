package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.internal.Messages;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What an engine needs to know of a model: its facts and lookups, where their rows are, and the zone in which timestamps have their
 * day. Immutable and safe for use by several threads.
 *
 * @param facts the facts by name, in order
 * @param lookups the lookups by name, in order
 * @param sources where the rows of facts and lookups are, by name; without an entry for rows that a program hands over
 * @param zone the zone in which timestamps have their day
 */
public record DataSchema(
        Map<String, Fact> facts, Map<String, Lookup> lookups, Map<String, Source> sources, ZoneId zone) {
    public DataSchema {
        facts = Collections.unmodifiableMap(new LinkedHashMap<>(facts));
        lookups = Collections.unmodifiableMap(new LinkedHashMap<>(lookups));
        sources = Collections.unmodifiableMap(new LinkedHashMap<>(sources));
        requireNonNull(zone, "zone is null");
    }

    /**
     * {@return the schema of facts and lookups whose rows a program hands over; the zone is UTC}
     *
     * @param facts the facts by name
     * @param lookups the lookups by name
     */
    public static DataSchema of(Map<String, Fact> facts, Map<String, Lookup> lookups) {
        requireNonNull(facts, "facts is null");
        requireNonNull(lookups, "lookups is null");
        return new DataSchema(facts, lookups, Map.of(), ZoneOffset.UTC);
    }

    /**
     * {@return the schema with other sources}
     *
     * @param newSources the sources by the name of their fact or lookup
     */
    public DataSchema withSources(Map<String, Source> newSources) {
        requireNonNull(newSources, "newSources is null");
        return new DataSchema(facts, lookups, newSources, zone);
    }

    /**
     * {@return the schema in another zone}
     *
     * @param newZone the time zone
     */
    public DataSchema withZone(ZoneId newZone) {
        requireNonNull(newZone, "newZone is null");
        return new DataSchema(facts, lookups, sources, newZone);
    }

    /**
     * {@return the fact of the name}
     *
     * @param name the name
     * @throws MileException if there is none
     */
    public Fact fact(String name) {
        requireNonNull(name, "name is null");
        Fact fact = facts.get(name);
        if (fact == null) {
            throw ModelException.unknownName("fact", name, facts.keySet());
        }
        return fact;
    }

    /**
     * {@return where the rows of a fact or lookup are; empty where a program hands them over}
     *
     * @param table the table
     */
    public Optional<Source> source(String table) {
        requireNonNull(table, "table is null");
        return Optional.ofNullable(sources.get(table));
    }

    /**
     * {@return where the rows of a fact or lookup are}
     *
     * @param table the table
     * @throws MileException if nobody said
     */
    public Source requireSource(String table) {
        requireNonNull(table, "table is null");
        return source(table)
                .orElseThrow(() -> ModelException.of(
                        "no source is known for '%s'%s", table, Messages.didYouMean(table, sources.keySet())));
    }

    /**
     * {@return the lookups of a fact or lookup by the column that holds their key}
     *
     * @param table the table
     */
    public Map<String, String> links(String table) {
        requireNonNull(table, "table is null");
        if (facts.containsKey(table)) {
            return facts.get(table).links();
        }
        return lookups.containsKey(table) ? lookups.get(table).links() : Map.of();
    }

    /**
     * {@return the table and the lookups that hang on it, over any number of links}
     *
     * @param table the table
     */
    public Set<String> tablesBelow(String table) {
        requireNonNull(table, "table is null");
        Set<String> found = new LinkedHashSet<>(Set.of(table));
        List<String> open = new ArrayList<>(found);
        while (!open.isEmpty()) {
            links(open.remove(0)).values().stream().filter(found::add).forEach(open::add);
        }
        return found;
    }
}
