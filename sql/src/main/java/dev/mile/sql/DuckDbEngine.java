package dev.mile.sql;

import dev.mile.fact.DayKnowledge;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.Source;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;

/**
 * The engine for files: CSV, Parquet and JSON, read and added up by DuckDB inside this process. Sources are read when they are
 * first asked for; nothing is written beside them.
 */
public final class DuckDbEngine extends SqlEngine {
    private final ZoneId zone;
    private Database database;
    private Set<String> daysWritten;

    private DuckDbEngine(
            Map<String, Fact> facts, Map<String, Lookup> lookups, Map<String, Source> sources, ZoneId zone) {
        super(facts, lookups, sources, Dialect.DUCKDB);
        this.zone = zone;
    }

    /**
     * Returns an engine over files.
     *
     * @param sources where the rows of each fact and lookup are, by name
     * @param zone the zone in which timestamps have their day
     */
    public static DuckDbEngine over(
            Map<String, Fact> facts, Map<String, Lookup> lookups, Map<String, Source> sources, ZoneId zone) {
        return new DuckDbEngine(facts, lookups, sources, zone);
    }

    /**
     * Loads the embedded database in the background, since that takes about as long as reading a model.
     *
     * @return the thread, to be waited for before the program ends: a library must not be unloaded while it is loaded
     */
    public static Thread warmUp() {
        Thread loading = new Thread(() -> Database.embedded().close(), "mile loads the embedded database");
        // whoever asks the database will be told what is wrong
        loading.setUncaughtExceptionHandler((thread, e) -> {});
        loading.start();
        return loading;
    }

    @Override
    Database database() {
        if (database == null) {
            database = Database.embedded();
        }
        return database;
    }

    @Override
    Relation load(Fact fact, Source source) {
        Set<String> texts = new HashSet<>(fact.links().keySet());
        if (fact.grain().isPresent()) {
            // a label of a period may look like a number
            texts.addAll(fact.dates().values());
        }
        return new SourceLoader(database(), zone).load(fact.name(), source, fact.dates(), texts, fact.dayStarts());
    }

    @Override
    Relation load(Lookup lookup, Source source) {
        Set<String> texts = new HashSet<>(lookup.links().keySet());
        texts.add(lookup.key());
        return new SourceLoader(database(), zone).load(lookup.name(), source, Map.of(), texts, LocalTime.MIDNIGHT);
    }

    /** The table is written once, and again when a working week is asked for that it lacks. */
    @Override
    String days(Set<String> weeks, DayKnowledge days) {
        if (daysWritten == null || !daysWritten.containsAll(weeks)) {
            Set<String> all = new LinkedHashSet<>(weeks);
            all.addAll(daysWritten == null ? Set.of() : daysWritten);
            DayTable.write(database(), days, all);
            daysWritten = all;
        }
        return "";
    }

    @Override
    public void close() {
        if (database != null) {
            database.close();
        }
    }
}
