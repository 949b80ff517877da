package dev.mile.engine.memory;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.RowPredicate;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.rows.JoinedRows;
import dev.mile.engine.rows.RowDays;
import dev.mile.engine.rows.TotalsComputation;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.internal.Messages;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/** The engine for rows that a Java program hands over as {@link Table}s. */
public final class MemoryEngine implements Engine {
    private final Map<String, Fact> facts = new LinkedHashMap<>();
    private final Map<String, Lookup> lookups = new LinkedHashMap<>();
    private final Map<String, Table> tables = new HashMap<>();
    private final Map<String, JoinedRows> rows = new HashMap<>();

    /** Returns an engine that has no rows yet. */
    public MemoryEngine() {}

    /** Adds a fact and its rows. */
    public MemoryEngine fact(Fact fact, Table table) {
        facts.put(fact.name(), fact);
        tables.put(fact.name(), table);
        return this;
    }

    /** Adds a lookup and its rows. */
    public MemoryEngine lookup(Lookup lookup, Table table) {
        lookups.put(lookup.name(), lookup);
        tables.put(lookup.name(), table);
        return this;
    }

    private JoinedRows rowsOf(String fact) {
        return rows.computeIfAbsent(fact, f -> new JoinedRows(factOf(f), lookups, tables));
    }

    private Fact factOf(String name) {
        Fact fact = facts.get(name);
        if (fact == null) {
            throw MileException.invalidModel("unknown fact '%s'%s", name, Messages.didYouMean(name, facts.keySet()));
        }
        return fact;
    }

    @Override
    public Map<String, ValueType> columns(String table) {
        return rows(table).types();
    }

    @Override
    public Table rows(String table) {
        Table found = tables.get(table);
        if (found == null) {
            throw MileException.invalidModel(
                    "no rows were given for '%s'%s", table, Messages.didYouMean(table, tables.keySet()));
        }
        return found;
    }

    private RowDays placement(String fact, String role) {
        return new RowDays(null, rowsOf(fact).days(role), null);
    }

    @Override
    public List<DateCount> dates(String fact) {
        List<DateCount> dates = new ArrayList<>();
        JoinedRows of = rowsOf(fact);
        RowPredicate keep = keep(factOf(fact), of, null);
        for (String role : factOf(fact).roles()) {
            TreeMap<Integer, Long> counts = new TreeMap<>();
            for (int row = 0; row < of.table().rows(); row++) {
                int day = of.day(role, row);
                if (day != Table.NO_DATE && day != Table.UNREADABLE && kept(keep, row)) {
                    counts.merge(day, 1L, Long::sum);
                }
            }
            counts.forEach((day, count) -> dates.add(new DateCount(role, day, count)));
        }
        return dates;
    }

    @Override
    public Optional<String> example(String fact, String role, long day) {
        JoinedRows of = rowsOf(fact);
        for (int row = 0; row < of.table().rows(); row++) {
            if (of.day(role, row) == day) {
                return Optional.of("row " + (row + 1));
            }
        }
        return Optional.empty();
    }

    private static RowPredicate keep(Fact fact, JoinedRows of, DayContext days) {
        return fact.resolveFilter(of.table().types())
                .map(condition -> RowPredicate.of(condition, of.source(row -> Table.NO_DATE, row -> row, days), days))
                .orElse(null);
    }

    private static boolean kept(RowPredicate keep, int row) {
        return keep == null || keep.test(row) == RowPredicate.YES;
    }

    @Override
    public TotalsCursor totals(TotalsRequest request, DayContext days) {
        return totals(request, placement(request.fact(), request.role()), days);
    }

    public TotalsCursor totals(TotalsRequest request, RowDays places, DayContext days) {
        return new TotalsComputation(rowsOf(request.fact()), places, factOf(request.fact()), request, days).run();
    }

    @Override
    public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext days) {
        Map<String, RowDays> places = new LinkedHashMap<>();
        factOf(fact).roles().forEach(role -> places.put(role, placement(fact, role)));
        return accounts(fact, amounts, places, days);
    }

    public FactAccounts accounts(
            String fact, List<Operand.Field> amounts, Map<String, RowDays> places, DayContext days) {
        Fact definition = factOf(fact);
        JoinedRows of = rowsOf(fact);
        RowPredicate keep = keep(definition, of, days);
        int count = of.table().rows();
        long kept = 0;
        for (int row = 0; row < count; row++) {
            kept += kept(keep, row) ? 1 : 0;
        }
        List<RoleAccounts> roles = new ArrayList<>();
        places.forEach((role, place) -> roles.add(role(definition, role, place, amounts, keep, days.dimensionRange())));
        Map<String, FactAccounts.UnknownKeys> unknown = new LinkedHashMap<>();
        definition.links().forEach((column, lookup) -> {
            Table.Texts keys = of.table().coded(column);
            String key = lookups.get(lookup).key();
            Operand.Field joined = new Operand.Field(List.of(column), key, ValueType.TEXT);
            Table.Texts found = of.coded(joined);
            long rowsWithout = 0;
            String example = "";
            for (int row = 0; row < count; row++) {
                if (keys.codes()[row] >= 0 && found.codes()[row] < 0 && kept(keep, row)) {
                    example = rowsWithout++ == 0 ? keys.dictionary()[keys.codes()[row]] : example;
                }
            }
            if (rowsWithout > 0) {
                unknown.put(column, new FactAccounts.UnknownKeys(lookup, rowsWithout, example));
            }
        });
        return new FactAccounts(
                fact,
                count,
                FactAccounts.Rejected.NONE,
                kept,
                amounts.stream().map(Operand.Field::column).toList(),
                roles,
                unknown);
    }

    private RoleAccounts role(
            Fact fact, String role, RowDays places, List<Operand.Field> amounts, RowPredicate keep, DateRange placed) {
        Map<RoleAccounts.RowOutcome, long[]> counts = new EnumMap<>(RoleAccounts.RowOutcome.class);
        Map<RoleAccounts.RowOutcome, BigDecimal[]> sums = new EnumMap<>(RoleAccounts.RowOutcome.class);
        JoinedRows of = rowsOf(fact.name());
        String example = "";
        int i = 0;
        while (i < places.size()) {
            int row = places.row(i);
            RoleAccounts.RowOutcome part = RoleAccounts.RowOutcome.of(places.days()[i], placed);
            int next = i;
            while (next < places.size() && places.row(next) == row) {
                // a row of a plan is placed where any of its days is
                part = RoleAccounts.RowOutcome.of(places.days()[next], placed) == RoleAccounts.RowOutcome.PLACED
                        ? RoleAccounts.RowOutcome.PLACED
                        : part;
                next++;
            }
            i = next;
            if (!kept(keep, row)) {
                continue;
            }
            counts.computeIfAbsent(part, p -> new long[1])[0]++;
            if (part == RoleAccounts.RowOutcome.UNREADABLE && example.isEmpty()) {
                String text = of.table().textAt(fact.column(role), row);
                example = text == null ? "" : text;
            }
            BigDecimal[] into = sums.computeIfAbsent(part, p -> new BigDecimal[amounts.size()]);
            for (int a = 0; a < into.length; a++) {
                Object value = of.value(amounts.get(a), row);
                if (value instanceof BigDecimal number) {
                    into[a] = into[a] == null ? number : into[a].add(number);
                }
            }
        }
        Map<RoleAccounts.RowOutcome, RoleAccounts.Account> parts = new EnumMap<>(RoleAccounts.RowOutcome.class);
        counts.forEach((part, n) -> parts.put(part, new RoleAccounts.Account(n[0], sums.get(part))));
        return new RoleAccounts(role, parts, example);
    }

    @Override
    public void close() {}
}
