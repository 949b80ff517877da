package dev.mile.report.run;

import dev.mile.calendar.DateRange;
import dev.mile.internal.Labels;
import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.Target;
import dev.mile.report.Grid;
import dev.mile.report.Report;
import dev.mile.report.axis.Axis;
import dev.mile.report.axis.ReportAxes;
import dev.mile.report.plan.CompiledReport;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.plan.PlannedColumn;
import dev.mile.report.plan.ReportPlan;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Builds the header of a report's grid: its columns, each with what it means. */
public final class GridHeaderBuilder {
    private final ProjectData data;
    private final Report report;
    private final ReportAxes axes;
    private final List<PlannedColumn> shown;

    /** Returns the builder of a report's header. */
    public GridHeaderBuilder(ProjectData data, CompiledReport compiled) {
        this.data = data;
        this.report = compiled.report();
        this.axes = compiled.axes();
        this.shown = compiled.plan().columns();
    }

    /** Returns the header of a grid that shows everything once for each key of the columns. */
    public Grid.Header build(List<List<Object>> columnKeys) {
        List<Grid.Column> columns = new ArrayList<>();
        for (List<Object> keys : columnKeys) {
            Optional<String> member = axes.columns().isEmpty() ? Optional.empty() : Optional.of(axes.columnLabel(keys));
            shown.forEach(column -> column.goal()
                    .ifPresentOrElse(
                            goal -> addTarget(columns, column, goal.target(), member),
                            () -> columns.add(
                                    column(column.definition().name(), Grid.ColumnRole.MEASURE, column, member))));
        }
        return new Grid.Header(
                data.project().name(),
                report.name(),
                report.title().orElseGet(() -> Labels.of(report.name())),
                keys(),
                columns,
                data.asOf(),
                report.chart(),
                choice(),
                axes.cutPeriods(),
                data.project().locale());
    }

    /** Returns the parts of the rows; where two would be read alike, what they belong to comes first. */
    private List<Grid.Key> keys() {
        Map<String, String> labels = data.project().labels();
        List<String> read = axes.rows().stream()
                .map(axis -> labels.getOrDefault(axis.name(), Labels.of(lastPart(axis))))
                .toList();
        List<Grid.Key> keys = new ArrayList<>();
        for (int i = 0; i < read.size(); i++) {
            Axis axis = axes.rows().get(i);
            boolean isAlone = Collections.frequency(read, read.get(i)) == 1 || labels.containsKey(axis.name());
            keys.add(new Grid.Key(axis.name(), axis.kind(), isAlone ? read.get(i) : Labels.of(axis.name())));
        }
        return keys;
    }

    /** Returns the column of a lookup without the lookup; levels keep their calendar. */
    private static String lastPart(Axis axis) {
        return axis.kind() == Grid.AxisKind.MEMBER
                ? axis.name().substring(axis.name().lastIndexOf('.') + 1)
                : axis.name();
    }

    /** Returns the days of `when` and the condition of `where`, in words. */
    private Optional<String> choice() {
        List<String> words = new ArrayList<>();
        axes.when()
                .ifPresent(days ->
                        words.add(days.isEmpty() ? "no days" : data.local().range(days.first(), days.last())));
        report.where().ifPresent(where -> words.add("where " + where));
        return words.isEmpty() ? Optional.empty() : Optional.of(String.join(", ", words));
    }

    private Grid.Column column(String name, Grid.ColumnRole role, PlannedColumn planned, Optional<String> member) {
        MeasureDefinition definition = planned.definition();
        return new Grid.Column(
                name,
                role,
                definition.title(),
                definition.style(),
                member,
                definition.expression().toString(),
                report.bars().contains(name),
                coveredFrom(planned.value()));
    }

    /** Returns the first day on which all that a measure reads in its own cells is covered; only charts need it. */
    private Optional<LocalDate> coveredFrom(PlanNode plan) {
        if (report.chart().isEmpty()) {
            return Optional.empty();
        }
        return ReportPlan.aggregates(List.of(plan)).stream()
                .filter(aggregate -> aggregate.alwaysBlankBecause().isEmpty()
                        && !aggregate.window().span().isMoved())
                .map(aggregate -> data.coverage(
                        aggregate.series().fact(), aggregate.series().role()))
                .filter(covered -> !covered.isEmpty())
                .map(DateRange::first)
                .max(Comparator.naturalOrder());
    }

    private void addTarget(List<Grid.Column> columns, PlannedColumn planned, Target target, Optional<String> member) {
        MeasureDefinition definition = planned.definition();
        columns.add(column(target.name(), Grid.ColumnRole.VALUE, planned, member));
        columns.add(new Grid.Column(
                target.name(),
                Grid.ColumnRole.AGAINST,
                title(target.against()),
                definition.style(),
                member,
                target.against().toString(),
                false));
        columns.add(new Grid.Column(
                target.name(),
                Grid.ColumnRole.STATUS,
                Labels.of(target.name()),
                NumberStyle.PLAIN,
                member,
                target.toString(),
                false));
    }

    private String title(Measure measure) {
        return measure instanceof Measure.Named named
                        && data.project().measures().containsKey(named.name())
                ? data.project().measures().get(named.name()).title()
                : measure.toString().replace('_', ' ');
    }
}
