package dev.mile.report.run;

import dev.mile.StoppedException;
import dev.mile.calendar.DateRange;
import dev.mile.internal.Messages;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import dev.mile.report.Report;
import dev.mile.report.axis.Axis;
import dev.mile.report.axis.DayFilter;
import dev.mile.report.axis.KeyTree;
import dev.mile.report.axis.MemberAxis;
import dev.mile.report.axis.RecentAxis;
import dev.mile.report.axis.ReportAxes;
import dev.mile.report.axis.TimeCell;
import dev.mile.report.plan.CellWindows;
import dev.mile.report.plan.CompiledMeasure;
import dev.mile.report.plan.CompiledReport;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.plan.PlannedColumn;
import dev.mile.report.plan.RowValues;
import dev.mile.report.series.MemberFilter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * The rows of a report: evaluated branch by branch, pruned, sorted, cut to the first ones, and handed over with the subtotals above
 * them. One branch of the outermost axis is held at a time, unless its rows are sorted. Not for use by several threads.
 */
final class RowTree {
    private static final RowValues NOT_YET_EVALUATED = new RowValues(0);

    /** A row on the way: its keys, the rows below it, and its values. */
    private static final class Node {
        final List<Object> keys;
        final KeyTree times;
        final MemberTree members;
        /** Empty, and not to be changed, where no axis is below. */
        List<Node> children = List.of();

        RowValues values = NOT_YET_EVALUATED;
        Value sortedBy = Value.UNKNOWN;
        boolean foundRows;

        @Nullable
        Rest rest;

        Node(List<Object> keys, KeyTree times, MemberTree members) {
            this.keys = keys;
            this.times = times;
            this.members = members;
        }
    }

    /** The row of the rest that `top` leaves out, and how many rows it replaces. */
    private record Rest(RowValues values, int rows) {}

    /** A key of the next axis, and what follows it. */
    private record Child(Object key, KeyTree times, MemberTree members) {}

    private final CompiledReport compiled;
    private final ReportAxes axes;
    private final Report report;
    private final RowEvaluator evaluator;
    private final List<List<Object>> columnKeys;
    private final boolean withWindows;
    private final RowCells cells;
    private final int width;
    private final boolean[] totalsByDepth;
    private final Map<Map<String, MemberFilter>, MemberTotals> totalsByMembers = new HashMap<>();

    /**
     * Returns the rows of a report.
     *
     * @param cells its cells in time; shared by trees of the same report
     * @param withWindows whether each value is handed over with the days that it looked at
     */
    RowTree(CompiledReport compiled, RowEvaluator evaluator, RowCells cells, boolean withWindows) {
        this.compiled = compiled;
        this.axes = compiled.axes();
        this.report = compiled.report();
        this.evaluator = evaluator;
        this.cells = cells;
        this.columnKeys = cells.columnKeys();
        this.withWindows = withWindows;
        this.width = compiled.width();
        this.totalsByDepth = new boolean[depth() + 1];
        for (int depth = 0; depth <= depth(); depth++) {
            // recent periods overlap, so their total has no meaning
            totalsByDepth[depth] = report.totals()
                    && axes.rows().subList(depth, depth()).stream().noneMatch(RecentAxis.class::isInstance);
        }
    }

    private int depth() {
        return axes.rows().size();
    }

    private boolean isLeaf(Node node) {
        return node.keys.size() == depth();
    }

    // ---- what is handed over

    /**
     * Hands over all rows of the members.
     *
     * @param total whether the total of all comes before the first row that is shown
     * @return whether any row was shown
     */
    boolean emitAll(MemberTree members, boolean total, Consumer<Grid.Row> sink) {
        Node root = new Node(List.of(), axes.timeTree(), members);
        if (depth() == 0) {
            evaluateRow(root);
            emit(root, false, sink);
            return true;
        }
        if (depth() == 1 && (compiled.sort().isPresent() || compiled.top().isPresent())) {
            // the order of all rows is known when the last is evaluated
            Node all = evaluateSubtree(root.keys, root.times, root.members);
            pruneSortAndCut(all);
            boolean shown = total && isKept(all);
            emit(all, shown, sink);
            return shown || !all.children.isEmpty();
        }
        boolean begun = false;
        for (Child child : sortedChildren(root)) {
            Node node = evaluateSubtree(List.of(child.key()), child.times(), child.members());
            pruneSortAndCut(node);
            if (!isKept(node)) {
                continue;
            }
            if (!begun && total) {
                emitTotal(root, sink);
            }
            begun = true;
            emit(node, hasTotals(1), sink);
        }
        if (!begun && total) {
            // a total that found rows is shown, though no row below it did
            evaluateRow(root);
            if (root.foundRows) {
                sink.accept(row(root, Grid.RowKind.TOTAL));
                begun = true;
            }
        }
        return begun;
    }

    /**
     * Collects the rows of the members below each key of the leading axes of time, so that they can be sorted there.
     *
     * @param leading how many axes of time come before the members
     */
    void collect(MemberTree members, int leading, ExternalRowSorter sorter) {
        collect(members, leading, List.of(), axes.timeTree(), sorter);
    }

    private void collect(MemberTree members, int leading, List<Object> keys, KeyTree times, ExternalRowSorter sorter) {
        for (Child child : children(keys.size(), times, members)) {
            List<Object> longer = KeyTree.append(keys, child.key());
            if (keys.size() < leading) {
                collect(child.members(), leading, longer, child.times(), sorter);
                continue;
            }
            Node node = evaluateSubtree(longer, child.times(), child.members());
            pruneSortAndCut(node);
            if (isKept(node)) {
                List<Grid.Row> rows = new ArrayList<>();
                emit(node, hasTotals(longer.size()), rows::add);
                sorter.add(keys, node.sortedBy, rows);
            }
        }
    }

    /** Hands over the rows that were collected, each key of the leading axes of time with the total of all members above it. */
    void emitCollected(MemberTree allMembers, int leading, ExternalRowSorter sorter, Consumer<Grid.Row> sink) {
        emitCollected(allMembers, leading, List.of(), axes.timeTree(), sorter, sink);
    }

    private void emitCollected(
            MemberTree allMembers,
            int leading,
            List<Object> keys,
            KeyTree times,
            ExternalRowSorter sorter,
            Consumer<Grid.Row> sink) {
        if (!sorter.hasRows(keys)) {
            return;
        }
        if (hasTotals(keys.size())) {
            emitTotal(new Node(keys, times, allMembers), sink);
        }
        if (keys.size() == leading) {
            sorter.replay(keys, sink);
            return;
        }
        for (Child child : children(keys.size(), times, allMembers)) {
            emitCollected(allMembers, leading, KeyTree.append(keys, child.key()), child.times(), sorter, sink);
        }
    }

    /** Returns whether rows over the axes from the depth on are shown. */
    boolean hasTotals(int depth) {
        return totalsByDepth[depth];
    }

    private void emitTotal(Node node, Consumer<Grid.Row> sink) {
        evaluateRow(node);
        sink.accept(row(node, node.keys.isEmpty() ? Grid.RowKind.TOTAL : Grid.RowKind.SUBTOTAL));
    }

    private void emit(Node node, boolean self, Consumer<Grid.Row> sink) {
        boolean leaf = isLeaf(node);
        if (leaf || self) {
            Grid.RowKind kind =
                    leaf ? Grid.RowKind.LEAF : node.keys.isEmpty() ? Grid.RowKind.TOTAL : Grid.RowKind.SUBTOTAL;
            sink.accept(row(node, kind));
        }
        for (Node child : node.children) {
            emit(child, hasTotals(node.keys.size() + 1), sink);
        }
        if (node.rest != null) {
            List<String> labels = new ArrayList<>(axes.rowLabels(node.keys));
            labels.add(Messages.quantity(node.rest.rows(), "other"));
            sink.accept(row(Grid.RowKind.REST, labels, node, node.rest.values(), List.of()));
        }
    }

    private Grid.Row row(Node node, Grid.RowKind kind) {
        return row(kind, axes.rowLabels(node.keys), node, node.values, withWindows ? windows(node) : List.of());
    }

    private Grid.Row row(
            Grid.RowKind kind, List<String> labels, Node node, RowValues values, List<List<Grid.Window>> windows) {
        return new Grid.Row(
                kind,
                labels,
                cells.wholeRow(node.keys, node.times).days(),
                cells.days(node.keys, node.times),
                List.of(values.values()),
                values.statusesByColumn(),
                windows);
    }

    // ---- evaluation

    private List<Child> children(int depth, KeyTree times, MemberTree members) {
        List<Child> children = new ArrayList<>();
        if (axes.rows().get(depth) instanceof MemberAxis) {
            members.children().forEach((key, below) -> children.add(new Child(key, times, below)));
        } else {
            times.children().forEach((key, below) -> children.add(new Child(key, below, members)));
        }
        return children;
    }

    private List<Child> sortedChildren(Node root) {
        List<Child> children = children(0, root.times, root.members);
        if (compiled.sort().isPresent() && isSorted(0)) {
            Map<Child, Node> nodes = new LinkedHashMap<>();
            children.forEach(child -> {
                Node node = new Node(List.of(child.key()), child.times(), child.members());
                node.sortedBy = valueOf(node, compiled.sort().get());
                nodes.put(child, node);
            });
            children.sort((a, b) -> bySort(0).compare(nodes.get(a), nodes.get(b)));
        }
        return children;
    }

    /** Evaluates a row and all below it. */
    private Node evaluateSubtree(List<Object> keys, KeyTree times, MemberTree members) {
        Node node = new Node(keys, times, members);
        if (keys.size() < depth()) {
            List<Child> children = children(keys.size(), times, members);
            node.children = new ArrayList<>(children.size());
            for (Child child : children) {
                node.children.add(evaluateSubtree(KeyTree.append(keys, child.key()), child.times(), child.members()));
            }
        }
        if (isLeaf(node) || hasTotals(keys.size()) || node.children.stream().noneMatch(child -> child.foundRows)) {
            evaluateRow(node);
        } else {
            // nobody sees its values
            node.foundRows = true;
            compiled.sort().ifPresent(sort -> node.sortedBy = valueOf(node, sort));
        }
        return node;
    }

    /** Evaluates one row; a cell that does not exist, such as week 53 of a short year, is blank. */
    private void evaluateRow(Node node) {
        StoppedException.throwIfInterrupted(Thread.currentThread());
        RowValues values = new RowValues(columnKeys.size() * width);
        TimeCell[] ofRow = cells.of(node.keys, node.times);
        for (int c = 0; c < columnKeys.size(); c++) {
            if (axes.cellExists(ofRow[c])) {
                node.foundRows |= evaluator.evaluateInto(
                        values, c * width, compiled.windows(ofRow[c]), totals(node, columnKeys.get(c)));
            }
        }
        node.values = values;
        compiled.sort().ifPresent(sort -> node.sortedBy = valueOf(node, sort));
    }

    private Value valueOf(Node node, CompiledMeasure measure) {
        TimeCell cell = cells.wholeRow(node.keys, node.times);
        return evaluator.evaluate(measure, compiled.windows(cell), totals(members(node.keys, List.of())));
    }

    private MemberTotals totals(Node node, List<Object> column) {
        return axes.hasMemberColumns()
                ? totals(members(node.keys, column))
                : node.members.totals(() -> totals(members(node.keys, column)));
    }

    private MemberTotals totals(Map<String, MemberFilter> members) {
        return totalsByMembers.computeIfAbsent(members, evaluator::totalsOf);
    }

    private Map<String, MemberFilter> members(List<Object> row, List<Object> column) {
        Map<String, MemberFilter> members = new LinkedHashMap<>();
        addMembers(axes.rows(), row, members);
        addMembers(axes.columns(), column, members);
        return members;
    }

    private static void addMembers(List<Axis> axes, List<Object> keys, Map<String, MemberFilter> members) {
        for (int i = 0; i < keys.size(); i++) {
            if (axes.get(i) instanceof MemberAxis axis) {
                members.put(axis.name(), MemberFilter.only(MemberAxis.member(keys.get(i))));
            }
        }
    }

    // ---- which rows stay, and their order

    private boolean isKept(Node node) {
        return compiled.keepsEmpty() || node.foundRows || !node.children.isEmpty();
    }

    private void pruneSortAndCut(Node node) {
        prune(node);
        compiled.top().ifPresent(by -> cutTop(node, by));
        sort(node);
    }

    private void prune(Node node) {
        if (!compiled.keepsEmpty() && !node.children.isEmpty()) {
            node.children.forEach(this::prune);
            node.children.removeIf(child -> !isKept(child));
        }
    }

    /** Returns whether the rows at the depth are sorted: time keeps its order above what is sorted, so that years do not jump. */
    private boolean isSorted(int depth) {
        return depth == depth() - 1 || axes.rows().get(depth) instanceof MemberAxis;
    }

    private Comparator<Node> byKey(int depth) {
        return Comparator.comparing(
                n -> n.keys.get(depth), axes.rows().get(depth).order());
    }

    private Comparator<Node> bySort(int depth) {
        return Comparator.<Node, Value>comparing(n -> n.sortedBy, valueOrder(report))
                .thenComparing(byKey(depth));
    }

    /** Returns the order of values in which a report sorts its rows, blanks last. */
    static Comparator<Value> valueOrder(Report report) {
        return valueOrder(report.sort().map(Report.Sort::descending).orElse(true));
    }

    private static Comparator<Value> valueOrder(boolean descending) {
        // nothing stands where zero would; undefined and unknown come last
        return (x, y) -> {
            Value a = x.orZero();
            Value b = y.orZero();
            return a.isBlank() || b.isBlank()
                    ? Boolean.compare(a.isBlank(), b.isBlank())
                    : descending ? b.compareTo(a) : a.compareTo(b);
        };
    }

    /** Sorts rows by a measure; without one they are in the order of their keys. */
    private void sort(Node node) {
        if (compiled.sort().isEmpty() || node.children.isEmpty()) {
            return;
        }
        node.children.forEach(this::sort);
        if (isSorted(node.keys.size())) {
            node.children.sort(bySort(node.keys.size()));
        }
    }

    // ---- the first rows, and the rest

    /** Keeps the first rows of each parent at the finest axis, and one row for the rest. */
    private void cutTop(Node node, CompiledMeasure by) {
        if (node.keys.size() < depth() - 1) {
            node.children.forEach(child -> cutTop(child, by));
            return;
        }
        int count = report.top().orElseThrow().count();
        if (node.children.size() <= count) {
            return;
        }
        Map<Node, Value> ranks = new LinkedHashMap<>();
        node.children.sort(byKey(node.keys.size()));
        node.children.forEach(child -> ranks.put(child, valueOf(child, by)));
        List<Node> ranked = new ArrayList<>(node.children);
        ranked.sort(Comparator.comparing(ranks::get, valueOrder(true)));
        List<Node> first = ranked.subList(0, count);
        List<Node> rest = ranked.subList(count, ranked.size());
        node.rest = new Rest(evaluateRest(node, first, rest), rest.size());
        node.children.retainAll(new ArrayList<>(first));
    }

    private RowValues evaluateRest(Node parent, List<Node> first, List<Node> rest) {
        RowValues values = new RowValues(columnKeys.size() * width);
        Axis axis = axes.rows().get(parent.keys.size());
        for (int c = 0; c < columnKeys.size(); c++) {
            List<Object> column = columnKeys.get(c);
            Map<String, MemberFilter> members = members(parent.keys, column);
            CellWindows windows;
            if (axis instanceof MemberAxis) {
                members.put(axis.name(), excluding(first));
                windows = compiled.windows(axes.cell(parent.keys, column));
            } else {
                windows = compiled.resolve(restCell(axis, parent, rest, column));
            }
            evaluator.evaluateInto(values, c * width, windows, totals(members));
        }
        return values;
    }

    private static MemberFilter excluding(List<Node> nodes) {
        Set<String> members = new HashSet<>();
        nodes.forEach(node -> members.add(MemberAxis.member(node.keys.get(node.keys.size() - 1))));
        return MemberFilter.excluding(members);
    }

    /** Returns the cell of the days of some rows together. */
    private TimeCell restCell(Axis axis, Node parent, List<Node> rest, List<Object> column) {
        TimeCell whole = axes.cell(parent.keys, column);
        List<TimeCell> cells =
                rest.stream().map(node -> axes.cell(node.keys, column)).toList();
        DateRange days = DateRange.EMPTY;
        for (TimeCell cell : cells) {
            days = days.hull(cell.days());
        }
        List<DayFilter> filters = new ArrayList<>(whole.filters());
        filters.add(new DayFilter(axis.name(), cells, day -> cells.stream()
                .anyMatch(cell -> cell.days().contains(day)
                        && cell.filters().stream().allMatch(f -> f.test().test(day)))));
        return new TimeCell(whole.index(), days, filters, whole.finest().orElse(null));
    }

    // ---- the days looked at

    private List<List<Grid.Window>> windows(Node node) {
        List<List<Grid.Window>> all = new ArrayList<>();
        for (List<Object> column : columnKeys) {
            TimeCell cell = axes.cell(node.keys, column);
            boolean exists = axes.cellExists(cell);
            for (PlannedColumn shown : compiled.plan().columns()) {
                all.add(exists ? windows(shown.value(), cell) : List.of());
                shown.goal().ifPresent(goal -> {
                    all.add(exists ? windows(goal.against(), cell) : List.of());
                    all.add(List.of());
                });
            }
        }
        return all;
    }

    private List<Grid.Window> windows(PlanNode plan, TimeCell cell) {
        Set<Grid.Window> found = new LinkedHashSet<>();
        plan.visit(node -> {
            if (node instanceof PlanNode.AggregateNode aggregate
                    && aggregate.alwaysBlankBecause().isEmpty()) {
                found.add(new Grid.Window(aggregate.toString(), compiled.window(aggregate.window(), cell)));
            } else if (node instanceof PlanNode.DayCount days) {
                found.add(new Grid.Window(days.toString(), compiled.window(days.window(), cell)));
            }
        });
        return List.copyOf(found);
    }
}
