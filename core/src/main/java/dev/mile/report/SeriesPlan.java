package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.engine.DayBuckets;
import dev.mile.engine.DayContext;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.Operand;
import dev.mile.fact.RowExpression;
import dev.mile.fact.ValueType;
import dev.mile.measure.Measure;
import dev.mile.report.plan.PlanNode;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What is asked of an engine for the aggregates of a report: one pass for those of one fact, role and grouping, in which each
 * series has its columns.
 */
final class SeriesPlan {
    private record Pass(String fact, String role, List<Operand.Field> groups, Set<TotalColumn> columns) {}

    /** The pass of a series and the columns that it is made of; -1 for one that it does not need. */
    record Place(int pass, int rows, int count, int sum, int min, int max, int distinct) implements Serializable {}

    private final Map<String, Fact> facts;
    private final Map<String, Lookup> lookups;
    private final DayContext days;
    private final List<Pass> passes = new ArrayList<>();
    private final List<PlanNode.Series> series = new ArrayList<>();
    private final Map<Integer, DayBuckets> stretches = new HashMap<>();

    SeriesPlan(Map<String, Fact> facts, Map<String, Lookup> lookups, DayContext days) {
        this.facts = facts;
        this.lookups = lookups;
        this.days = days;
    }

    /** Announces a series, so that it is part of the pass over its fact; returns its number. */
    int want(PlanNode.Series wanted, Measure.Aggregation how) {
        if (!series.contains(wanted)) {
            series.add(wanted);
        }
        Pass pass = passes.stream()
                .filter(p -> isOf(p, wanted))
                .findFirst()
                .orElseGet(() -> new Pass(wanted.fact(), wanted.role(), wanted.groups(), new LinkedHashSet<>()));
        if (!passes.contains(pass)) {
            passes.add(pass);
        }
        pass.columns().addAll(columns(wanted, how));
        return series.indexOf(wanted);
    }

    private static boolean isOf(Pass pass, PlanNode.Series series) {
        return pass.fact().equals(series.fact())
                && pass.role().equals(series.role())
                && pass.groups().equals(series.groups());
    }

    private static List<TotalColumn> columns(PlanNode.Series series, Measure.Aggregation how) {
        Optional<RowExpression> of = series.value();
        List<TotalColumn> columns = new ArrayList<>();
        columns.add(new TotalColumn(TotalColumn.Kind.ROWS, Optional.empty(), series.where()));
        if (of.isEmpty()) {
            return columns;
        }
        if (how == Measure.Aggregation.DISTINCT) {
            columns.add(new TotalColumn(TotalColumn.Kind.DISTINCT, of, series.where()));
            return columns;
        }
        columns.add(new TotalColumn(TotalColumn.Kind.COUNT, of, series.where()));
        switch (how) {
            case MIN -> columns.add(new TotalColumn(TotalColumn.Kind.MIN, of, series.where()));
            case MAX -> columns.add(new TotalColumn(TotalColumn.Kind.MAX, of, series.where()));
            case COUNT -> {}
            default -> columns.add(new TotalColumn(TotalColumn.Kind.SUM, of, series.where()));
        }
        return columns;
    }

    List<PlanNode.Series> series() {
        return series;
    }

    int passes() {
        return passes.size();
    }

    /** Returns what the engine is asked for a pass: the columns of its series, then what tells of keys that lookups lack. */
    TotalsRequest request(int number) {
        Pass pass = passes.get(number);
        List<TotalColumn> columns = new ArrayList<>(pass.columns());
        columns.addAll(unknownKeys(pass));
        return new TotalsRequest(pass.fact(), pass.role(), range(pass), stretches(number), pass.groups(), columns);
    }

    private DateRange range(Pass pass) {
        return facts.get(pass.fact()).plan()
                ? days.dimensionRange()
                : days.dimensionRange().notAfter(days.asOf());
    }

    /**
     * Has a pass asked for stretches of days rather than days, if that is much less.
     *
     * @param begins the days on which windows over its series begin, or before which they end
     */
    void stretch(int number, Set<Integer> begins) {
        Pass pass = passes.get(number);
        DateRange range = range(pass);
        if (!range.isEmpty() && 2 * begins.size() <= range.length()) {
            stretches.put(number, DayBuckets.of(range, begins));
        }
    }

    /** Returns the days of a pass that have one total together. */
    DayBuckets stretches(int number) {
        return stretches.getOrDefault(number, DayBuckets.DAILY);
    }

    /** Returns the first column of a pass's request that counts rows with a key that a lookup lacks. */
    int firstUnknown(int number) {
        return passes.get(number).columns().size();
    }

    /** Returns columns that count the rows whose key a lookup lacks, for the lookups that the pass reads. */
    private List<TotalColumn> unknownKeys(Pass pass) {
        Set<String> used = new LinkedHashSet<>();
        pass.groups().forEach(group -> used(group, used));
        for (TotalColumn column : pass.columns()) {
            column.value().ifPresent(of -> of.map(operand -> used(operand, used)));
            column.where().ifPresent(where -> where.map(operand -> used(operand, used)));
        }
        List<TotalColumn> columns = new ArrayList<>();
        for (String link : used) {
            Lookup lookup = lookups.get(facts.get(pass.fact()).links().get(link));
            Operand key = new Operand.Field(List.of(), link, ValueType.TEXT);
            Operand there = new Operand.Field(List.of(link), lookup.key(), ValueType.TEXT);
            columns.add(new TotalColumn(
                    TotalColumn.Kind.ROWS,
                    Optional.empty(),
                    Optional.of(new Condition.And(
                            List.of(new Condition.Not(new Condition.IsBlank(key)), new Condition.IsBlank(there))))));
        }
        return columns;
    }

    private static Operand used(Operand operand, Set<String> used) {
        if (operand instanceof Operand.Field field && !field.path().isEmpty()) {
            used.add(field.path().get(0));
        }
        return operand;
    }

    /** Returns where the columns of a series stand in its pass. */
    Place place(int number) {
        PlanNode.Series of = series.get(number);
        int pass = 0;
        while (!isOf(passes.get(pass), of)) {
            pass++;
        }
        List<TotalColumn> columns = List.copyOf(passes.get(pass).columns());
        int[] at = new int[TotalColumn.Kind.values().length];
        for (TotalColumn.Kind kind : TotalColumn.Kind.values()) {
            Optional<RowExpression> value = kind == TotalColumn.Kind.ROWS ? Optional.empty() : of.value();
            at[kind.ordinal()] = columns.indexOf(new TotalColumn(kind, value, of.where()));
        }
        return new Place(
                pass,
                at[TotalColumn.Kind.ROWS.ordinal()],
                at[TotalColumn.Kind.COUNT.ordinal()],
                at[TotalColumn.Kind.SUM.ordinal()],
                at[TotalColumn.Kind.MIN.ordinal()],
                at[TotalColumn.Kind.MAX.ordinal()],
                at[TotalColumn.Kind.DISTINCT.ordinal()]);
    }
}
