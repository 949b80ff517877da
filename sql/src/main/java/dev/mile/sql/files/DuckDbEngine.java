package dev.mile.sql.files;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.DayContext;
import dev.mile.engine.Source;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.DayTable;
import dev.mile.sql.query.Relation;
import dev.mile.sql.query.Sql;
import dev.mile.sql.query.SqlEngine;
import dev.mile.sql.query.TotalsStatement;
import java.nio.file.Path;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.DoubleConsumer;

/**
 * The engine for files: CSV, Parquet and JSON, read and added up by DuckDB inside this process. Sources are read when they are
 * first asked for; nothing is written beside them.
 */
public final class DuckDbEngine extends SqlEngine {
    private final ZoneId zone;
    private final String part;
    private final List<Path> files;
    private final Limits limits;
    private Database database;
    private Set<String> daysWritten;

    /**
     * How much of the machine reading files may take.
     *
     * @param memory a size such as 2GB; empty for four fifths of what there is
     * @param threads how many; 0 for one for each processor
     * @param progress is told which share of a statement that takes long is done, from 0 to 1, on a thread of its own; null for
     *     nobody
     */
    public record Limits(String memory, int threads, DoubleConsumer progress) {
        /** All that there is. */
        public static final Limits NONE = new Limits("", 0, null);

        /**
         * Returns limits; null for none.
         *
         * @throws MileException if the size is none, or the threads are fewer than one
         */
        public static Limits of(String memory, Integer threads, DoubleConsumer progress) {
            if (memory != null && !memory.matches("(?i)[1-9][0-9]*(\\.[0-9]+)? *[KMGT]i?B")) {
                throw MileException.invalidModel(
                        "'%s' is no size of memory; expected one such as 512MB or 2GB", memory);
            }
            if (threads != null && threads < 1) {
                throw MileException.invalidModel("%d threads cannot read; expected 1 or more", threads);
            }
            return new Limits(memory == null ? "" : memory, threads == null ? 0 : threads, progress);
        }

        void set(Database database) {
            if (!memory.isEmpty()) {
                database.run("SET memory_limit = " + Sql.text(memory));
            }
            if (threads > 0) {
                database.run("SET threads = " + threads);
            }
            if (progress != null) {
                database.onProgress(progress);
            }
        }
    }

    private DuckDbEngine(
            Map<String, Fact> facts,
            Map<String, Lookup> lookups,
            Map<String, Source> sources,
            ZoneId zone,
            String part,
            List<Path> files,
            Limits limits) {
        super(facts, lookups, sources, new DuckDbDialect());
        this.zone = zone;
        this.part = part;
        this.files = files;
        this.limits = limits;
    }

    /**
     * Returns an engine over files.
     *
     * @param sources where the rows of each fact and lookup are, by name
     * @param zone the zone in which timestamps have their day
     */
    public static DuckDbEngine over(
            Map<String, Fact> facts, Map<String, Lookup> lookups, Map<String, Source> sources, ZoneId zone) {
        return over(facts, lookups, sources, zone, Limits.NONE);
    }

    /** Returns an engine over files that takes no more of the machine than it may. */
    public static DuckDbEngine over(
            Map<String, Fact> facts,
            Map<String, Lookup> lookups,
            Map<String, Source> sources,
            ZoneId zone,
            Limits limits) {
        return new DuckDbEngine(facts, lookups, sources, zone, "", List.of(), limits);
    }

    /** Returns an engine that reads only some of the Parquet files of one fact. */
    public static DuckDbEngine overFiles(
            Map<String, Fact> facts,
            Map<String, Lookup> lookups,
            Map<String, Source> sources,
            ZoneId zone,
            String fact,
            List<Path> files) {
        return new DuckDbEngine(facts, lookups, sources, zone, fact, files, Limits.NONE);
    }

    /** Loads the embedded database, which takes about as long as reading a model, so that who asks later need not wait. */
    public static void warmUp() {
        Database.shared().close();
    }

    @Override
    protected Database database() {
        if (database == null) {
            database = Database.embedded();
            limits.set(database);
        }
        return database;
    }

    @Override
    protected Relation load(Fact fact, Source source) {
        return new SourceLoader(database(), zone, fact.name().equals(part) ? files : List.of())
                .load(fact.name(), source, fact.dates(), fact.textColumns(), fact.dayStarts());
    }

    @Override
    protected Relation load(Lookup lookup, Source source) {
        return new SourceLoader(database(), zone)
                .load(lookup.name(), source, Map.of(), lookup.textColumns(), LocalTime.MIDNIGHT);
    }

    /** The table is written once, and again when a working week is asked for that it lacks. */
    @Override
    protected String days(Set<String> weeks, DayContext days) {
        if (daysWritten == null || !daysWritten.containsAll(weeks)) {
            Set<String> all = new LinkedHashSet<>(weeks);
            all.addAll(daysWritten == null ? Set.of() : daysWritten);
            DayTable.write(database(), days, all);
            daysWritten = all;
        }
        return "";
    }

    @Override
    protected TotalsCursor totals(TotalsStatement statement, TotalsRequest request, DateRange placed) {
        return new DuckDbTotalsCursor(database(), statement, request, placed);
    }

    @Override
    public void close() {
        if (database != null) {
            database.close();
        }
    }
}
