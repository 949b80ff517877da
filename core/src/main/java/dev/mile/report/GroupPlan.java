package dev.mile.report;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.TotalsRequest;
import dev.mile.measure.Value;
import dev.mile.report.plan.MeasurePlanner;
import dev.mile.report.plan.PlanNode;
import dev.mile.span.SpanContext;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.IntPredicate;

/**
 * A report made ready to be worked out where its groups are: names are looked up, windows resolved to days. It is made beside
 * the model, sent to many machines, and asked there for the rows of one combination of members after the other; so groups never
 * meet on one machine. Rows are those of the finest level, without subtotals.
 */
public final class GroupPlan implements Serializable {
    private static final long serialVersionUID = 1L;

    /**
     * What is asked of the facts.
     *
     * @param request the totals
     * @param keys where the members of the rows stand among its groups, in the order of {@link #dimensions}; empty where no
     *     aggregate reads the row's own members
     * @param whole whether some aggregate looks beyond the row's own members, so that every machine needs all of it
     * @param spread whether its fact is a plan whose rows are spread over days, which is done on one machine
     */
    public record Pass(TotalsRequest request, List<Integer> keys, boolean whole, boolean spread) {
        /** Returns the members of the rows that a group of the pass belongs to. */
        public List<String> key(GroupTotals group) {
            List<String> key = new ArrayList<>();
            keys.forEach(at -> key.add(group.members()[at]));
            return key;
        }
    }

    /** A series whose groups tell which members have rows; of a pass of which every machine has all, or only of those members. */
    private record Telling(int series, List<Integer> keys, boolean whole) implements Serializable {}

    /** A row: labels in the order of the report's parts, then a value for each column. */
    public record Row(List<String> labels, List<Value> values) implements Serializable {}

    /** Where in time a row may be: its moments by column, null for one that does not occur, and its labels, null for members. */
    private record Time(List<Moment> moments, List<String> labels) implements Serializable {}

    /** Days, by number from the first. */
    private record DayMask(int first, BitSet kept) implements IntPredicate, Serializable {
        @Override
        public boolean test(int day) {
            return day >= first && kept.get(day - first);
        }
    }

    private final transient Session session;
    private final transient List<Pass> passes;
    private final List<String> parts;
    private final List<String> dimensions;
    private final transient List<Grid.Column> columns;
    private final int width;
    private final List<SeriesPlan.Place> places;
    private final List<Telling> telling;
    private final List<DayMask> filters;
    private final List<Time> times;
    private final List<Shown.Made> shown;
    private final boolean keepEmpty;

    /**
     * Makes a report ready.
     *
     * @throws MileException if the report has what only one machine can work out: an order of its own, first rows, or members
     *     side by side
     */
    public static GroupPlan of(Session session, Report report) {
        try {
            return new GroupPlan(session, report);
        } catch (MileException e) {
            throw e.withLocation(report.place());
        }
    }

    private GroupPlan(Session session, Report report) {
        this.session = session;
        if (report.sort().isPresent() || report.top().isPresent()) {
            throw MileException.invalidModel(
                    "the report '%s' sorts its rows or takes the first of them, which needs all rows in one place; sort the result",
                    report.name());
        }
        SpanContext frame = session.frame(report.calendar());
        Evaluator evaluator = new Evaluator(session, frame);
        Axes axes = new Axes(session, report, frame, evaluator);
        if (axes.columns().stream().anyMatch(AxisPart.OfMembers.class::isInstance)) {
            throw MileException.invalidModel(
                    "the report '%s' has members side by side, which needs all rows in one place; put them into rows",
                    report.name());
        }
        MeasurePlanner planner = new MeasurePlanner(
                session.catalog(),
                session.project().measures(),
                session.project().workingWeeks().keySet(),
                axes.dimensions(),
                report.where());
        List<Shown> all = report.show().stream()
                .map(name -> Shown.of(name, session.project(), planner))
                .toList();
        this.parts = axes.rows().stream().map(AxisPart::name).toList();
        this.dimensions = axes.rows().stream()
                .filter(AxisPart.OfMembers.class::isInstance)
                .map(AxisPart::name)
                .toList();
        this.keepEmpty = report.keepEmpty();
        this.shown = new ArrayList<>(all.stream().map(s -> s.made(evaluator)).toList());
        this.places = new ArrayList<>();
        for (int s = 0; s < evaluator.plan().series().size(); s++) {
            places.add(evaluator.plan().place(s));
        }
        axes.findTimes();
        List<List<Object>> columnKeys = axes.columnKeys();
        this.columns = new GridHead(session, report, axes, all).of(columnKeys).columns();
        this.width = columns.size() / Math.max(columnKeys.size(), 1);
        this.times = new ArrayList<>();
        addTimes(axes, columnKeys, axes.timeBranches(), new ArrayList<>());
        List<Moment> moments = times.stream()
                .flatMap(time -> time.moments().stream())
                .filter(Objects::nonNull)
                .toList();
        evaluator.expect(moments);
        moments.forEach(evaluator::resolve);
        Map<PlanNode.AggregateNode, List<Integer>> keys = new LinkedHashMap<>();
        for (Shown s : all) {
            s.plans().forEach(node -> Evaluator.leaves(node).stream()
                    .filter(leaf -> leaf.alwaysBlankBecause().isEmpty())
                    .forEach(leaf -> keys.put(leaf, keys(leaf))));
        }
        this.passes = passes(evaluator.plan(), keys);
        this.telling = new ArrayList<>();
        keys.forEach((leaf, own) -> {
            int series = evaluator.plan().want(leaf.series(), leaf.aggregation());
            if (!own.isEmpty()) {
                telling.add(new Telling(
                        series, own, passes.get(places.get(series).pass()).whole()));
            }
        });
        DateRange range = session.dimension().range();
        this.filters = new ArrayList<>();
        for (IntPredicate filter : evaluator.filters()) {
            BitSet kept = new BitSet();
            for (int day = range.firstEpochDay(); day <= range.lastEpochDay(); day++) {
                kept.set(day - range.firstEpochDay(), filter.test(day));
            }
            filters.add(new DayMask(range.firstEpochDay(), kept));
        }
    }

    private List<Pass> passes(SeriesPlan plan, Map<PlanNode.AggregateNode, List<Integer>> keysOf) {
        Map<Integer, Set<List<Integer>>> keys = new HashMap<>();
        keysOf.forEach((leaf, own) -> {
            int pass = plan.place(plan.want(leaf.series(), leaf.aggregation())).pass();
            keys.computeIfAbsent(pass, p -> new LinkedHashSet<>()).add(own);
        });
        List<Pass> found = new ArrayList<>();
        for (int p = 0; p < plan.passes(); p++) {
            TotalsRequest request = plan.request(p);
            List<Integer> own =
                    keys.get(p).stream().filter(of -> !of.isEmpty()).findFirst().orElse(List.of());
            boolean whole = own.isEmpty() || keys.get(p).size() > 1;
            boolean spread =
                    session.project().facts().get(request.fact()).grain().isPresent();
            found.add(new Pass(request, own, whole, spread));
        }
        if (!dimensions.isEmpty() && found.stream().allMatch(p -> p.keys().isEmpty())) {
            throw MileException.invalidModel(
                    "no measure of the report reads the members of its rows; take the dimensions away");
        }
        return found;
    }

    /** Returns where the members of the row stand in the groups of an aggregate; empty if it does not take all of them. */
    private List<Integer> keys(PlanNode.AggregateNode leaf) {
        List<Integer> found = new ArrayList<>();
        for (String dimension : dimensions) {
            PlanNode.MemberBinding reach = leaf.memberBindings().get(dimension);
            if (reach == null || reach.scope() != PlanNode.MemberBinding.ROW) {
                return List.of();
            }
            found.add(leaf.series().groups().indexOf(reach.field()));
        }
        return found;
    }

    /** Adds the places in time of rows; keys hold null at the parts of members. */
    private void addTimes(Axes axes, List<List<Object>> columnKeys, Axes.Branch branch, List<Object> keys) {
        while (keys.size() < axes.rows().size() && axes.rows().get(keys.size()) instanceof AxisPart.OfMembers) {
            keys.add(AxisPart.Blank.KEY);
        }
        if (keys.size() < axes.rows().size()) {
            branch.next.forEach((key, next) -> {
                addTimes(axes, columnKeys, next, Axes.longer(keys, key));
            });
            return;
        }
        List<Moment> moments = new ArrayList<>();
        for (List<Object> column : columnKeys) {
            Cell cell = axes.cell(keys, column);
            moments.add(axes.occurs(cell.moment(), true) ? cell.moment() : null);
        }
        List<String> labels = new ArrayList<>();
        for (int i = 0; i < keys.size(); i++) {
            AxisPart part = axes.rows().get(i);
            labels.add(part instanceof AxisPart.OfMembers ? null : part.label(keys.get(i)));
        }
        times.add(new Time(moments, labels));
    }

    /** Returns what is asked of the facts; only where the plan was made. */
    public List<Pass> passes() {
        return passes;
    }

    /** Returns all totals of a pass, on this machine; only where the plan was made. */
    public List<GroupTotals> totals(int pass) {
        return session.engine()
                .totals(passes.get(pass).request(), session.dayContext())
                .all();
    }

    /** Returns the names of the rows' parts, in order. */
    public List<String> parts() {
        return parts;
    }

    /** Returns the names of those parts that are dimensions. */
    public List<String> dimensions() {
        return dimensions;
    }

    /** Returns the columns behind the parts; only where the plan was made. */
    public List<Grid.Column> columns() {
        return columns;
    }

    /** Returns what works rows out on one machine; not for use by several threads. */
    public Worker worker() {
        return new Worker();
    }

    /** Works out the rows of one combination of members after the other. */
    public final class Worker {
        private final SeriesStore store = new SeriesStore(places, List.copyOf(filters), pass -> {
            throw new IllegalStateException("pass " + pass + " was not given");
        });

        private final Map<Integer, Set<List<String>>> tellings = new HashMap<>();

        private Worker() {}

        /** Gives the totals of a pass that every machine needs whole. */
        public void whole(int pass, List<GroupTotals> groups) {
            store.begin(pass);
            groups.forEach(group -> store.add(pass, group));
        }

        /**
         * Returns the rows of one combination of members.
         *
         * @param members a member of each dimension, null for a blank
         * @param groups by pass, the groups that have these members; null for the passes given whole
         * @return its rows; none where no measure has rows of these members, whatever is kept empty
         */
        public List<Row> rows(List<String> members, List<List<GroupTotals>> groups) {
            for (int pass = 0; pass < groups.size(); pass++) {
                if (groups.get(pass) != null) {
                    whole(pass, groups.get(pass));
                }
            }
            if (!occur(members)) {
                return List.of();
            }
            Map<String, Members> own = new LinkedHashMap<>();
            for (int d = 0; d < members.size(); d++) {
                own.put(dimensions.get(d), Members.of(members.get(d)));
            }
            RowSeries series = new RowSeries(store, own);
            List<Row> rows = new ArrayList<>();
            for (Time time : times) {
                boolean found = false;
                Value[] values = new Value[width * time.moments().size()];
                Arrays.fill(values, Value.BLANK);
                for (int m = 0; m < time.moments().size(); m++) {
                    Moment moment = time.moments().get(m);
                    if (moment == null) {
                        continue;
                    }
                    Spot spot = new Spot(moment, series);
                    int at = m * width;
                    for (Shown.Made one : shown) {
                        at = one.put(values, at, spot);
                    }
                    found |= spot.found();
                }
                if (found || keepEmpty) {
                    rows.add(new Row(labels(time, members), List.of(values)));
                }
            }
            return rows;
        }

        private boolean occur(List<String> members) {
            return dimensions.isEmpty()
                    || telling.stream()
                            .anyMatch(t -> t.whole()
                                    ? told(t).contains(members)
                                    : !store.members(t.series()).isEmpty());
        }

        /** Returns the members that a series given whole tells of. */
        private Set<List<String>> told(Telling by) {
            return tellings.computeIfAbsent(by.series(), s -> {
                Set<List<String>> told = new HashSet<>();
                for (String[] group : store.members(s)) {
                    List<String> key = new ArrayList<>();
                    by.keys().forEach(at -> key.add(group[at]));
                    told.add(key);
                }
                return told;
            });
        }

        private List<String> labels(Time time, List<String> members) {
            List<String> labels = new ArrayList<>();
            int next = 0;
            for (String label : time.labels()) {
                String member = label == null ? members.get(next++) : label;
                labels.add(member == null ? "" : member);
            }
            return labels;
        }
    }
}
