package dev.mile.report.distributed;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.DayContext;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.TotalsRequest;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import dev.mile.report.Report;
import dev.mile.report.axis.Axis;
import dev.mile.report.axis.BlankKey;
import dev.mile.report.axis.KeyTree;
import dev.mile.report.axis.MemberAxis;
import dev.mile.report.axis.ReportAxes;
import dev.mile.report.axis.TimeCell;
import dev.mile.report.plan.CompiledReport;
import dev.mile.report.plan.MemberSource;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.plan.RowValues;
import dev.mile.report.run.GridHeaderBuilder;
import dev.mile.report.run.MemberTotals;
import dev.mile.report.run.ProjectData;
import dev.mile.report.run.RowEvaluator;
import dev.mile.report.series.MemberFilter;
import dev.mile.report.series.SeriesStore;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A report compiled for a cluster: sent to many machines, and asked there for the rows of one combination of members after the
 * other, so that groups never meet on one machine. Rows are those of the finest level, without subtotals. Immutable.
 */
public final class DistributedReport implements Serializable {
    private static final long serialVersionUID = 1L;

    /**
     * What is asked of a fact.
     *
     * @param request the totals
     * @param keyColumns the grouping columns that hold the members of the rows, in the order of {@link #dimensions}; none where no
     *     aggregate reads the row's own members
     * @param neededEverywhere whether some aggregate looks beyond the row's own members, so that every machine needs all groups
     * @param spread whether its fact is a plan whose rows are spread over days, which is done on one machine
     */
    public record Pass(TotalsRequest request, List<Integer> keyColumns, boolean neededEverywhere, boolean spread) {
        /**
         * {@return the members of the rows that a group belongs to}
         *
         * @param group the group
         */
        public List<String> key(GroupTotals group) {
            List<String> key = new ArrayList<>();
            keyColumns.forEach(column -> key.add(group.members()[column]));
            return key;
        }
    }

    /**
     * A row.
     *
     * @param labels in the order of the report's rows; an empty text for a blank member
     * @param values by column of the report; blank in columns of statuses
     * @param statuses the status of each target, by column
     */
    public record Row(List<String> labels, List<Value> values, Map<Integer, TargetStatus> statuses)
            implements Serializable {
        /**
         * {@return the status of the target in a column; empty if its value or goal is blank}
         *
         * @param column the column
         */
        public Optional<TargetStatus> status(int column) {
            return Optional.ofNullable(statuses.get(column));
        }
    }

    /** Where in time a row may be: its cells by column, null for one that does not exist, and its labels, null for members. */
    private record TimeRow(List<@Nullable TimeCell> cells, List<@Nullable String> labels) implements Serializable {}

    private final transient ProjectData data;
    private final transient List<Pass> passes;
    private final transient List<Grid.Column> columns;
    private final CompiledReport compiled;
    private final List<Integer> passesNeededEverywhere;
    private final List<String> rowNames;
    private final List<String> dimensions;
    private final List<TimeRow> timeRows;

    /**
     * Compiles a report for a cluster; {@link dev.mile.report.Session#distribute} calls this.
     *
     * @param report the report
     * @param data the data of the project
     * @return what was compiled
     * @throws MileException if the report needs what only one machine can compute: sorted rows, the first rows only, or members side
     *     by side
     */
    @SuppressWarnings("exports") // called by sessions only
    public static DistributedReport of(Report report, ProjectData data) {
        requireNonNull(report, "report is null");
        requireNonNull(data, "data is null");
        if (report.sort().isPresent() || report.top().isPresent()) {
            throw ModelException.of(
                    "the report '%s' sorts its rows or takes the first of them, which needs all rows in one place; sort the result",
                    report.name());
        }
        CompiledReport compiled =
                CompiledReport.compile(report.withTotals(false), data.planningContext(report.calendar()));
        if (compiled.axes().hasMemberColumns()) {
            throw ModelException.of(
                    "the report '%s' has members side by side, which needs all rows in one place; put them into rows",
                    report.name());
        }
        return new DistributedReport(compiled, data);
    }

    private DistributedReport(CompiledReport compiled, ProjectData data) {
        this.data = data;
        this.compiled = compiled;
        ReportAxes axes = compiled.axes();
        this.rowNames = axes.rows().stream().map(Axis::name).toList();
        this.dimensions = axes.rows().stream()
                .filter(MemberAxis.class::isInstance)
                .map(Axis::name)
                .toList();
        List<List<Object>> columnKeys = axes.columnKeys(List.of(axes.noMembers()));
        this.columns = new GridHeaderBuilder(data, compiled).build(columnKeys).columns();
        this.timeRows = new ArrayList<>();
        addTimeRows(columnKeys, axes.timeTree(), List.of());
        this.passes = findPasses();
        this.passesNeededEverywhere = new ArrayList<>();
        for (int p = 0; p < passes.size(); p++) {
            if (passes.get(p).neededEverywhere()) {
                passesNeededEverywhere.add(p);
            }
        }
    }

    private List<Pass> findPasses() {
        Map<Integer, Set<List<Integer>>> keyColumnsByRequest = new HashMap<>();
        for (PlanNode.AggregateNode aggregate : compiled.shownAggregates()) {
            if (aggregate.alwaysBlankBecause().isEmpty()) {
                int request = compiled.requestOf(
                        compiled.compiled(aggregate).binding().series());
                keyColumnsByRequest
                        .computeIfAbsent(request, r -> new LinkedHashSet<>())
                        .add(keyColumns(aggregate));
            }
        }
        List<Pass> found = new ArrayList<>();
        List<TotalsRequest> requests = compiled.totals().requests();
        for (int r = 0; r < requests.size(); r++) {
            Set<List<Integer>> all = keyColumnsByRequest.getOrDefault(r, Set.of());
            List<Integer> own =
                    all.stream().filter(key -> !key.isEmpty()).findFirst().orElse(List.of());
            boolean spread =
                    data.project().facts().get(requests.get(r).fact()).grain().isPresent();
            found.add(new Pass(requests.get(r), own, own.isEmpty() || all.size() > 1, spread));
        }
        if (!dimensions.isEmpty() && found.stream().allMatch(p -> p.keyColumns().isEmpty())) {
            throw ModelException.of("no measure of the report reads the members of its rows; take the dimensions away");
        }
        return found;
    }

    /** Returns the grouping columns of the members of the row; none if the aggregate does not read all of them. */
    private List<Integer> keyColumns(PlanNode.AggregateNode aggregate) {
        List<Integer> found = new ArrayList<>();
        for (String dimension : dimensions) {
            PlanNode.MemberBinding binding = aggregate.memberBindings().get(dimension);
            if (binding == null || binding.scope() != PlanNode.MemberBinding.ROW) {
                return List.of();
            }
            found.add(aggregate.series().groups().indexOf(binding.field()));
        }
        return found;
    }

    private void addTimeRows(List<List<Object>> columnKeys, KeyTree node, List<Object> prefix) {
        ReportAxes axes = compiled.axes();
        List<Object> keys = prefix;
        while (keys.size() < axes.rows().size() && axes.rows().get(keys.size()) instanceof MemberAxis) {
            keys = KeyTree.append(keys, BlankKey.BLANK);
        }
        if (keys.size() < axes.rows().size()) {
            List<Object> above = keys;
            node.children().forEach((key, child) -> addTimeRows(columnKeys, child, KeyTree.append(above, key)));
            return;
        }
        List<@Nullable TimeCell> cells = new ArrayList<>();
        for (List<Object> column : columnKeys) {
            TimeCell cell = axes.cell(keys, column);
            cells.add(axes.cellExists(cell) ? cell : null);
        }
        List<@Nullable String> labels = new ArrayList<>();
        for (int i = 0; i < keys.size(); i++) {
            Axis axis = axes.rows().get(i);
            labels.add(axis instanceof MemberAxis ? null : axis.label(keys.get(i)));
        }
        timeRows.add(new TimeRow(cells, labels));
    }

    /** {@return what is asked of the facts; known where the report was compiled} */
    public List<Pass> passes() {
        return passes;
    }

    /**
     * {@return all totals of a pass, on this machine; only where the report was compiled}
     *
     * @param pass the number of the pass over a fact
     */
    public List<GroupTotals> totals(int pass) {
        return data.totals(passes.get(pass).request()).all();
    }

    /** {@return what an engine may ask about days; only where the report was compiled} */
    public DayContext dayContext() {
        return data.dayContext();
    }

    /** {@return the names of the axes of the rows, outermost first} */
    public List<String> rowNames() {
        return rowNames;
    }

    /** {@return the names of those axes that are dimensions} */
    public List<String> dimensions() {
        return dimensions;
    }

    /** {@return the columns of values; known where the report was compiled} */
    public List<Grid.Column> columns() {
        return columns;
    }

    /** {@return what evaluates rows on one machine; not for use by several threads} */
    public Worker worker() {
        return new Worker();
    }

    /** Evaluates the rows of one combination of members after the other. */
    public final class Worker {
        private final SeriesStore store = new SeriesStore(compiled.totals().layouts());
        private final RowEvaluator evaluator = new RowEvaluator(compiled.columns(), store, false);
        private final Map<Integer, Set<List<String>>> membersBySeries = new HashMap<>();

        private Worker() {}

        /**
         * Loads the groups of a pass that every machine needs.
         *
         * @param pass the number of the pass over a fact
         * @param groups the groups
         */
        public void loadShared(int pass, List<GroupTotals> groups) {
            store.reset(pass);
            groups.forEach(group -> store.add(pass, group));
        }

        /**
         * Returns the rows of one combination of members.
         *
         * @param members a member of each dimension, null for a blank
         * @param groups by pass, the groups that have these members; null for the passes that were loaded for all
         * @return its rows; none where no measure has rows of these members, though the report keeps empty rows
         */
        public List<Row> rows(List<@Nullable String> members, List<@Nullable List<GroupTotals>> groups) {
            for (int pass = 0; pass < groups.size(); pass++) {
                List<GroupTotals> own = groups.get(pass);
                if (own != null) {
                    loadShared(pass, own);
                }
            }
            if (!hasRows(members)) {
                return List.of();
            }
            Map<String, MemberFilter> filters = new LinkedHashMap<>();
            for (int d = 0; d < members.size(); d++) {
                filters.put(dimensions.get(d), MemberFilter.only(members.get(d)));
            }
            MemberTotals totals = evaluator.totalsOf(filters);
            List<Row> rows = new ArrayList<>();
            for (TimeRow time : timeRows) {
                int width = compiled.width();
                RowValues values = new RowValues(width * time.cells().size());
                boolean found = false;
                for (int c = 0; c < time.cells().size(); c++) {
                    TimeCell cell = time.cells().get(c);
                    if (cell != null) {
                        found |= evaluator.evaluateInto(values, c * width, compiled.windows(cell), totals);
                    }
                }
                if (found || compiled.keepsEmpty()) {
                    rows.add(new Row(labels(time, members), Arrays.asList(values.values()), values.statusesByColumn()));
                }
            }
            return rows;
        }

        private boolean hasRows(List<@Nullable String> members) {
            return dimensions.isEmpty()
                    || compiled.memberSources().stream()
                            .anyMatch(source -> passesNeededEverywhere.contains(compiled.requestOf(source.series()))
                                    ? membersOf(source).contains(members)
                                    : !store.members(source.series()).isEmpty());
        }

        /** Returns the members of a series that every machine has. */
        private Set<List<String>> membersOf(MemberSource source) {
            return membersBySeries.computeIfAbsent(source.series(), s -> {
                Set<List<String>> members = new HashSet<>();
                for (String[] group : store.members(s)) {
                    List<String> key = new ArrayList<>();
                    source.columns().stream().filter(column -> column >= 0).forEach(column -> key.add(group[column]));
                    members.add(key);
                }
                return members;
            });
        }

        private List<String> labels(TimeRow time, List<@Nullable String> members) {
            List<String> labels = new ArrayList<>();
            int next = 0;
            for (String label : time.labels()) {
                String text = label == null ? members.get(next++) : label;
                labels.add(text == null ? "" : text);
            }
            return labels;
        }
    }
}
