package dev.mile.report;

import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.report.series.DailySeries;
import dev.mile.report.series.DailySeriesBuilder;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntConsumer;
import java.util.function.IntPredicate;

/**
 * The series of a report's aggregates, handed out by members and filters. Passes are filled when one of their series is first
 * asked for, or from outside, group by group. Not for use by several threads.
 */
final class SeriesStore {
    private record Group(String[] members, DailySeries series) {}

    private record Slice(int series, List<Members> members, int filters) {}

    private final List<SeriesPlan.Place> places;
    private final IntConsumer loader;
    private final List<IntPredicate> filters;
    private final Map<Integer, List<Integer>> seriesOf = new HashMap<>();
    private final List<List<Group>> groups = new ArrayList<>();
    private final List<Map<List<String>, DailySeries>> byMembers = new ArrayList<>();
    private final List<Map<String, Integer>> texts = new ArrayList<>();
    private final Map<Slice, DailySeries> slices = new HashMap<>();
    private int[] lastDays = {};

    /**
     * Returns an empty store.
     *
     * @param places where the columns of each series stand in the totals of its pass
     * @param filters the filters of days, by number
     * @param loader fills a pass that is asked for and not there, by {@link #begin} and {@link #add}
     */
    SeriesStore(List<SeriesPlan.Place> places, List<IntPredicate> filters, IntConsumer loader) {
        this.places = places;
        this.filters = filters;
        this.loader = loader;
        for (int s = 0; s < places.size(); s++) {
            seriesOf.computeIfAbsent(places.get(s).pass(), p -> new ArrayList<>())
                    .add(s);
            groups.add(null);
            byMembers.add(null);
            texts.add(new HashMap<>());
        }
    }

    /** Begins to fill a pass; what it had is forgotten. */
    void begin(int pass) {
        for (int s : seriesOf.getOrDefault(pass, List.of())) {
            groups.set(s, new ArrayList<>());
            byMembers.set(s, null);
        }
        if (!slices.isEmpty()) {
            slices.keySet().removeIf(slice -> places.get(slice.series()).pass() == pass);
        }
    }

    /** Adds a group to a pass. */
    void add(int pass, GroupTotals totals) {
        // most groups have rows on the same days: one array of them stays in the processor's cache
        lastDays = Arrays.equals(lastDays, totals.days()) ? lastDays : totals.days();
        for (int s : seriesOf.getOrDefault(pass, List.of())) {
            DailySeries series = series(lastDays, totals, places.get(s), texts.get(s));
            if (series.rows() > 0) {
                groups.get(s).add(new Group(totals.members(), series));
            }
        }
    }

    private static DailySeries series(
            int[] days, GroupTotals totals, SeriesPlan.Place place, Map<String, Integer> numbers) {
        return DailySeries.of(
                days,
                totals.values()[place.rows()],
                column(totals, place.count()),
                column(totals, place.sum()),
                column(totals, place.min()),
                column(totals, place.max()),
                place.distinct() < 0
                        ? null
                        : numbered((DailyTotals.StringSets) column(totals, place.distinct()), numbers));
    }

    private static DailyTotals column(GroupTotals totals, int column) {
        return column < 0 ? null : totals.values()[column];
    }

    private static int[][] numbered(DailyTotals.StringSets texts, Map<String, Integer> numbers) {
        int[][] numbered = new int[texts.values().length][];
        for (int i = 0; i < numbered.length; i++) {
            String[] values = texts.values()[i];
            numbered[i] = new int[values == null ? 0 : values.length];
            for (int v = 0; v < numbered[i].length; v++) {
                Integer number = numbers.putIfAbsent(values[v], numbers.size());
                numbered[i][v] = number == null ? numbers.size() - 1 : number;
            }
        }
        return numbered;
    }

    private List<Group> groups(int series) {
        if (groups.get(series) == null) {
            loader.accept(places.get(series).pass());
        }
        return groups.get(series);
    }

    /** Returns the series of the members (null for all), one for each grouping column, on the days that the filters keep. */
    DailySeries slice(int series, List<Members> members, int filter) {
        if (filter == Sight.ALL_DAYS && members.stream().allMatch(m -> m != null && m.single())) {
            List<String> key = new ArrayList<>(members.size());
            members.forEach(m -> key.add(m.one()));
            return byMembers(series).getOrDefault(key, DailySeries.EMPTY);
        }
        Slice slice = new Slice(series, members, filter);
        DailySeries known = slices.get(slice);
        if (known == null) {
            known = filter == Sight.ALL_DAYS
                    ? together(slice)
                    : slice(series, members, Sight.ALL_DAYS).filtered(filters.get(filter));
            slices.put(slice, known);
        }
        return known;
    }

    private DailySeries together(Slice slice) {
        return DailySeriesBuilder.of(groups(slice.series()).stream()
                .filter(group -> matches(group.members(), slice.members()))
                .map(Group::series)
                .toList());
    }

    /** Returns the groups of the series by their members, so that a cell of one group need not look at all. */
    private Map<List<String>, DailySeries> byMembers(int series) {
        List<Group> all = groups(series);
        if (byMembers.get(series) == null) {
            Map<List<String>, DailySeries> index = new HashMap<>(all.size() * 2);
            all.forEach(group -> index.put(Arrays.asList(group.members()), group.series()));
            byMembers.set(series, index);
        }
        return byMembers.get(series);
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
    List<String[]> members(int series) {
        return groups(series).stream().map(Group::members).toList();
    }
}
