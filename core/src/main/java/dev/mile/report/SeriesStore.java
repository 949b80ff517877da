package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.fact.Column;
import dev.mile.fact.DayKnowledge;
import dev.mile.fact.Engine;
import dev.mile.fact.Fact;
import dev.mile.fact.GroupTotals;
import dev.mile.fact.Operand;
import dev.mile.fact.RowExpression;
import dev.mile.fact.TotalsRequest;
import dev.mile.measure.Measure;
import dev.mile.measure.PlanNode;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;

/**
 * Asks the engine for the series of all leaves of a report, one pass for leaves of one fact, role and grouping, and hands them
 * out by members and filters. Not for use by several threads.
 */
final class SeriesStore {
    private record Pass(String fact, String role, List<Operand.Field> groups) {}

    /** The columns of a pass that a series is made of; -1 for one that it does not need. */
    private record Place(Pass pass, int rows, int count, int sum, int min, int max, int distinct) {}

    private record Group(String[] members, DaySeries series) {}

    private record Slice(PlanNode.Series series, List<Members> members, List<DayFilter> filters) {}

    private final Engine engine;
    private final Map<String, Fact> facts;
    private final DayKnowledge days;
    private final Map<Pass, Set<Column>> wanted = new LinkedHashMap<>();
    private final Map<PlanNode.Series, Set<Measure.Aggregation>> kinds = new LinkedHashMap<>();
    private final Map<Pass, List<GroupTotals>> totals = new HashMap<>();
    private final Map<PlanNode.Series, List<Group>> groups = new HashMap<>();
    private final Map<PlanNode.Series, Map<List<String>, DaySeries>> byMembers = new HashMap<>();
    private final Map<Slice, DaySeries> slices = new HashMap<>();
    private final Map<List<String>, DateRange> coverage = new HashMap<>();

    SeriesStore(Engine engine, Map<String, Fact> facts, DayKnowledge days) {
        this.engine = engine;
        this.facts = facts;
        this.days = days;
    }

    /** Announces a leaf, so that it is part of the pass over its fact. */
    void want(PlanNode.Series series, Measure.Aggregation how) {
        kinds.computeIfAbsent(series, s -> new LinkedHashSet<>()).add(how);
        wanted.computeIfAbsent(pass(series), p -> new LinkedHashSet<>()).addAll(columns(series, how));
    }

    private static Pass pass(PlanNode.Series series) {
        return new Pass(series.fact(), series.role(), series.groups());
    }

    private static List<Column> columns(PlanNode.Series series, Measure.Aggregation how) {
        Optional<RowExpression> of = series.of();
        List<Column> columns = new ArrayList<>();
        columns.add(new Column(Column.Kind.ROWS, Optional.empty(), series.where()));
        if (of.isEmpty()) {
            return columns;
        }
        if (how == Measure.Aggregation.DISTINCT) {
            columns.add(new Column(Column.Kind.DISTINCT, of, series.where()));
            return columns;
        }
        columns.add(new Column(Column.Kind.COUNT, of, series.where()));
        switch (how) {
            case MIN -> columns.add(new Column(Column.Kind.MIN, of, series.where()));
            case MAX -> columns.add(new Column(Column.Kind.MAX, of, series.where()));
            case COUNT -> {}
            default -> columns.add(new Column(Column.Kind.SUM, of, series.where()));
        }
        return columns;
    }

    private List<GroupTotals> totals(Pass pass) {
        return totals.computeIfAbsent(pass, p -> {
            boolean plan = facts.get(p.fact()).plan();
            DateRange range = plan ? days.placed() : days.placed().upTo(days.asOf());
            return engine.totals(
                    new TotalsRequest(p.fact(), p.role(), range, p.groups(), List.copyOf(wanted.get(p))), days);
        });
    }

    private Place place(PlanNode.Series series) {
        Pass pass = pass(series);
        List<Column> columns = List.copyOf(wanted.get(pass));
        int[] at = new int[Column.Kind.values().length];
        for (Column.Kind kind : Column.Kind.values()) {
            Optional<RowExpression> of = kind == Column.Kind.ROWS ? Optional.empty() : series.of();
            at[kind.ordinal()] = columns.indexOf(new Column(kind, of, series.where()));
        }
        return new Place(
                pass,
                at[Column.Kind.ROWS.ordinal()],
                at[Column.Kind.COUNT.ordinal()],
                at[Column.Kind.SUM.ordinal()],
                at[Column.Kind.MIN.ordinal()],
                at[Column.Kind.MAX.ordinal()],
                at[Column.Kind.DISTINCT.ordinal()]);
    }

    private List<Group> groups(PlanNode.Series series) {
        List<Group> known = groups.get(series);
        if (known != null) {
            return known;
        }
        Place place = place(series);
        Map<String, Integer> codes = new HashMap<>();
        List<Group> found = new ArrayList<>();
        for (GroupTotals group : totals(place.pass())) {
            int[] on = new int[group.days().length];
            List<DaySeries.Day> with = new ArrayList<>();
            for (int i = 0; i < on.length; i++) {
                DaySeries.Day day = day(group, place, i, codes);
                if (day.rows > 0) {
                    on[with.size()] = group.days()[i];
                    with.add(day);
                }
            }
            if (!with.isEmpty()) {
                found.add(new Group(group.members(), new DaySeries(Arrays.copyOf(on, with.size()), with)));
            }
        }
        groups.put(series, found);
        return found;
    }

    private static DaySeries.Day day(GroupTotals group, Place place, int i, Map<String, Integer> codes) {
        DaySeries.Day day = new DaySeries.Day();
        day.rows = whole(group, place.rows(), i);
        day.count = place.count() < 0 ? 0 : whole(group, place.count(), i);
        day.sum = place.sum() < 0 ? null : group.values()[place.sum()][i];
        day.min = place.min() < 0 ? null : group.values()[place.min()][i];
        day.max = place.max() < 0 ? null : group.values()[place.max()][i];
        if (place.distinct() >= 0 && group.values()[place.distinct()][i] instanceof String[] values) {
            day.values = new TreeSet<>();
            for (String value : values) {
                day.values.add(codes.computeIfAbsent(value, v -> codes.size()));
            }
        }
        return day;
    }

    private static long whole(GroupTotals group, int column, int i) {
        Object value = group.values()[column][i];
        return value == null ? 0 : ((BigDecimal) value).longValueExact();
    }

    /** Returns the series of the members (null for all), one for each grouping column, on the days that the filters keep. */
    DaySeries slice(PlanNode.Series series, List<Members> members, List<DayFilter> filters) {
        Slice slice = new Slice(series, members, filters);
        DaySeries known = slices.get(slice);
        if (known == null) {
            known = cut(slice);
            slices.put(slice, known);
        }
        return known;
    }

    private DaySeries cut(Slice slice) {
        if (!slice.filters().isEmpty()) {
            DaySeries all = slice(slice.series(), slice.members(), List.of());
            return all.only(
                    day -> slice.filters().stream().allMatch(f -> f.keeps().test(day)));
        }
        if (slice.members().stream().allMatch(m -> m != null && m.single())) {
            List<String> key = slice.members().stream().map(Members::one).toList();
            return byMembers(slice.series()).getOrDefault(key, DaySeries.EMPTY);
        }
        return DaySeries.merged(groups(slice.series()).stream()
                .filter(group -> matches(group.members(), slice.members()))
                .map(Group::series)
                .toList());
    }

    /** Returns the groups of the series by their members, so that a cell of one group need not look at all. */
    private Map<List<String>, DaySeries> byMembers(PlanNode.Series series) {
        return byMembers.computeIfAbsent(series, s -> {
            Map<List<String>, DaySeries> index = new HashMap<>();
            groups(s).forEach(group -> index.put(Arrays.asList(group.members()), group.series()));
            return index;
        });
    }

    private static boolean matches(String[] group, List<Members> members) {
        for (int i = 0; i < group.length; i++) {
            if (members.get(i) != null && !members.get(i).has(group[i])) {
                return false;
            }
        }
        return true;
    }

    /** Returns the members of the groups of the series that have rows. */
    List<String[]> members(PlanNode.Series series) {
        return groups(series).stream().map(Group::members).toList();
    }

    /** Returns the days that the fact covers in the role: to the as-of date for actuals. */
    DateRange coverage(String fact, String role) {
        return coverage.computeIfAbsent(List.of(fact, role), k -> {
            DateRange covered = engine.coverage(fact, role, days);
            return facts.get(fact).plan() || covered.isEmpty()
                    ? covered
                    : DateRange.ofDays(covered.firstDay(), days.asOf());
        });
    }

    /** Returns the leaves' series that were announced. */
    Set<PlanNode.Series> announced() {
        return kinds.keySet();
    }
}
