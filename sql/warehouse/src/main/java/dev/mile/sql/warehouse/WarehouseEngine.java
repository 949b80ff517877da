package dev.mile.sql.warehouse;

import static java.util.Objects.requireNonNull;

import dev.mile.engine.DataSchema;
import dev.mile.engine.DayContext;
import dev.mile.engine.Source;
import dev.mile.engine.Warehouse;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.dialect.Dialects;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.DayTable;
import dev.mile.sql.query.Relation;
import dev.mile.sql.query.SqlEngine;
import java.time.LocalTime;
import java.util.Map;
import java.util.function.IntToLongFunction;

/**
 * The engine for facts that live in a database, such as PostgreSQL, for which there is a {@link Dialect}: it adds up there, in
 * transactions that only read. The driver of the database must be on the class path.
 */
@SuppressWarnings("exports") // users see an Engine; what it shares with other engines that ask SQL is hidden
public final class WarehouseEngine extends SqlEngine {
    private final Warehouse warehouse;
    private WarehouseConnection connection;

    private WarehouseEngine(DataSchema schema, Warehouse warehouse) {
        super(schema, Dialects.of(warehouse));
        this.warehouse = warehouse;
    }

    /**
     * {@return an engine over the tables of a schema in a warehouse; the connection is opened when it is first needed}
     *
     * @param schema the facts and lookups
     * @param warehouse the warehouse
     */
    public static WarehouseEngine over(DataSchema schema, Warehouse warehouse) {
        requireNonNull(schema, "schema is null");
        requireNonNull(warehouse, "warehouse is null");
        return new WarehouseEngine(schema, warehouse);
    }

    @Override
    protected synchronized Database database() {
        if (connection == null) {
            connection = new WarehouseConnection(warehouse, dialect(), schema().zone());
        }
        return connection;
    }

    @Override
    protected Relation load(Fact fact, Source source) {
        return new WarehouseTables(database(), dialect(), schema().zone())
                .load(fact.name(), (Source.InWarehouse) source, fact.dates(), fact.textColumns(), fact.dayStarts());
    }

    @Override
    protected Relation load(Lookup lookup, Source source) {
        return new WarehouseTables(database(), dialect(), schema().zone())
                .load(lookup.name(), (Source.InWarehouse) source, Map.of(), lookup.textColumns(), LocalTime.MIDNIGHT);
    }

    @Override
    protected String days(Map<String, IntToLongFunction> weeks, DayContext days) {
        return DayTable.clause(dialect(), DayTable.rows(days, weeks));
    }

    @Override
    public void close() {
        if (connection != null) {
            connection.close();
        }
    }
}
