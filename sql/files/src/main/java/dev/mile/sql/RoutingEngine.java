package dev.mile.sql;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.Source;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.UnreadValues;
import dev.mile.engine.Warehouse;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.sql.files.DuckDbEngine;
import dev.mile.sql.files.FileLimits;
import dev.mile.sql.warehouse.WarehouseEngine;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.sql.DataSource;

/** The engine for a model's sources: asks the embedded database about files, and warehouses about their tables. */
public final class RoutingEngine implements Engine {
    /** Stands for files among the warehouses. */
    private static final Optional<String> FILES = Optional.empty();

    private final DataSchema schema;
    private final Map<Optional<String>, Engine> engines = new HashMap<>();

    private RoutingEngine(DataSchema schema) {
        this.schema = schema;
    }

    /**
     * {@return an engine over sources of any kind}
     *
     * @param schema the facts and lookups
     * @param warehouses the connections by name
     * @param limits how much of the machine reading files may take
     * @throws MileException if a fact and a lookup that it is joined with are in different databases
     */
    public static RoutingEngine over(DataSchema schema, Map<String, Warehouse> warehouses, FileLimits limits) {
        return over(schema, warehouses, Map.of(), limits);
    }

    /**
     * {@return an engine over sources of any kind, on connections of the program's own to some warehouses}
     *
     * @param schema the facts and lookups
     * @param warehouses the connections by name
     * @param pools where the connections to a warehouse come from, by its name; others are opened as the warehouse says
     * @param limits how much of the machine reading files may take
     * @throws MileException if a fact and a lookup that it is joined with are in different databases
     */
    public static RoutingEngine over(
            DataSchema schema,
            Map<String, Warehouse> warehouses,
            Map<String, ? extends DataSource> pools,
            FileLimits limits) {
        requireNonNull(schema, "schema is null");
        requireNonNull(warehouses, "warehouses is null");
        requireNonNull(pools, "pools is null");
        requireNonNull(limits, "limits is null");
        RoutingEngine engine = new RoutingEngine(schema);
        schema.sources().keySet().forEach(engine::checkTogether);
        for (Source source : schema.sources().values()) {
            engine.engines.computeIfAbsent(
                    database(source), database -> database.<Engine>map(name -> pools.containsKey(name)
                                    ? WarehouseEngine.over(schema, warehouses.get(name), pools.get(name))
                                    : WarehouseEngine.over(schema, warehouses.get(name)))
                            .orElseGet(() -> DuckDbEngine.over(schema, limits)));
        }
        return engine;
    }

    /** Returns the warehouse that has the source. */
    private static Optional<String> database(Source source) {
        return source instanceof Source.InWarehouse rows ? Optional.of(rows.warehouse()) : FILES;
    }

    private void checkTogether(String name) {
        Source own = schema.sources().get(name);
        schema.links(name).values().forEach(lookup -> {
            Source other = schema.sources().get(lookup);
            if (other != null && !database(own).equals(database(other))) {
                throw ModelException.of(
                                "'%s' is in %s and its lookup '%s' in %s; they are joined, so put both into one place",
                                name, describe(own), lookup, describe(other))
                        .withLocationOf(own);
            }
        });
    }

    private static String describe(Source source) {
        return database(source).map(name -> "the warehouse '" + name + "'").orElse("a file");
    }

    private Engine of(String table) {
        return engines.get(database(schema.requireSource(table)));
    }

    @Override
    public DataSchema schema() {
        return schema;
    }

    @Override
    public Map<String, ValueType> columns(String table) {
        return of(table).columns(table);
    }

    @Override
    public List<DateCount> dates(String fact) {
        return of(fact).dates(fact);
    }

    @Override
    public Optional<String> example(String fact, String role, long day) {
        return of(fact).example(fact, role, day);
    }

    @Override
    public Optional<UnreadValues> unread(String table, String column, ValueType as) {
        return of(table).unread(table, column, as);
    }

    @Override
    public DateRange coverage(String fact, String role, DayContext days) {
        return of(fact).coverage(fact, role, days);
    }

    @Override
    public TotalsCursor totals(TotalsRequest request, DayContext days) {
        return of(request.fact()).totals(request, days);
    }

    @Override
    public FactAccounts.Rejected rejected(String fact) {
        return of(fact).rejected(fact);
    }

    @Override
    public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext days) {
        return of(fact).accounts(fact, amounts, days);
    }

    @Override
    public Table rows(String table) {
        return of(table).rows(table);
    }

    @Override
    public void close() {
        engines.values().forEach(Engine::close);
    }
}
