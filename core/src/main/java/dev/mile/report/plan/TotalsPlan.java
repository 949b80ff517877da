package dev.mile.report.plan;

import dev.mile.calendar.DateRange;
import dev.mile.engine.ColumnLayout;
import dev.mile.engine.DayBuckets;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.measure.Measure;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What is asked of an engine for the aggregates of a report: one request for those of one fact, role and grouping, in which each
 * series has its columns. Days that no window of a request separates share a bucket. Immutable.
 */
public final class TotalsPlan implements Serializable {
    private static final long serialVersionUID = 1L;

    /** Days are taken together where that leaves at most this share of them. */
    private static final int FEWER_BUCKETS = 2;

    private final transient List<TotalsRequest> requests;
    private final int[] firstUnknownKeyColumns;
    private final boolean[] needed;
    private final boolean[] neededForAllMembers;
    private final List<ColumnLayout> layouts;
    private final transient List<PlanNode.Series> series;
    private final transient List<DayBuckets> bucketsByAggregate;

    private TotalsPlan(
            List<TotalsRequest> requests,
            int[] firstUnknownKeyColumns,
            boolean[] needed,
            boolean[] neededForAllMembers,
            List<ColumnLayout> layouts,
            List<PlanNode.Series> series,
            List<DayBuckets> bucketsByAggregate) {
        this.requests = List.copyOf(requests);
        this.firstUnknownKeyColumns = firstUnknownKeyColumns;
        this.needed = needed;
        this.neededForAllMembers = neededForAllMembers;
        this.layouts = List.copyOf(layouts);
        this.series = series;
        this.bucketsByAggregate = List.copyOf(bucketsByAggregate);
    }

    /**
     * Plans the requests.
     *
     * @param windows where the aggregates look
     * @param dailyTotals whether windows are read that are unknown as yet, so that every day needs its own total
     */
    static TotalsPlan of(CompiledMeasures measures, WindowTable windows, boolean dailyTotals, PlanningContext context) {
        return new Builder(measures, context).build(windows, dailyTotals);
    }

    /** Returns the requests by number. */
    public List<TotalsRequest> requests() {
        return requests;
    }

    /** Returns the first column of a request that counts rows with a key that a lookup lacks; those behind it do too. */
    public int firstUnknownKeyColumn(int request) {
        return firstUnknownKeyColumns[request];
    }

    /** Returns whether some window looks at totals of the request, where groups of all members are held. */
    public boolean isNeeded(int request) {
        return needed[request];
    }

    /** Returns whether some window looks at totals of the request where groups come one member at a time, for all members together. */
    public boolean isNeededForAllMembers(int request) {
        return neededForAllMembers[request];
    }

    /** Returns where the totals of each series are, by number. */
    public List<ColumnLayout> layouts() {
        return layouts;
    }

    /** Returns the series by number. */
    public List<PlanNode.Series> series() {
        return series;
    }

    /** Returns the buckets in which the totals of each aggregate come; known where the plan was made. */
    List<DayBuckets> bucketsByAggregate() {
        return bucketsByAggregate;
    }

    /** Columns of one fact, role and grouping. */
    private record Request(String fact, String role, List<Operand.Field> groups, Set<TotalColumn> columns) {}

    /** Gathers the columns of each request from the uses of its series. */
    private static final class Builder {
        private final CompiledMeasures measures;
        private final PlanningContext context;
        private final List<Request> requests = new ArrayList<>();
        private final int[] requestOf;

        Builder(CompiledMeasures measures, PlanningContext context) {
            this.measures = measures;
            this.context = context;
            this.requestOf = new int[measures.series().size()];
            for (CompiledMeasures.SeriesUse use : measures.uses()) {
                PlanNode.Series series = measures.series().get(use.series());
                requestOf[use.series()] = requestFor(series);
                requests.get(requestOf[use.series()]).columns().addAll(columns(series, use.aggregation()));
            }
        }

        private int requestFor(PlanNode.Series series) {
            for (int r = 0; r < requests.size(); r++) {
                Request known = requests.get(r);
                if (known.fact().equals(series.fact())
                        && known.role().equals(series.role())
                        && known.groups().equals(series.groups())) {
                    return r;
                }
            }
            requests.add(new Request(series.fact(), series.role(), series.groups(), new LinkedHashSet<>()));
            return requests.size() - 1;
        }

        private static List<TotalColumn> columns(PlanNode.Series series, Measure.Aggregation aggregation) {
            Optional<RowExpression> value = series.value();
            List<TotalColumn> columns = new ArrayList<>();
            columns.add(new TotalColumn(TotalColumn.Kind.ROWS, Optional.empty(), series.where()));
            if (value.isEmpty()) {
                return columns;
            }
            if (aggregation == Measure.Aggregation.DISTINCT) {
                columns.add(new TotalColumn(TotalColumn.Kind.DISTINCT, value, series.where()));
                return columns;
            }
            columns.add(new TotalColumn(TotalColumn.Kind.COUNT, value, series.where()));
            switch (aggregation) {
                case MIN -> columns.add(new TotalColumn(TotalColumn.Kind.MIN, value, series.where()));
                case MAX -> columns.add(new TotalColumn(TotalColumn.Kind.MAX, value, series.where()));
                case COUNT -> {}
                default -> columns.add(new TotalColumn(TotalColumn.Kind.SUM, value, series.where()));
            }
            return columns;
        }

        TotalsPlan build(WindowTable windows, boolean dailyTotals) {
            boolean[] needed = new boolean[requests.size()];
            boolean[] neededForAllMembers = new boolean[requests.size()];
            Map<Integer, Set<Integer>> boundaries = boundaries(windows, dailyTotals, needed, neededForAllMembers);
            List<TotalsRequest> built = new ArrayList<>();
            int[] firstUnknown = new int[requests.size()];
            for (int r = 0; r < requests.size(); r++) {
                Request request = requests.get(r);
                List<TotalColumn> columns = new ArrayList<>(request.columns());
                firstUnknown[r] = columns.size();
                columns.addAll(unknownKeyColumns(request));
                DateRange days = context.project().facts().get(request.fact()).plan()
                        ? context.days().dimensionRange()
                        : context.days()
                                .dimensionRange()
                                .notAfter(context.days().asOf());
                DayBuckets buckets = buckets(days, boundaries.get(r));
                built.add(new TotalsRequest(request.fact(), request.role(), days, buckets, request.groups(), columns));
            }
            List<ColumnLayout> layouts = new ArrayList<>();
            for (int s = 0; s < requestOf.length; s++) {
                layouts.add(layout(s));
            }
            List<DayBuckets> ofAggregates = new ArrayList<>();
            for (SeriesBinding binding : measures.bindings()) {
                DayBuckets own = built.get(requestOf[binding.series()]).buckets();
                ofAggregates.add(
                        own.isDaily()
                                ? built.get(requestOf[binding.allMembers()]).buckets()
                                : own);
            }
            return new TotalsPlan(
                    built, firstUnknown, needed, neededForAllMembers, layouts, measures.series(), ofAggregates);
        }

        /** Returns for each request whose days may be taken together the days on which windows begin, or before which they end. */
        private Map<Integer, Set<Integer>> boundaries(
                WindowTable windows, boolean dailyTotals, boolean[] needed, boolean[] neededForAllMembers) {
            Map<Integer, Set<Integer>> boundaries = new LinkedHashMap<>();
            for (int r = 0; r < requests.size() && !dailyTotals; r++) {
                boundaries.put(r, new HashSet<>());
            }
            for (int a = 0; a < measures.aggregates().size(); a++) {
                SeriesBinding binding = measures.bindings().get(a);
                Set<Integer> own = new LinkedHashSet<>(
                        Arrays.asList(requestOf[binding.series()], requestOf[binding.allMembers()]));
                boolean daily = needsDailyTotals(measures.aggregates().get(a));
                for (CellWindows cell : windows.all()) {
                    ResolvedWindow window = cell.window(a);
                    if (window == null) {
                        continue;
                    }
                    needed[requestOf[binding.series()]] = true;
                    neededForAllMembers[requestOf[binding.allMembers()]] |= binding.allMembers() != binding.series();
                    for (int r : own) {
                        if (daily || window.filter() != null) {
                            boundaries.remove(r);
                        } else if (boundaries.containsKey(r)) {
                            boundaries.get(r).add(window.first());
                            boundaries.get(r).add(window.last() + 1);
                        }
                    }
                }
            }
            if (dailyTotals) {
                // windows that are not known yet may look at any of them
                for (SeriesBinding binding : measures.bindings()) {
                    needed[requestOf[binding.series()]] = true;
                    neededForAllMembers[requestOf[binding.allMembers()]] |= binding.allMembers() != binding.series();
                }
            }
            return boundaries;
        }

        /** Returns whether the aggregate needs the totals of days one by one: together they say less, wherever windows end. */
        private static boolean needsDailyTotals(PlanNode.AggregateNode aggregate) {
            return switch (aggregate.aggregation()) {
                case FIRST, LAST -> true;
                // floating sums depend on how they are made up in their last digit
                case SUM, AVG ->
                    aggregate.series().value().filter(RowExpression::floating).isPresent();
                default -> false;
            };
        }

        private static DayBuckets buckets(DateRange days, @Nullable Set<Integer> boundaries) {
            return boundaries != null && !days.isEmpty() && FEWER_BUCKETS * boundaries.size() <= days.length()
                    ? DayBuckets.of(days, boundaries)
                    : DayBuckets.DAILY;
        }

        private ColumnLayout layout(int number) {
            PlanNode.Series of = measures.series().get(number);
            List<TotalColumn> columns =
                    List.copyOf(requests.get(requestOf[number]).columns());
            int[] index = new int[TotalColumn.Kind.values().length];
            for (TotalColumn.Kind kind : TotalColumn.Kind.values()) {
                Optional<RowExpression> value = kind == TotalColumn.Kind.ROWS ? Optional.empty() : of.value();
                index[kind.ordinal()] = columns.indexOf(new TotalColumn(kind, value, of.where()));
            }
            return new ColumnLayout(
                    requestOf[number],
                    index[TotalColumn.Kind.ROWS.ordinal()],
                    index[TotalColumn.Kind.COUNT.ordinal()],
                    index[TotalColumn.Kind.SUM.ordinal()],
                    index[TotalColumn.Kind.MIN.ordinal()],
                    index[TotalColumn.Kind.MAX.ordinal()],
                    index[TotalColumn.Kind.DISTINCT.ordinal()]);
        }

        /** Returns columns that count the rows whose key a lookup lacks, for the lookups that the request reads. */
        private List<TotalColumn> unknownKeyColumns(Request request) {
            Set<List<String>> links = new LinkedHashSet<>();
            request.groups().forEach(group -> addLink(group, links));
            for (TotalColumn column : request.columns()) {
                column.value().ifPresent(value -> value.map(operand -> addLink(operand, links)));
                column.where().ifPresent(where -> where.map(operand -> addLink(operand, links)));
            }
            Map<String, Fact> facts = context.project().facts();
            Map<String, Lookup> lookups = context.project().lookups();
            return facts.get(request.fact()).linksAtAnyDepth(lookups).stream()
                    .filter(link -> links.contains(link.path()))
                    .map(link ->
                            new TotalColumn(TotalColumn.Kind.ROWS, Optional.empty(), Optional.of(link.isUnknown())))
                    .toList();
        }

        private static Operand addLink(Operand operand, Set<List<String>> links) {
            if (operand instanceof Operand.Changed changed) {
                addLink(changed.of(), links);
            } else if (operand instanceof Operand.Computed computed) {
                computed.of().map(inner -> addLink(inner, links));
            } else if (operand instanceof Operand.Field field) {
                field.named().ifPresent(named -> named.of().map(inner -> addLink(inner, links)));
                for (int length = 1; length <= field.path().size(); length++) {
                    links.add(field.path().subList(0, length));
                }
            }
            return operand;
        }
    }
}
