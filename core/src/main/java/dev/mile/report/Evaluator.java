package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.DayBuckets;
import dev.mile.engine.GroupTotals;
import dev.mile.fact.RowExpression;
import dev.mile.measure.Per;
import dev.mile.measure.Value;
import dev.mile.report.axis.DayFilter;
import dev.mile.report.plan.PlanNode;
import dev.mile.span.SpanContext;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.HashSet;
import java.util.IdentityHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.IntPredicate;

/**
 * Makes the plans of a report's measures ready, and works them out for cells: what aggregates look at is resolved once for each
 * place in time, the rows' series are read from the store. Not for use by several threads.
 */
final class Evaluator implements Moment.Resolver {
    /** About what the objects of a group take, whatever its days. */
    private static final int GROUP_BYTES = 400;

    private final SeriesPlan plan;
    private final Session session;
    private final SpanContext frame;
    private final Map<String, WorkingWeek> weeks;
    private final WorkingWeek firstWeek;
    private final List<PlanNode.AggregateNode> leaves = new ArrayList<>();
    private final List<PlanNode.DayCount> counts = new ArrayList<>();
    private final Map<List<Object>, Formula> alike = new HashMap<>();
    private final Map<List<Object>, Formula.Reading> readings = new HashMap<>();
    private final Map<PlanNode, Formula> formulas = new IdentityHashMap<>();
    private final List<List<DayFilter>> filters = new ArrayList<>();
    private final List<IntPredicate> kept = new ArrayList<>();
    private final Map<List<String>, DateRange> coverage = new HashMap<>();
    private final Map<Map<String, Members>, RowSeries> rows = new HashMap<>();
    private final Set<Integer> streamed = new LinkedHashSet<>();
    private long held;
    private long mostHeld = Long.MAX_VALUE;
    private List<Set<Integer>> expected = List.of();
    private SeriesStore store;
    private String streamedBy = "";
    private boolean wholeToo;

    Evaluator(Session session, SpanContext frame) {
        this.session = session;
        this.frame = frame;
        this.weeks = session.project().workingWeeks();
        this.firstWeek = weeks.isEmpty() ? null : weeks.values().iterator().next();
        this.plan = new SeriesPlan(session.project().facts(), session.project().lookups(), session.dayContext());
    }

    // ---- making ready

    /**
     * Has the groups of one member of the dimension after the other come from the engine, by {@link #units}; told before plans are
     * made ready.
     *
     * @param wholeToo whether there are cells of all its members too; their totals are asked for by themselves
     */
    void streamBy(String dimension, boolean wholeToo) {
        this.streamedBy = dimension;
        this.wholeToo = wholeToo;
    }

    /** Returns the plan made ready; all are made ready before the first is worked out. */
    Formula formula(PlanNode node) {
        Formula known = formulas.get(node);
        if (known == null) {
            known = made(node);
            formulas.put(node, known);
        }
        return known;
    }

    private Formula made(PlanNode node) {
        if (node instanceof PlanNode.AggregateNode leaf) {
            return leaf(leaf);
        }
        if (node instanceof PlanNode.Number number) {
            return new Formula.Number(number.value());
        }
        if (node instanceof PlanNode.Arithmetic a) {
            return new Formula.Arithmetic(formula(a.left()), a.sign(), formula(a.right()));
        }
        if (node instanceof PlanNode.Negated n) {
            return new Formula.Negated(formula(n.of()));
        }
        if (node instanceof PlanNode.OrElse o) {
            return new Formula.OrElse(formula(o.of()), o.otherwise());
        }
        if (node instanceof PlanNode.Sum s) {
            return new Formula.Sum(formula(s.actual()), formula(s.after()));
        }
        if (node instanceof PlanNode.OnlyAt only) {
            return new Formula.OnlyAt(only.level(), formula(only.of()));
        }
        if (node instanceof PlanNode.Each each) {
            return each(each);
        }
        counts.add((PlanNode.DayCount) node);
        return new Formula.Days(counts.size() - 1);
    }

    private Formula leaf(PlanNode.AggregateNode leaf) {
        if (leaf.alwaysBlankBecause().isPresent()) {
            return new Formula.Number(Value.BLANK);
        }
        List<String> dimensions = new ArrayList<>();
        List<Integer> loops = new ArrayList<>();
        for (var group : leaf.series().groups()) {
            // two names may stand for one column; the later one is the nearer
            Map.Entry<String, PlanNode.MemberBinding> reach = leaf.memberBindings().entrySet().stream()
                    .filter(e -> e.getValue().field().equals(group))
                    .reduce((a, b) -> b)
                    .orElseThrow();
            dimensions.add(reach.getKey());
            loops.add(reach.getValue().scope());
        }
        int series = plan.want(leaf.series(), leaf.aggregation());
        int whole = series;
        if (!streamedBy.isEmpty() && GroupStream.readsOwn(leaf, streamedBy)) {
            streamed.add(plan.place(series).pass());
            PlanNode.Series of = leaf.series();
            whole = wholeToo
                    ? plan.want(
                            new PlanNode.Series(
                                    of.fact(),
                                    of.role(),
                                    of.value(),
                                    of.where(),
                                    of.groups().subList(1, of.groups().size())),
                            leaf.aggregation())
                    : series;
        }
        Formula.Reading reading = reading(series, whole, dimensions, loops, leaf.missingDimensions());
        PlanNode.WindowSpec timing = leaf.window();
        // what looks at the same of the same is worked out once for each place in time
        return alike.computeIfAbsent(
                List.of(
                        reading.number(),
                        leaf.aggregation(),
                        timing.span(),
                        timing.cutAtAsOf(),
                        timing.per(),
                        leaf.ifFull(),
                        leaf.across()),
                k -> {
                    leaves.add(leaf);
                    return new Formula.Leaf(
                            leaves.size() - 1,
                            reading,
                            leaf.aggregation(),
                            leaf.series().value().isEmpty(),
                            leaf.across());
                });
    }

    private Formula.Reading reading(
            int series, int whole, List<String> dimensions, List<Integer> loops, List<String> lacks) {
        return readings.computeIfAbsent(
                List.of(series, whole, dimensions, loops, lacks),
                k -> new Formula.Reading(readings.size(), series, whole, dimensions, loops, lacks));
    }

    private Formula each(PlanNode.Each each) {
        Formula of = formula(each.of());
        // the loops below that take the member of this one
        Set<Integer> ids = new HashSet<>(Set.of(each.id()));
        visit(each.of(), node -> {
            if (node instanceof PlanNode.Each inner && ids.contains(inner.within())) {
                ids.add(inner.id());
            }
        });
        List<Formula.Among> among = new ArrayList<>();
        for (PlanNode.AggregateNode leaf : leaves(each.of())) {
            leaf.memberBindings().forEach((dimension, reach) -> {
                if (ids.contains(reach.scope()) && leaf.alwaysBlankBecause().isEmpty()) {
                    among.add(new Formula.Among(
                            ((Formula.Leaf) formula(leaf)).reading(),
                            leaf.series().groups().indexOf(reach.field())));
                }
            });
        }
        return new Formula.Each(each.id(), each.dimension(), each.within(), among, of);
    }

    /** Returns the leaves below the node. */
    static List<PlanNode.AggregateNode> leaves(PlanNode node) {
        List<PlanNode.AggregateNode> leaves = new ArrayList<>();
        visit(node, n -> {
            if (n instanceof PlanNode.AggregateNode leaf) {
                leaves.add(leaf);
            }
        });
        return leaves;
    }

    static void visit(PlanNode node, Consumer<PlanNode> visitor) {
        visitor.accept(node);
        node.parts().forEach(part -> visit(part, visitor));
    }

    /** Returns what is asked of the engine. */
    SeriesPlan plan() {
        return plan;
    }

    // ---- the rows

    /** Returns the store of the series, which is filled from the engine as they are asked for. */
    SeriesStore store() {
        if (store == null) {
            List<SeriesPlan.Place> places = new ArrayList<>();
            for (int s = 0; s < plan.series().size(); s++) {
                places.add(plan.place(s));
            }
            store = new SeriesStore(places, Collections.unmodifiableList(kept), this::load);
        }
        return store;
    }

    /** Returns the number of an aggregate's series. */
    int series(PlanNode.AggregateNode leaf) {
        return ((Formula.Leaf) formula(leaf)).reading().series();
    }

    /** Returns what reads the streamed passes into the store. */
    UnitReader units() {
        List<PassReader> readers = new ArrayList<>();
        try {
            streamed.forEach(pass -> readers.add(new PassReader(session, plan, pass)));
            return new UnitReader(store(), List.copyOf(streamed), readers, rows::clear, session.progress());
        } catch (RuntimeException e) {
            readers.forEach(PassReader::close);
            throw e;
        }
    }

    /** Sets how many bytes the totals that are read from now on may take; beyond, reading them ends in {@link TooManyGroups}. */
    void holdAtMost(long bytes) {
        held = 0;
        mostHeld = bytes;
    }

    private void load(int pass) {
        store.begin(pass);
        try (PassReader reader = new PassReader(session, plan, pass)) {
            for (GroupTotals group = reader.next(); group != null; group = reader.next()) {
                held += GROUP_BYTES + (long) group.days().length * Long.BYTES * (1 + group.values().length);
                if (held > mostHeld) {
                    throw new TooManyGroups();
                }
                store.add(pass, group);
            }
        }
    }

    // ---- cells

    /** Returns a place in time. */
    Moment moment(DateRange days, List<DayFilter> filters, Level finest) {
        return new Moment(days, filters, finest, this);
    }

    /** Works out all that a place in time may be asked for. */
    void resolve(Moment moment) {
        for (int leaf = 0; leaf < leaves.size(); leaf++) {
            moment.sight(leaf);
        }
        for (int count = 0; count < counts.size(); count++) {
            moment.days(count);
        }
    }

    /**
     * Is told all places in time that cells may have, before the first total is asked for: days that every aggregate takes together
     * or not at all are then asked for together.
     */
    void expect(Iterable<Moment> moments) {
        Map<Integer, Set<Integer>> begins = new HashMap<>();
        Set<Integer> daily = new HashSet<>();
        List<Set<Integer>> passesOf = new ArrayList<>();
        for (int number = 0; number < leaves.size(); number++) {
            Formula.Reading reading = ((Formula.Leaf) formula(leaves.get(number))).reading();
            Set<Integer> passes = new HashSet<>();
            passes.add(plan.place(reading.series()).pass());
            passes.add(plan.place(reading.whole()).pass());
            passesOf.add(passes);
            passes.forEach(pass -> begins.computeIfAbsent(pass, p -> new HashSet<>()));
            if (readsDays(leaves.get(number))) {
                daily.addAll(passes);
            }
            for (Moment moment : moments) {
                if (daily.containsAll(passes)) {
                    break;
                }
                Sight sight = moment.sight(number);
                if (sight != null && sight.filters() != Sight.ALL_DAYS) {
                    daily.addAll(passes);
                } else if (sight != null) {
                    passes.forEach(pass -> begins.get(pass).addAll(List.of(sight.first(), sight.last() + 1)));
                }
            }
        }
        begins.forEach((pass, days) -> {
            if (!daily.contains(pass)) {
                plan.stretch(pass, days);
            }
        });
        expected = passesOf;
        moments.forEach(Moment::place);
    }

    /** Tells whether the aggregate needs the totals of days one by one: together they say less, wherever windows end. */
    private static boolean readsDays(PlanNode.AggregateNode leaf) {
        return switch (leaf.aggregation()) {
            case FIRST, LAST -> true;
            // floating sums depend on how they are made up in their last digit
            case SUM, AVG ->
                leaf.series().value().filter(RowExpression::floating).isPresent();
            default -> false;
        };
    }

    /** Returns the filters of days that were met, by number. */
    List<IntPredicate> filters() {
        return kept;
    }

    /** Returns the place where formulas are worked out for the cell. */
    Spot spot(Cell cell) {
        return new Spot(cell.moment(), row(cell.members()));
    }

    /** Returns the series of a row with the members. */
    RowSeries row(Map<String, Members> members) {
        return rows.computeIfAbsent(members, m -> new RowSeries(store(), m));
    }

    // ---- what aggregates look at

    @Override
    public Sight sight(int number, Moment moment) {
        PlanNode.AggregateNode leaf = leaves.get(number);
        DateRange window = window(leaf.window(), moment);
        List<DayFilter> own = filters(moment, leaf.across());
        if (window.isEmpty() || (!own.isEmpty() && days(window, own) == 0)) {
            return null;
        }
        if (leaf.ifFull() && !covered(leaf, window, own)) {
            return null;
        }
        return placed(
                number,
                new Sight(
                        window.firstEpochDay(),
                        window.lastEpochDay(),
                        Sight.NOWHERE,
                        Sight.NOWHERE,
                        number(own),
                        leaf.window().per().map(per -> units(per, window, own)).orElse(null),
                        own.size() == moment.filters().size()));
    }

    /** Places a sight among the stretches in which the aggregate's totals come, and makes sure that none is read in part. */
    @Override
    public Sight placed(int leaf, Sight sight) {
        DayBuckets first = DayBuckets.DAILY;
        for (int pass : expected.isEmpty() ? Set.<Integer>of() : expected.get(leaf)) {
            DayBuckets stretches = plan.stretches(pass);
            boolean whole = sight.filters() == Sight.ALL_DAYS
                    && stretches.isBoundary(sight.first())
                    && stretches.isBoundary(sight.last() + 1);
            if (!stretches.isDaily() && !whole) {
                throw new IllegalStateException(
                        DateRange.ofEpochDays(sight.first(), sight.last()) + " was not expected among " + stretches);
            }
            first = first.isDaily() ? stretches : first;
        }
        return sight.at(first.boundaryIndex(sight.first()), first.boundaryIndex(sight.last() + 1));
    }

    private int number(List<DayFilter> some) {
        if (some.isEmpty()) {
            return Sight.ALL_DAYS;
        }
        int at = filters.indexOf(some);
        if (at < 0) {
            filters.add(some);
            kept.add(day -> kept(some, day));
            return filters.size() - 1;
        }
        return at;
    }

    @Override
    public Value days(int number, Moment moment) {
        PlanNode.DayCount count = counts.get(number);
        DateRange window = window(count.window(), moment);
        List<DayFilter> own = filters(moment, count.across());
        if (days(window, own) == 0) {
            return Value.BLANK;
        }
        Value value = count.working() ? workingDays(window, own, count.week()) : Value.of(days(window, own));
        return count.window().per().isPresent()
                ? value.dividedBy(units(count.window().per().get(), window, own))
                : value;
    }

    /** Returns the days that an aggregate looks at, before the filters. */
    DateRange window(PlanNode.WindowSpec timing, Moment moment) {
        DateRange days = timing.cutAtAsOf() ? moment.days().notAfter(frame.asOf()) : moment.days();
        return days.isEmpty() ? days : timing.span().resolve(days, frame);
    }

    /** Returns the filters that the aggregate does not ignore. */
    private static List<DayFilter> filters(Moment moment, List<String> across) {
        return across.isEmpty() || moment.filters().isEmpty()
                ? moment.filters()
                : moment.filters().stream()
                        .filter(f -> !across.contains(f.name()))
                        .toList();
    }

    /** Returns the days that the fact covers in the role: to the as-of date for actuals. */
    DateRange coverage(String fact, String role) {
        return coverage.computeIfAbsent(List.of(fact, role), k -> {
            DateRange covered = session.engine().coverage(fact, role, session.dayContext());
            return session.project().facts().get(fact).plan() || covered.isEmpty()
                    ? covered
                    : DateRange.ofEpochDays(covered.firstEpochDay(), frame.asOf());
        });
    }

    private boolean covered(PlanNode.AggregateNode leaf, DateRange window, List<DayFilter> filters) {
        DateRange covers = coverage(leaf.series().fact(), leaf.series().role());
        if (filters.isEmpty()) {
            return covers.encloses(window);
        }
        for (int day = window.firstEpochDay(); day <= window.lastEpochDay(); day++) {
            if (kept(filters, day) && !covers.contains(day)) {
                return false;
            }
        }
        return true;
    }

    private static boolean kept(List<DayFilter> filters, int day) {
        for (DayFilter filter : filters) {
            if (!filter.test().test(day)) {
                return false;
            }
        }
        return true;
    }

    private static int days(DateRange window, List<DayFilter> filters) {
        if (filters.isEmpty() || window.isEmpty()) {
            return window.length();
        }
        int days = 0;
        for (int day = window.firstEpochDay(); day <= window.lastEpochDay(); day++) {
            days += kept(filters, day) ? 1 : 0;
        }
        return days;
    }

    private Value workingDays(DateRange window, List<DayFilter> filters, String name) {
        WorkingWeek week = name.isEmpty() ? firstWeek : weeks.get(name);
        if (filters.isEmpty()) {
            return Value.of(week.workingDaysIn(window));
        }
        BigDecimal sum = BigDecimal.ZERO;
        for (int day = window.firstEpochDay(); day <= window.lastEpochDay(); day++) {
            sum = kept(filters, day) ? sum.add(week.workedShare(day)) : sum;
        }
        return Value.of(sum);
    }

    /** Returns how many units the window touches; days and working days as they are. */
    private Value units(Per per, DateRange window, List<DayFilter> filters) {
        if (per.working()) {
            return workingDays(window, filters, per.week());
        }
        if (per.unit() == Level.DAY) {
            return Value.of(days(window, filters));
        }
        FiscalCalendar calendar = frame.calendarWith(per.unit(), per.calendar());
        if (filters.isEmpty()) {
            int crossed = calendar.boundariesCrossed(window.firstEpochDay(), window.lastEpochDay(), per.unit());
            return crossed == FiscalCalendar.NONE ? Value.BLANK : Value.of(crossed + 1);
        }
        int units = 0;
        int last = FiscalCalendar.NONE;
        for (int day = window.firstEpochDay(); day <= window.lastEpochDay(); day++) {
            int unit = calendar.ordinal(per.unit(), day);
            if (kept(filters, day) && unit != FiscalCalendar.NONE && unit != last) {
                units++;
                last = unit;
            }
        }
        return Value.of(units);
    }
}
