package dev.mile.sql;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.Source;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.Warehouse;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.internal.Messages;
import dev.mile.sql.files.DuckDbEngine;
import dev.mile.sql.warehouse.WarehouseEngine;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The engine for a model's sources: asks the embedded database about files, and warehouses about their tables. */
public final class RoutingEngine implements Engine {
    private final Map<String, Source> sources;
    private final Map<String, Engine> engines = new HashMap<>();

    private RoutingEngine(Map<String, Source> sources) {
        this.sources = sources;
    }

    /**
     * Returns an engine over sources of any kind.
     *
     * @param sources where the rows of each fact and lookup are, by name
     * @param warehouses the connections by name
     * @param zone the zone in which timestamps have their day
     * @param limits how much of the machine reading files may take
     * @throws MileException if a fact and a lookup that it is joined with are in different places
     */
    public static RoutingEngine over(
            Map<String, Fact> facts,
            Map<String, Lookup> lookups,
            Map<String, Source> sources,
            Map<String, Warehouse> warehouses,
            ZoneId zone,
            DuckDbEngine.Limits limits) {
        RoutingEngine engine = new RoutingEngine(sources);
        facts.values().forEach(fact -> engine.checkTogether(fact.name(), fact.links()));
        lookups.values().forEach(lookup -> engine.checkTogether(lookup.name(), lookup.links()));
        for (Source source : sources.values()) {
            engine.engines.computeIfAbsent(
                    source.warehouse(),
                    place -> place.isEmpty()
                            ? DuckDbEngine.over(facts, lookups, sources, zone, limits)
                            : WarehouseEngine.over(facts, lookups, sources, zone, warehouses.get(place)));
        }
        return engine;
    }

    private void checkTogether(String name, Map<String, String> links) {
        Source own = sources.get(name);
        links.values().forEach(lookup -> {
            Source other = sources.get(lookup);
            if (own != null && other != null && !own.warehouse().equals(other.warehouse())) {
                throw MileException.invalidModel(
                                "'%s' is in %s and its lookup '%s' in %s; they are joined, so put both into one place",
                                name, place(own), lookup, place(other))
                        .withLocation(own.place());
            }
        });
    }

    private static String place(Source source) {
        return source.warehouse().isEmpty() ? "a file" : "the warehouse '" + source.warehouse() + "'";
    }

    private Engine of(String table) {
        Source source = sources.get(table);
        if (source == null) {
            throw MileException.invalidModel(
                    "no source is known for '%s'%s", table, Messages.didYouMean(table, sources.keySet()));
        }
        return engines.get(source.warehouse());
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
