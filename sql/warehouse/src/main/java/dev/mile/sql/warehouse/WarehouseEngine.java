package dev.mile.sql.warehouse;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DayContext;
import dev.mile.engine.Source;
import dev.mile.engine.Warehouse;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.internal.InterruptibleLock;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.dialect.Dialects;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.DayTable;
import dev.mile.sql.query.Relation;
import dev.mile.sql.query.SqlEngine;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.LocalTime;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntToLongFunction;
import javax.sql.DataSource;

/**
 * The engine for facts that live in a database, such as PostgreSQL, for which there is a {@link Dialect}: it adds up there, in
 * transactions that only read. The driver of the database must be on the class path. A service hands over its own {@link DataSource}.
 */
@SuppressWarnings("exports") // users see an Engine; what it shares with other engines that ask SQL is hidden
public final class WarehouseEngine extends SqlEngine {
    private final InterruptibleLock lock = new InterruptibleLock();
    private final Warehouse warehouse;
    private final Optional<DataSource> pool;
    private WarehouseConnection connection;

    private WarehouseEngine(DataSchema schema, Warehouse warehouse, Optional<DataSource> pool) {
        super(schema, Dialects.of(warehouse));
        this.warehouse = warehouse;
        this.pool = pool;
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
        return new WarehouseEngine(schema, warehouse, Optional.empty());
    }

    /**
     * {@return an engine over the tables of a schema, on connections of the program's own, such as those of a pool: one is borrowed for each
     * statement, and given back as it was} User and password stay with the program.
     *
     * @param schema the facts and lookups
     * @param warehouse the name of the warehouse in messages, the url by which its dialect is known, and how long a statement may take;
     *     user and password are not looked at
     * @param connections where connections come from; stays open
     */
    public static WarehouseEngine over(DataSchema schema, Warehouse warehouse, DataSource connections) {
        requireNonNull(schema, "schema is null");
        requireNonNull(warehouse, "warehouse is null");
        requireNonNull(connections, "connections is null");
        return new WarehouseEngine(schema, warehouse, Optional.of(connections));
    }

    /**
     * {@return an engine over the tables of a schema, on connections of the program's own, as {@link #over(DataSchema, Warehouse, DataSource)};
     * the database is asked for its url}
     *
     * @param schema the facts and lookups
     * @param connections where connections come from; stays open
     * @throws MileException if the database cannot be reached, or no dialect is known for it
     */
    public static WarehouseEngine over(DataSchema schema, DataSource connections) {
        requireNonNull(schema, "schema is null");
        requireNonNull(connections, "connections is null");
        String name = schema.sources().values().stream()
                .filter(Source.InWarehouse.class::isInstance)
                .map(source -> ((Source.InWarehouse) source).warehouse())
                .findFirst()
                .orElse("database");
        try (Connection one = connections.getConnection()) {
            // of the url only the kind of database is of interest, and the rest may hold secrets
            String kind = one.getMetaData().getURL().replaceFirst("^(jdbc:[^:]+:).*", "$1connections");
            return over(schema, Warehouse.of(name, kind), connections);
        } catch (SQLException e) {
            throw DataException.of(
                            "the database cannot be reached: %s", Database.firstLine(String.valueOf(e.getMessage())))
                    .withCause(e);
        }
    }

    @Override
    protected Database database() {
        return lock.during(() -> {
            if (connection == null) {
                connection = new WarehouseConnection(warehouse, pool, dialect(), schema().zone());
            }
            return connection;
        });
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
