package dev.mile.report.run;

import dev.mile.calendar.DateRange;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.RowExpression;
import dev.mile.internal.EpochDays;
import dev.mile.measure.Measure;
import dev.mile.report.FactDays;
import dev.mile.report.plan.CompiledReport;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.plan.ReportPlan;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;

/** Reads what the facts that a report shows have on each day, all rows of them, whatever its conditions. */
public final class FactDaysReader {
    private final ProjectData data;

    /** Returns the reader of a project. */
    public FactDaysReader(ProjectData data) {
        this.data = data;
    }

    private record Dated(String fact, String role) {}

    /** Returns the days of each fact and role that a report shows, in the order in which it shows them. */
    public List<FactDays> read(CompiledReport compiled) {
        Map<Dated, Set<RowExpression>> amounts = new LinkedHashMap<>();
        for (PlanNode.AggregateNode aggregate :
                ReportPlan.aggregates(compiled.plan().shown())) {
            Set<RowExpression> added = amounts.computeIfAbsent(
                    new Dated(aggregate.series().fact(), aggregate.series().role()), d -> new LinkedHashSet<>());
            if (aggregate.aggregation() != Measure.Aggregation.DISTINCT
                    && aggregate.aggregation() != Measure.Aggregation.COUNT) {
                aggregate.series().value().ifPresent(added::add);
            }
        }
        List<FactDays> all = new ArrayList<>();
        amounts.forEach((dated, values) -> all.add(read(dated, List.copyOf(values))));
        return all;
    }

    private FactDays read(Dated dated, List<RowExpression> values) {
        List<TotalColumn> columns = new ArrayList<>();
        columns.add(new TotalColumn(TotalColumn.Kind.ROWS, Optional.empty(), Optional.empty()));
        values.forEach(
                value -> columns.add(new TotalColumn(TotalColumn.Kind.SUM, Optional.of(value), Optional.empty())));
        DateRange days = data.dimension().range();
        TreeMap<LocalDate, FactDays.Total> totals = new TreeMap<>();
        try (TotalsCursor cursor =
                data.totals(TotalsRequest.daily(dated.fact(), dated.role(), days, List.of(), columns))) {
            for (GroupTotals group = cursor.next(); group != null; group = cursor.next()) {
                for (int i = 0; i < group.days().length; i++) {
                    List<BigDecimal> sums = new ArrayList<>();
                    for (int c = 1; c < columns.size(); c++) {
                        sums.add(sum(group.values()[c], i));
                    }
                    totals.put(
                            EpochDays.toDate(group.days()[i]),
                            new FactDays.Total(group.values()[0].amount(i).longValue(), sums));
                }
            }
        }
        return new FactDays(
                dated.fact(),
                dated.role(),
                values.stream().map(Object::toString).toList(),
                totals);
    }

    private static BigDecimal sum(DailyTotals totals, int day) {
        Number amount = totals.amount(day);
        return amount == null ? BigDecimal.ZERO : new BigDecimal(amount.toString());
    }
}
