package dev.mile.report.series;

import dev.mile.engine.ColumnLayout;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.DoubleConsumer;
import java.util.function.IntFunction;
import java.util.function.IntPredicate;
import org.jspecify.annotations.Nullable;

/**
 * The series of a report's aggregates, handed out by members and filters of days. A request that was not loaded has no groups. Not
 * for use by several threads.
 */
public final class SeriesStore {
    /** About what the objects of a group take, whatever its days. */
    private static final int GROUP_BYTES = 400;

    /** Groups between two reports of progress. */
    private static final int PROGRESS_EVERY = 256;

    private record Group(String[] members, DailySeries series) {}

    private record Slice(int series, List<@Nullable MemberFilter> members, @Nullable IntPredicate days) {}

    private final List<ColumnLayout> layouts;
    private final Map<Integer, List<Integer>> seriesOf = new HashMap<>();
    private final List<List<Group>> groups = new ArrayList<>();
    private final List<@Nullable Map<List<String>, DailySeries>> byMembers = new ArrayList<>();
    private final List<TextNumbers> textNumbers = new ArrayList<>();
    private final Map<Slice, DailySeries> slices = new HashMap<>();
    private int[] lastDays = {};

    /** Returns an empty store of the series whose totals have these layouts. */
    public SeriesStore(List<ColumnLayout> layouts) {
        this.layouts = layouts;
        for (int s = 0; s < layouts.size(); s++) {
            seriesOf.computeIfAbsent(layouts.get(s).request(), r -> new ArrayList<>())
                    .add(s);
            groups.add(List.of());
            byMembers.add(null);
            textNumbers.add(new TextNumbers());
        }
    }

    /**
     * Loads the totals of some requests.
     *
     * @param requests their numbers
     * @param open begins to read a request
     * @param maxHeldBytes about how many bytes they may take
     * @param progress receives the fraction of the requests that is read, from time to time
     * @return the store; empty where they would take more
     */
    public static Optional<SeriesStore> load(
            List<ColumnLayout> layouts,
            Collection<Integer> requests,
            IntFunction<TotalsReader> open,
            long maxHeldBytes,
            DoubleConsumer progress) {
        SeriesStore store = new SeriesStore(layouts);
        long heldBytes = 0;
        int read = 0;
        int groups = 0;
        for (int request : requests) {
            store.reset(request);
            try (TotalsReader reader = open.apply(request)) {
                for (GroupTotals group = reader.next(); group != null; group = reader.next()) {
                    heldBytes += GROUP_BYTES + (long) group.days().length * Long.BYTES * (1 + group.values().length);
                    if (heldBytes > maxHeldBytes) {
                        return Optional.empty();
                    }
                    store.add(request, group);
                    if (++groups % PROGRESS_EVERY == 0 && reader.progress() > 0) {
                        progress.accept((read + reader.progress()) / requests.size());
                    }
                }
            }
            progress.accept((double) ++read / requests.size());
        }
        return Optional.of(store);
    }

    /** Forgets the groups of a request, so that others can be added. */
    public void reset(int request) {
        for (int s : seriesOf.getOrDefault(request, List.of())) {
            groups.set(s, new ArrayList<>());
            byMembers.set(s, null);
        }
        if (!slices.isEmpty()) {
            slices.keySet().removeIf(slice -> layouts.get(slice.series()).request() == request);
        }
    }

    /** Adds a group of a request. */
    public void add(int request, GroupTotals totals) {
        // most groups have rows on the same days: one array of them stays in the processor's cache
        lastDays = Arrays.equals(lastDays, totals.days()) ? lastDays : totals.days();
        for (int s : seriesOf.getOrDefault(request, List.of())) {
            DailySeries series = series(lastDays, totals, layouts.get(s), textNumbers.get(s));
            if (series.rows() > 0) {
                groups.get(s).add(new Group(totals.members(), series));
            }
        }
    }

    private static DailySeries series(int[] days, GroupTotals totals, ColumnLayout layout, TextNumbers textNumbers) {
        return DailySeries.of(
                days,
                totals.values()[layout.rows()],
                column(totals, layout.count()),
                column(totals, layout.sum()),
                column(totals, layout.min()),
                column(totals, layout.max()),
                layout.distinct() < 0 ? null : textNumbers.of(totals.values()[layout.distinct()]));
    }

    private static @Nullable DailyTotals column(GroupTotals totals, int column) {
        return column < 0 ? null : totals.values()[column];
    }

    /**
     * Returns the series of some members on some days.
     *
     * @param members a filter for each grouping column, null for all members
     * @param days the days; null for all
     */
    public DailySeries slice(int series, List<@Nullable MemberFilter> members, @Nullable IntPredicate days) {
        if (days == null && members.stream().allMatch(MemberFilter.Only.class::isInstance)) {
            List<String> key = new ArrayList<>(members.size());
            members.forEach(m -> key.add(((MemberFilter.Only) m).member()));
            return byMembers(series).getOrDefault(key, DailySeries.EMPTY);
        }
        Slice slice = new Slice(series, members, days);
        DailySeries cached = slices.get(slice);
        if (cached == null) {
            cached = days == null ? sumOf(slice) : DailySeriesBuilder.filtered(slice(series, members, null), days);
            slices.put(slice, cached);
        }
        return cached;
    }

    private DailySeries sumOf(Slice slice) {
        return DailySeriesBuilder.of(groups.get(slice.series()).stream()
                .filter(group -> matches(group.members(), slice.members()))
                .map(Group::series)
                .toList());
    }

    /** Returns the groups of the series by their members, so that a cell of one group need not look at all. */
    private Map<List<String>, DailySeries> byMembers(int series) {
        Map<List<String>, DailySeries> index = byMembers.get(series);
        if (index == null) {
            List<Group> all = groups.get(series);
            index = new HashMap<>(all.size() * 2);
            for (Group group : all) {
                index.put(Arrays.asList(group.members()), group.series());
            }
            byMembers.set(series, index);
        }
        return index;
    }

    private static boolean matches(String[] group, List<@Nullable MemberFilter> members) {
        for (int i = 0; i < group.length; i++) {
            MemberFilter filter = members.get(i);
            if (filter != null && !filter.accepts(group[i])) {
                return false;
            }
        }
        return true;
    }

    /** Returns the members of the groups of the series that have rows. */
    public List<String[]> members(int series) {
        return groups.get(series).stream().map(Group::members).toList();
    }
}
