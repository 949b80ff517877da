package dev.mile.report;

import dev.mile.MileException;
import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.internal.Messages;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import dev.mile.report.axis.DayFilter;
import dev.mile.report.plan.MeasurePlanner;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.run.ExternalRowSorter;
import dev.mile.span.SpanContext;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;

/**
 * Computes one report and hands its rows over as they are done: one branch of the first part of the rows is held at a time. Used
 * once.
 */
final class GridBuilder {
    /** A row on the way: its fixed keys, its children, and its values by column. */
    private static final class Node {
        final List<Object> keys;
        final Axes.Branch times;
        final Axes.Branch members;
        final List<Node> children = new ArrayList<>();
        List<Value> values;
        Value sortedBy = Value.BLANK;
        boolean found;
        Node rest;

        Node(List<Object> keys, Axes.Branch times, Axes.Branch members) {
            this.keys = keys;
            this.times = times;
            this.members = members;
        }
    }

    /** Takes rows, and nothing else. */
    private record RowsOnly(Consumer<Grid.Row> taken) implements GridSink {
        @Override
        public void header(Grid.Header head) {}

        @Override
        public void row(Grid.Row row) {
            taken.accept(row);
        }

        @Override
        public void notes(List<String> notes) {}
    }

    /** Rows that are held outside a file; one of six values takes about half a KiB. */
    private static final int SPOOLED_IN_MEMORY = 100_000;

    private final Session session;
    private final Report report;
    private final boolean windows;
    private final long memory;
    private final SpanContext frame;
    private final Axes axes;
    private final List<AxisPart> rowParts;
    private final List<Shown> shown = new ArrayList<>();
    private final Evaluator evaluator;
    private final MeasurePlanner planner;
    private Optional<PlanNode> sortNode = Optional.empty();
    private Optional<PlanNode> topNode = Optional.empty();
    private List<List<Object>> columns = List.of();
    private List<Shown.Made> made = List.of();
    private int width;

    /**
     * Returns a builder.
     *
     * @param windows whether each value is handed over with the days that it looked at
     * @param memory how many bytes the totals of all groups may take before {@link TooManyGroups} is thrown, by reports that can be
     *     worked out one member at a time too, though their rows come in another order; 0 to do so
     */
    GridBuilder(Session session, Report report, boolean windows, long memory) {
        this.memory = memory;
        this.session = session;
        this.report = report;
        this.windows = windows;
        this.frame = session.frame(report.calendar());
        this.evaluator = new Evaluator(session, frame);
        this.axes = new Axes(session, report, frame, evaluator);
        this.rowParts = axes.rows();
        this.planner = new MeasurePlanner(
                session.catalog(),
                session.project().measures(),
                session.project().workingWeeks().keySet(),
                axes.dimensions(),
                report.where());
    }

    /** Hands the head, then the rows, then the notes to the sink. */
    void run(GridSink sink) {
        if (report.show().isEmpty()) {
            throw MileException.invalidModel(
                    "the report '%s' shows nothing; name measures: `show: [sales]`", report.name());
        }
        report.show().forEach(name -> shown.add(Shown.of(name, session.project(), planner)));
        checkShown(report.bars(), "bars");
        checkShown(report.chart().map(Chart::show).orElse(List.of()), "the chart");
        String sortName = report.sort()
                .map(Report.Sort::measure)
                .orElse(report.top().map(Report.Top::measure).orElse(""));
        if (!sortName.isEmpty()) {
            sortNode = Optional.of(planned(sortName));
        }
        topNode = report.top().map(top -> planned(top.measure()));
        List<PlanNode> plans = new ArrayList<>();
        shown.forEach(s -> plans.addAll(s.plans()));
        List<PlanNode.AggregateNode> leaves =
                plans.stream().flatMap(plan -> Evaluator.leaves(plan).stream()).toList();
        sortNode.ifPresent(plans::add);
        topNode.ifPresent(plans::add);
        Optional<GroupStream> stream = GroupStream.of(
                report,
                rowParts,
                axes.columns(),
                plans.stream().flatMap(plan -> Evaluator.leaves(plan).stream()).toList());
        boolean reordered = stream.filter(GroupStream::reordered).isPresent() && !windows;
        boolean streamed = stream.isPresent() && (!stream.get().reordered() || (reordered && memory == 0));
        if (streamed) {
            int before = stream.get().before();
            evaluator.streamBy(stream.get().dimension(), report.totals() && hasTotal(before));
        }
        plans.forEach(evaluator::formula);
        made = shown.stream().map(s -> s.made(evaluator)).toList();
        width = shown.stream().mapToInt(Shown::width).sum();
        axes.findTimes();
        if (restIsOfMembers()) {
            evaluator.expect(axes.moments());
        }
        if (!streamed) {
            evaluator.holdAtMost(reordered ? memory : Long.MAX_VALUE);
            axes.findMembers(leaves);
            evaluator.holdAtMost(Long.MAX_VALUE);
        }
        columns = axes.columnKeys();
        sink.header(new GridHead(session, report, axes, shown).of(columns));
        if (streamed && reordered) {
            spooled(sink, leaves, stream.get().before());
        } else if (streamed) {
            stream(sink, leaves);
        } else {
            rows(sink);
        }
        sink.notes(new ReportNotes(session, report, frame, planner.notes())
                .notes(finestOnAxes(), evaluator.plan().series()));
    }

    /** Tells whether rows that are left out are members, not days: those are read day by day. */
    private boolean restIsOfMembers() {
        return topNode.isEmpty()
                || (!rowParts.isEmpty() && rowParts.get(rowParts.size() - 1) instanceof AxisPart.OfMembers);
    }

    private void checkShown(List<String> names, String what) {
        for (String name : names) {
            if (!report.show().contains(name)) {
                throw MileException.invalidModel(
                        "the report '%s' does not show '%s', which stands in %s%s",
                        report.name(), name, what, Messages.didYouMean(name, report.show()));
            }
        }
    }

    private Optional<AxisPart.OfLevel> finestOnAxes() {
        return axes.all().stream()
                .filter(AxisPart.OfLevel.class::isInstance)
                .map(AxisPart.OfLevel.class::cast)
                .max(Comparator.comparing(AxisPart.OfLevel::level));
    }

    private PlanNode planned(String name) {
        return planner.plan(new Measure.Named(name));
    }

    // ---- rows

    private void rows(GridSink sink) {
        Node root = root();
        if (rowParts.isEmpty()) {
            fill(root);
            emit(root, sink, false);
            return;
        }
        boolean total = report.totals() && hasTotal(0);
        if (!axes.occur()) {
            return;
        }
        if (rowParts.size() == 1 && (sortNode.isPresent() || topNode.isPresent())) {
            // the order of all rows is known when the last is done
            Node all = branch(List.of(), axes.timeBranches(), axes.memberBranches());
            finish(all);
            emit(all, sink, total && !all.children.isEmpty());
            return;
        }
        branches(firstSteps(), total, sink);
    }

    private Node root() {
        return new Node(List.of(), axes.timeBranches(), axes.memberBranches());
    }

    /** Works the branches out, one after the other; the total of all stands before the first that is shown. */
    private boolean branches(List<Step> steps, boolean total, GridSink sink) {
        boolean begun = false;
        for (Step step : steps) {
            Node node = branch(List.of(step.key()), step.times(), step.members());
            finish(node);
            if (!isShown(node)) {
                continue;
            }
            if (!begun && total) {
                Node root = root();
                fill(root);
                row(root, Grid.RowKind.TOTAL, sink);
            }
            begun = true;
            emit(node, sink, report.totals() && hasTotal(1));
        }
        return begun;
    }

    /** Works out the groups of one member of the first part at a time, while they come from the engine. */
    private void stream(GridSink sink, List<PlanNode.AggregateNode> leaves) {
        boolean total = report.totals() && hasTotal(0);
        try (UnitReader units = evaluator.units()) {
            while (units.next()) {
                axes.findMembers(leaves);
                if (axes.occur()) {
                    total &= !branches(steps(0, axes.timeBranches(), axes.memberBranches()), total, sink);
                }
            }
        }
    }

    /** Works out one member at a time, too, but rows are shown in another order: they are put together before they are shown. */
    private void spooled(GridSink sink, List<PlanNode.AggregateNode> leaves, int before) {
        try (ExternalRowSorter spool = new ExternalRowSorter(SPOOLED_IN_MEMORY, bySort());
                UnitReader units = evaluator.units()) {
            while (units.next()) {
                axes.findMembers(leaves);
                if (axes.occur()) {
                    spool(spool, before, List.of(), axes.timeBranches(), axes.memberBranches());
                }
            }
            unspool(spool, before, List.of(), axes.timeBranches(), sink);
        }
    }

    private void spool(ExternalRowSorter spool, int before, List<Object> keys, Axes.Branch times, Axes.Branch members) {
        for (Step step : steps(keys.size(), times, members)) {
            List<Object> longer = Axes.longer(keys, step.key());
            if (keys.size() < before) {
                spool(spool, before, longer, step.times(), step.members());
                continue;
            }
            Node node = branch(longer, step.times(), step.members());
            finish(node);
            if (isShown(node)) {
                List<Grid.Row> rows = new ArrayList<>();
                emit(node, new RowsOnly(rows::add), report.totals() && hasTotal(longer.size()));
                spool.add(keys, node.sortedBy, rows);
            }
        }
    }

    /** Hands the rows over: what stands above them, which is of all members, and then those that were put together. */
    private void unspool(ExternalRowSorter spool, int before, List<Object> keys, Axes.Branch times, GridSink sink) {
        if (!spool.any(keys)) {
            return;
        }
        if (report.totals() && hasTotal(keys.size())) {
            Node node = new Node(keys, times, axes.memberBranches());
            fill(node);
            row(node, keys.isEmpty() ? Grid.RowKind.TOTAL : Grid.RowKind.SUBTOTAL, sink);
        }
        if (keys.size() == before) {
            spool.replay(keys, sink);
            return;
        }
        for (Step step : steps(keys.size(), times, times)) {
            List<Object> longer = Axes.longer(keys, step.key());
            unspool(spool, before, longer, step.times(), sink);
        }
    }

    private boolean isShown(Node node) {
        return report.keepEmpty() || (node.keys.size() == rowParts.size() ? node.found : !node.children.isEmpty());
    }

    /** A key of the next part, and what follows it. */
    private record Step(Object key, Axes.Branch times, Axes.Branch members) {}

    private List<Step> steps(int depth, Axes.Branch times, Axes.Branch members) {
        boolean ofMembers = rowParts.get(depth) instanceof AxisPart.OfMembers;
        List<Step> steps = new ArrayList<>();
        (ofMembers ? members : times)
                .next.forEach((key, branch) ->
                        steps.add(new Step(key, ofMembers ? times : branch, ofMembers ? branch : members)));
        return steps;
    }

    private List<Step> firstSteps() {
        List<Step> steps = steps(0, axes.timeBranches(), axes.memberBranches());
        if (sortNode.isPresent() && sorted(0)) {
            Map<Step, Node> order = new LinkedHashMap<>();
            steps.forEach(step -> {
                Node node = new Node(List.of(step.key()), step.times(), step.members());
                node.sortedBy = sortedBy(node);
                order.put(step, node);
            });
            steps.sort((a, b) -> bySort(0).compare(order.get(a), order.get(b)));
        }
        return steps;
    }

    /** Works out a row and all below it. */
    private Node branch(List<Object> keys, Axes.Branch times, Axes.Branch members) {
        Node node = new Node(keys, times, members);
        if (keys.size() < rowParts.size()) {
            for (Step step : steps(keys.size(), times, members)) {
                List<Object> longer = Axes.longer(keys, step.key());
                node.children.add(branch(longer, step.times(), step.members()));
            }
        }
        fill(node);
        return node;
    }

    /** Works one row out; a cell that does not exist, such as week 53 of a short year, is blank. */
    private void fill(Node node) {
        boolean leaf = node.keys.size() == rowParts.size();
        Value[] values = blank(columns.size());
        Moment[] moments = axes.moments(node.keys, node.times, columns);
        for (int c = 0; c < columns.size(); c++) {
            if (axes.occurs(moments[c], leaf)) {
                Spot spot = new Spot(moments[c], axes.series(node.keys, node.members, columns.get(c)));
                put(values, c, spot);
                node.found |= spot.found();
            }
        }
        node.values = List.of(values);
        if (sortNode.isPresent()) {
            node.sortedBy = sortedBy(node);
        }
    }

    private Value[] blank(int cells) {
        Value[] values = new Value[cells * width];
        Arrays.fill(values, Value.BLANK);
        return values;
    }

    private void put(Value[] values, int cell, Spot spot) {
        int at = cell * width;
        for (Shown.Made one : made) {
            at = one.put(values, at, spot);
        }
    }

    private Value sortedBy(Node node) {
        return at(node, sortNode.orElseThrow());
    }

    private Value at(Node node, PlanNode plan) {
        return evaluator.formula(plan).in(evaluator.spot(axes.cell(node.keys, List.of())));
    }

    /** Leaves out what is empty, keeps the first rows, and puts them in order. */
    private void finish(Node node) {
        prune(node);
        topNode.ifPresent(by -> cutTop(node, by));
        order(node);
    }

    private void prune(Node node) {
        if (report.keepEmpty()) {
            return;
        }
        node.children.forEach(this::prune);
        node.children.removeIf(child -> child.keys.size() == rowParts.size() ? !child.found : child.children.isEmpty());
    }

    // ---- order, and the first rows

    /** Tells whether the rows below the depth are sorted: time keeps its order above what is sorted, so that years do not jump. */
    private boolean sorted(int depth) {
        return depth == rowParts.size() - 1 || rowParts.get(depth) instanceof AxisPart.OfMembers;
    }

    private Comparator<Node> byKey(int depth) {
        return Comparator.comparing(n -> n.keys.get(depth), rowParts.get(depth).order());
    }

    private Comparator<Node> bySort(int depth) {
        return Comparator.<Node, Value>comparing(n -> n.sortedBy, bySort()).thenComparing(byKey(depth));
    }

    /** Compares values as rows are sorted, blanks last. */
    private Comparator<Value> bySort() {
        boolean descending = report.sort().map(Report.Sort::descending).orElse(true);
        return (a, b) -> a.isBlank() || b.isBlank()
                ? Boolean.compare(a.isBlank(), b.isBlank())
                : descending ? b.compareTo(a) : a.compareTo(b);
    }

    /** Sorts rows by a measure; without one they are in the order of their keys. */
    private void order(Node node) {
        if (sortNode.isEmpty() || node.children.isEmpty()) {
            return;
        }
        node.children.forEach(this::order);
        if (sorted(node.keys.size())) {
            node.children.sort(bySort(node.keys.size()));
        }
    }

    /** Leaves the first rows of each parent at the finest part, and one row for the rest. */
    private void cutTop(Node node, PlanNode by) {
        if (node.keys.size() < rowParts.size() - 1) {
            node.children.forEach(child -> cutTop(child, by));
            return;
        }
        int count = report.top().orElseThrow().count();
        if (node.children.size() <= count) {
            return;
        }
        Map<Node, Value> of = new LinkedHashMap<>();
        int depth = node.keys.size();
        node.children.sort(byKey(depth));
        node.children.forEach(child -> of.put(child, at(child, by)));
        List<Node> ranked = new ArrayList<>(node.children);
        ranked.sort((a, b) -> {
            Value x = of.get(a);
            Value y = of.get(b);
            return x.isBlank() || y.isBlank() ? Boolean.compare(x.isBlank(), y.isBlank()) : -x.compareTo(y);
        });
        List<Node> first = ranked.subList(0, count);
        node.rest = rest(node, rowParts.get(depth), first, ranked.subList(count, ranked.size()));
        node.children.retainAll(new ArrayList<>(first));
    }

    private Node rest(Node parent, AxisPart part, List<Node> first, List<Node> rest) {
        Node node = new Node(parent.keys, parent.times, parent.members);
        Value[] values = blank(columns.size());
        for (int at = 0; at < columns.size(); at++) {
            List<Object> column = columns.get(at);
            Cell whole = axes.cell(parent.keys, column);
            Map<String, Members> members = new LinkedHashMap<>(whole.members());
            List<DayFilter> filters = new ArrayList<>(whole.filters());
            DateRange days = whole.days();
            if (part instanceof AxisPart.OfMembers) {
                Set<String> left = new HashSet<>();
                first.forEach(f -> left.add(AxisPart.OfMembers.member(f.keys.get(f.keys.size() - 1))));
                members.put(part.name(), new Members(null, left));
            } else {
                List<Cell> cells =
                        rest.stream().map(r -> axes.cell(r.keys, column)).toList();
                days = DateRange.EMPTY;
                for (Cell c : cells) {
                    days = days.hull(c.days());
                }
                filters.add(new DayFilter(part.name(), cells, day -> cells.stream()
                        .anyMatch(c -> c.days().contains(day)
                                && c.filters().stream().allMatch(f -> f.test().test(day)))));
            }
            Moment moment = evaluator.moment(days, filters, whole.finest());
            put(values, at, evaluator.spot(new Cell(moment, members)));
        }
        node.values = List.of(values);
        node.found = true;
        node.sortedBy = Value.of(rest.size());
        return node;
    }

    /** Tells whether a total over the parts from the depth on has a meaning: recent periods overlap, so theirs has none. */
    private boolean hasTotal(int depth) {
        return rowParts.subList(depth, rowParts.size()).stream().noneMatch(AxisPart.OfRecent.class::isInstance);
    }

    private void emit(Node node, GridSink sink, boolean self) {
        int depth = node.keys.size();
        boolean leaf = depth == rowParts.size();
        if (leaf || self) {
            row(node, leaf ? Grid.RowKind.LEAF : depth == 0 ? Grid.RowKind.TOTAL : Grid.RowKind.SUBTOTAL, sink);
        }
        for (Node child : node.children) {
            emit(child, sink, report.totals() && hasTotal(depth + 1));
        }
        if (node.rest != null) {
            List<String> labels = new ArrayList<>(Axes.labels(rowParts, node.keys));
            labels.add(Messages.quantity(node.rest.sortedBy.decimal().longValue(), "other"));
            DateRange days = days(node);
            sink.row(new Grid.Row(Grid.RowKind.REST, labels, days, cellDays(node), node.rest.values, List.of()));
        }
    }

    private DateRange days(Node node) {
        return axes.moments(node.keys, node.times, columns)[columns.size()].days();
    }

    /** Returns the days of the cells by column, shared by the rows of one place in time; none where all have those of the row. */
    private List<DateRange> cellDays(Node node) {
        return axes.cellDays(node.keys, node.times, columns, width);
    }

    private void row(Node node, Grid.RowKind kind, GridSink sink) {
        sink.row(new Grid.Row(
                kind,
                Axes.labels(rowParts, node.keys),
                days(node),
                cellDays(node),
                node.values,
                windows ? windows(node) : List.of()));
    }

    // ---- the days looked at

    private List<List<Grid.Window>> windows(Node node) {
        boolean leaf = node.keys.size() == rowParts.size();
        List<List<Grid.Window>> all = new ArrayList<>();
        for (List<Object> column : columns) {
            Cell cell = axes.cell(node.keys, column);
            boolean occurs = axes.occurs(cell.moment(), leaf);
            for (Shown s : shown) {
                all.add(occurs ? windows(s.node(), cell) : List.of());
                if (s.target() != null) {
                    all.add(occurs ? windows(s.against(), cell) : List.of());
                    all.add(List.of());
                }
            }
        }
        return all;
    }

    private List<Grid.Window> windows(PlanNode plan, Cell cell) {
        Set<Grid.Window> found = new LinkedHashSet<>();
        Evaluator.visit(plan, node -> {
            if (node instanceof PlanNode.AggregateNode leaf
                    && leaf.alwaysBlankBecause().isEmpty()) {
                found.add(new Grid.Window(leaf.toString(), evaluator.window(leaf.window(), cell.moment())));
            } else if (node instanceof PlanNode.DayCount days) {
                found.add(new Grid.Window(days.toString(), evaluator.window(days.window(), cell.moment())));
            }
        });
        return List.copyOf(found);
    }

    /** Returns the period that the as-of date cuts, at the finest level of the report. */
    static Optional<CalendarPeriod> cutPeriod(AxisPart.OfLevel finest, int asOf) {
        return finest.calendar()
                .period(finest.level(), asOf)
                .filter(p -> p.range().lastEpochDay() > asOf);
    }
}
