package dev.mile.sql.warehouse;

import dev.mile.engine.DayContext;
import dev.mile.engine.Source;
import dev.mile.engine.Warehouse;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.DayTable;
import dev.mile.sql.query.Dialect;
import dev.mile.sql.query.Dialects;
import dev.mile.sql.query.Relation;
import dev.mile.sql.query.SqlEngine;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Map;
import java.util.Set;

/**
 * The engine for facts that live in a database, such as PostgreSQL, for which there is a {@link Dialect}: it adds up there, in
 * transactions that only read. The driver of the database must be on the class path.
 */
public final class WarehouseEngine extends SqlEngine {
    private final ZoneId zone;
    private final Warehouse warehouse;
    private WarehouseConnection connection;

    private WarehouseEngine(
            Map<String, Fact> facts,
            Map<String, Lookup> lookups,
            Map<String, Source> sources,
            ZoneId zone,
            Warehouse warehouse) {
        super(facts, lookups, sources, Dialects.of(warehouse));
        this.zone = zone;
        this.warehouse = warehouse;
    }

    /**
     * Returns an engine over tables; the connection is opened when it is first needed.
     *
     * @param sources the table of each fact and lookup, by name
     * @param zone the zone in which timestamps have their day
     */
    public static WarehouseEngine over(
            Map<String, Fact> facts,
            Map<String, Lookup> lookups,
            Map<String, Source> sources,
            ZoneId zone,
            Warehouse warehouse) {
        return new WarehouseEngine(facts, lookups, sources, zone, warehouse);
    }

    @Override
    protected Database database() {
        if (connection == null) {
            connection = new WarehouseConnection(warehouse, dialect(), zone);
        }
        return connection;
    }

    @Override
    protected Relation load(Fact fact, Source source) {
        return new WarehouseTables(database(), dialect(), zone)
                .load(source, fact.dates(), fact.textColumns(), fact.dayStarts());
    }

    @Override
    protected Relation load(Lookup lookup, Source source) {
        return new WarehouseTables(database(), dialect(), zone)
                .load(source, Map.of(), lookup.textColumns(), LocalTime.MIDNIGHT);
    }

    @Override
    protected String days(Set<String> weeks, DayContext days) {
        return DayTable.clause(dialect(), days, weeks);
    }

    @Override
    public void close() {
        if (connection != null) {
            connection.close();
        }
    }
}
