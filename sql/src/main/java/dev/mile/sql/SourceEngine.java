package dev.mile.sql;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.MileException;
import dev.mile.calendar.Texts;
import dev.mile.fact.DateCount;
import dev.mile.fact.DayKnowledge;
import dev.mile.fact.Engine;
import dev.mile.fact.Fact;
import dev.mile.fact.FactAccounts;
import dev.mile.fact.Lookup;
import dev.mile.fact.Operand;
import dev.mile.fact.Source;
import dev.mile.fact.Table;
import dev.mile.fact.TotalsCursor;
import dev.mile.fact.TotalsRequest;
import dev.mile.fact.ValueType;
import dev.mile.fact.Warehouse;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** The engine for a model's sources: asks the embedded database about files, and warehouses about their tables. */
public final class SourceEngine implements Engine {
    private final Map<String, Source> sources;
    private final Map<String, Engine> engines = new HashMap<>();

    private SourceEngine(Map<String, Source> sources) {
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
    public static SourceEngine over(
            Map<String, Fact> facts,
            Map<String, Lookup> lookups,
            Map<String, Source> sources,
            Map<String, Warehouse> warehouses,
            ZoneId zone,
            DuckDbEngine.Limits limits) {
        SourceEngine engine = new SourceEngine(sources);
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
                throw MileException.model(
                                "'%s' is in %s and its lookup '%s' in %s; they are joined, so put both into one place",
                                name, place(own), lookup, place(other))
                        .at(own.place());
            }
        });
    }

    private static String place(Source source) {
        return source.warehouse().isEmpty() ? "a file" : "the warehouse '" + source.warehouse() + "'";
    }

    private Engine of(String table) {
        Source source = sources.get(table);
        if (source == null) {
            throw MileException.model("no source is known for '%s'%s", table, Texts.nearest(table, sources.keySet()));
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
    public DateRange coverage(String fact, String role, DayKnowledge days) {
        return of(fact).coverage(fact, role, days);
    }

    @Override
    public TotalsCursor totals(TotalsRequest request, DayKnowledge days) {
        return of(request.fact()).totals(request, days);
    }

    @Override
    public FactAccounts.Rejected rejected(String fact) {
        return of(fact).rejected(fact);
    }

    @Override
    public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayKnowledge days) {
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
