package dev.mile.render.layout;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.internal.EpochDays;
import dev.mile.internal.LocalFormat;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.time.Month;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * All that a chart of a grid can show, before it is drawn: the same for pictures, pages and workbooks, which choose from it.
 *
 * @param kind the kind
 * @param title the title of the report
 * @param categories the labels along the axis
 * @param series the values, all as long as the categories
 * @param asOfAt the position of the as-of date among the categories, the middle of the first at 0
 * @param asOf the as-of date in words; empty where it falls outside the chart
 * @param statuses by category, for targets; else empty
 * @param unfinished by category, for bars: whether it is of a period that is not over; else empty
 * @param locale the language of numbers
 */
public record ChartData(
        Chart.Kind kind,
        String title,
        List<String> categories,
        List<Series> series,
        double asOfAt,
        String asOf,
        List<Optional<TargetStatus>> statuses,
        List<Boolean> unfinished,
        Locale locale) {
    /**
     * Values by category; null for a blank.
     *
     * @param label how people read it
     * @param member the members that it is of, as people read them; empty for all
     * @param at the column of the grid
     * @param column the column of the grid, for its format
     * @param rows the row of the grid that each value stands in; -1 where there is none
     * @param part how many of the values, from the first, are of periods whose first days are not covered or not shown
     * @param actual how many of the values, from the first, are of periods that are over on the as-of date and shown to their end; all of
     *     them where categories are no periods
     */
    public record Series(
            String label,
            String member,
            int at,
            Grid.Column column,
            List<Double> values,
            List<Integer> rows,
            int part,
            int actual) {
        /** Returns a value of the column in the scale that people read. */
        public double scaled(double value) {
            return value / Math.pow(10, column.style().scale().digits());
        }

        /** Returns whether all values are of periods that are over. */
        public boolean isOver() {
            return actual >= values.size();
        }

        /** Returns the series with its measure's label, where its member is said elsewhere. */
        public Series withoutMember() {
            String rest = label.replace(member + " · ", "").replace(" · " + member, "");
            return withLabel(rest.equals(member) ? column.label() : rest);
        }

        public Series withValues(List<Double> others) {
            return new Series(label, member, at, column, others, rows, part, actual);
        }

        public Series withLabel(String other) {
            return new Series(other, member, at, column, values, rows, part, actual);
        }

        /** Returns the values of whole periods that are over, what a trend is fitted to; others are blank. */
        public List<Double> whole() {
            List<Double> whole = new ArrayList<>(values.subList(0, actual));
            for (int i = 0; i < Math.min(part, actual); i++) {
                whole.set(i, null);
            }
            return whole;
        }
    }

    /**
     * Returns what the grid's chart shows.
     *
     * @throws MileException if the report has not what the kind of chart needs
     */
    public static ChartData of(Grid grid, Chart chart) {
        return switch (chart.kind()) {
            case RANKING -> ranking(grid, chart);
            case STATUS -> status(grid, chart);
            default -> overTime(grid, chart);
        };
    }

    /** Returns the series of each combination of members, in order; all under an empty text where the report has no members. */
    public Map<String, List<Series>> byMember() {
        return series.stream().collect(Collectors.groupingBy(Series::member, LinkedHashMap::new, Collectors.toList()));
    }

    /** Returns the same chart with some of its series. */
    public ChartData withSeries(List<Series> some) {
        return new ChartData(kind, title, categories, some, asOfAt, asOf, statuses, unfinished, locale);
    }

    /** Returns the same bars, those from one on and before another replaced by a gap that says how many they are. */
    public ChartData withGap(int from, int to) {
        List<Series> cut = series.stream()
                .map(one -> new Series(
                        one.label(),
                        one.member(),
                        one.at(),
                        one.column(),
                        replaced(one.values(), from, to, null),
                        replaced(one.rows(), from, to, -1),
                        one.part(),
                        one.actual() - (to - from) + 1))
                .toList();
        return new ChartData(
                kind,
                title,
                replaced(categories, from, to, "… " + (to - from) + " between …"),
                cut,
                asOfAt,
                asOf,
                statuses.isEmpty() ? statuses : replaced(statuses, from, to, Optional.empty()),
                unfinished.isEmpty() ? unfinished : replaced(unfinished, from, to, false),
                locale);
    }

    private static <T> List<T> replaced(List<T> all, int from, int to, T gap) {
        List<T> kept = new ArrayList<>(all.subList(0, from));
        kept.add(gap);
        kept.addAll(all.subList(to, all.size()));
        return kept;
    }

    // ---- over time

    private static ChartData overTime(Grid grid, Chart chart) {
        int time = timeKey(grid, chart);
        List<Integer> columns = columns(grid, chart);
        if (chart.kind() == Chart.Kind.GAP && columns.size() != 3) {
            throw ModelException.of(
                    "a gap chart draws two measures and their difference; name three: `chart: {kind: gap, show: [sales_ytd,"
                            + " budget_ytd, budget_gap]}`");
        }
        ReadLabels read = ReadLabels.of(grid.header());
        Map<String, Integer> categories = new LinkedHashMap<>();
        List<DateRange> days = new ArrayList<>();
        Map<List<Object>, Line> lines = new LinkedHashMap<>();
        double asOfAt = -0.5;
        boolean reachesAsOf = false;
        boolean period = grid.header().keys().get(time).kind() == Grid.AxisKind.PERIOD;
        for (int r = 0; r < grid.rows().size(); r++) {
            Grid.Row row = grid.rows().get(r);
            if (row.kind() != Grid.RowKind.LEAF) {
                continue;
            }
            int at = categories.computeIfAbsent(read.row(time, row.labels().get(time)), k -> categories.size());
            if (at == days.size()) {
                days.add(row.cellDays(columns.isEmpty() ? 0 : columns.get(0)));
            }
            double over = period ? over(grid, row.days()) : 1;
            boolean cut =
                    period && grid.header().cutPeriods().contains(row.labels().get(time));
            reachesAsOf |= over < 1 || cut && endsAtAsOf(grid, row.days());
            asOfAt = over > 0 ? Math.max(asOfAt, at - 0.5 + over) : asOfAt;
            String member = member(grid, row, time, read);
            for (int c : columns) {
                Grid.Column column = grid.columns().get(c);
                Line line = lines.computeIfAbsent(
                        List.of(c, member),
                        k -> new Line(label(column, member, read.member(column), columns.size()), member, c));
                if (beginsBeforeCoverage(column, row.cellDays(c)) || cut && at == 0) {
                    line.part = Math.max(line.part, at + 1);
                }
                if (over(grid, row.cellDays(c)) == 1 && (!cut || at == 0)) {
                    line.actual = Math.max(line.actual, at + 1);
                }
                line.rows.put(at, r);
            }
        }
        List<Series> series = lines.values().stream()
                .map(line -> line.series(grid, categories.size()))
                .filter(one -> one.values().stream().anyMatch(v -> v != null))
                .toList();
        boolean marked = reachesAsOf && asOfAt > -0.5 && series.stream().anyMatch(one -> !one.isOver());
        return new ChartData(
                chart.kind(),
                grid.title(),
                named(grid, time, List.copyOf(categories.keySet()), days),
                series,
                asOfAt,
                marked
                        ? grid.header()
                                .asOf()
                                .map(LocalFormat.of(grid.header().locale())::date)
                                .orElse("")
                        : "",
                List.of(),
                List.of(),
                grid.header().locale());
    }

    /** A series while its rows are found. */
    private static final class Line {
        final String label;
        final String member;
        final int column;
        final Map<Integer, Integer> rows = new LinkedHashMap<>();
        int part;
        int actual;

        Line(String label, String member, int column) {
            this.label = label;
            this.member = member;
            this.column = column;
        }

        Series series(Grid grid, int categories) {
            List<Double> values = new ArrayList<>();
            List<Integer> at = new ArrayList<>();
            for (int i = 0; i < categories; i++) {
                Integer row = rows.get(i);
                values.add(
                        row == null
                                ? null
                                : number(grid.rows().get(row).values().get(column)));
                at.add(row == null ? -1 : row);
            }
            return new Series(label, member, column, grid.columns().get(column), values, at, part, actual);
        }
    }

    /** Returns the names of months for places in the year that are months of every year, as those of a month-based calendar are. */
    private static List<String> named(Grid grid, int time, List<String> places, List<DateRange> days) {
        Grid.Key key = grid.header().keys().get(time);
        boolean months = key.kind() == Grid.AxisKind.OF_YEAR
                && !days.isEmpty()
                && days.stream().allMatch(ChartData::isMonth)
                && days.stream().map(d -> d.first().getMonth()).distinct().count() == days.size();
        if (!months) {
            return places;
        }
        return days.stream()
                .map(d -> d.first().getMonth())
                .map((Month month) -> month.getDisplayName(
                        TextStyle.SHORT_STANDALONE, grid.header().locale()))
                .toList();
    }

    private static boolean isMonth(DateRange days) {
        return !days.isEmpty()
                && days.first().getDayOfMonth() == 1
                && days.length() == days.first().lengthOfMonth();
    }

    private static boolean beginsBeforeCoverage(Grid.Column column, DateRange days) {
        return !days.isEmpty()
                && column.coveredFrom()
                        .map(first -> days.firstEpochDay() < EpochDays.of(first))
                        .orElse(false);
    }

    private static boolean endsAtAsOf(Grid grid, DateRange days) {
        return !days.isEmpty()
                && grid.header().asOf().filter(days.last()::equals).isPresent();
    }

    /** Returns how much of the days is over on the as-of date, from 0 to 1. */
    private static double over(Grid grid, DateRange days) {
        if (grid.header().asOf().isEmpty() || days.isEmpty()) {
            return 1;
        }
        return days.notAfter(EpochDays.of(grid.header().asOf().get())).length() / (double) days.length();
    }

    /** Returns the finest part of the rows that runs along the axis. */
    private static int timeKey(Grid grid, Chart chart) {
        Grid.AxisKind wanted = chart.kind() == Chart.Kind.YEARS ? Grid.AxisKind.OF_YEAR : Grid.AxisKind.PERIOD;
        for (Grid.AxisKind kind : List.of(wanted, Grid.AxisKind.OF_YEAR)) {
            for (int k = grid.header().keys().size() - 1; k >= 0; k--) {
                boolean years = chart.kind() != Chart.Kind.YEARS || kind == Grid.AxisKind.OF_YEAR;
                if (years && grid.header().keys().get(k).kind() == kind) {
                    return k;
                }
            }
        }
        throw ModelException.of(
                chart.kind() == Chart.Kind.YEARS
                        ? "a years chart needs a place in the year in its rows; write `rows: [month of year]` and `columns:"
                                + " [year]`"
                        : "a %s chart runs over time; put a level such as month in the rows",
                chart.kind().word());
    }

    private static String member(Grid grid, Grid.Row row, int time, ReadLabels read) {
        List<String> members = new ArrayList<>();
        for (int k = 0; k < row.labels().size(); k++) {
            Grid.AxisKind kind = grid.header().keys().get(k).kind();
            if (k != time && kind != Grid.AxisKind.PERIOD) {
                members.add(read.row(k, row.labels().get(k)));
            }
        }
        return String.join(" · ", members);
    }

    private static String label(Grid.Column column, String member, String key, int measures) {
        List<String> parts = new ArrayList<>();
        if (!member.isEmpty()) {
            parts.add(member);
        }
        if (!key.isEmpty()) {
            parts.add(key);
        }
        if (parts.isEmpty() || measures > 1 && column.member().isEmpty()) {
            parts.add(0, column.label());
        }
        return String.join(" · ", parts);
    }

    private static List<Integer> columns(Grid grid, Chart chart) {
        List<Integer> columns = new ArrayList<>();
        boolean percentages = false;
        for (String name : chart.show()) {
            for (int c = 0; c < grid.columns().size(); c++) {
                Grid.ColumnRole part = grid.columns().get(c).role();
                if (grid.columns().get(c).name().equals(name)
                        && (part == Grid.ColumnRole.MEASURE || part == Grid.ColumnRole.VALUE)) {
                    columns.add(c);
                }
            }
        }
        for (int c = 0; c < grid.columns().size() && chart.show().isEmpty(); c++) {
            Grid.Column column = grid.columns().get(c);
            // shares and amounts do not fit on one axis
            boolean alike = columns.isEmpty() || percentages == column.style().isPercentage();
            boolean one = chart.kind() == Chart.Kind.YEARS || chart.kind() == Chart.Kind.TREND;
            boolean first = columns.isEmpty()
                    || !one
                    || grid.columns().get(columns.get(0)).name().equals(column.name());
            if (column.role() != Grid.ColumnRole.STATUS && alike && first) {
                columns.add(c);
                percentages = column.style().isPercentage();
            }
        }
        return columns;
    }

    private static Double number(Value value) {
        return value.isBlank() ? null : value.toDouble();
    }

    // ---- by member

    private static List<Integer> leaves(Grid grid) {
        return IntStream.range(0, grid.rows().size())
                .filter(r -> grid.rows().get(r).kind() == Grid.RowKind.LEAF
                        || grid.rows().get(r).kind() == Grid.RowKind.REST)
                .filter(r -> !grid.rows().get(r).labels().isEmpty())
                .boxed()
                .toList();
    }

    /** Returns the last label of each row, with those before it if it occurs twice. */
    private static List<String> names(Grid grid, List<Integer> rows) {
        ReadLabels read = ReadLabels.of(grid.header());
        Map<String, Long> often =
                rows.stream().map(grid.rows()::get).collect(Collectors.groupingBy(read::last, Collectors.counting()));
        return rows.stream()
                .map(grid.rows()::get)
                .map(row -> often.get(read.last(row)) > 1 ? read.path(row) : read.last(row))
                .toList();
    }

    private static Series bars(Grid grid, int column, List<Integer> rows) {
        return new Series(
                grid.columns().get(column).label(),
                "",
                column,
                grid.columns().get(column),
                rows.stream()
                        .map(r -> number(grid.rows().get(r).values().get(column)))
                        .collect(Collectors.toCollection(ArrayList::new)),
                rows,
                0,
                rows.size());
    }

    private static ChartData ranking(Grid grid, Chart chart) {
        int c = columns(grid, chart).get(0);
        List<Integer> ranked = leaves(grid).stream()
                .filter(r -> !grid.rows().get(r).values().get(c).isBlank())
                .sorted(Comparator.comparing(
                        (Integer r) -> -grid.rows().get(r).values().get(c).toDouble()))
                .toList();
        if (ranked.isEmpty()) {
            throw ModelException.of("a ranking chart has a bar for each member; put a dimension in the rows");
        }
        return new ChartData(
                chart.kind(),
                grid.title(),
                names(grid, ranked),
                List.of(bars(grid, c, ranked)),
                0,
                "",
                List.of(),
                unfinished(grid, ranked),
                grid.header().locale());
    }

    /** Returns for each row whether one of its periods is not over on the as-of date, unlike those of others. */
    private static List<Boolean> unfinished(Grid grid, List<Integer> rows) {
        List<Boolean> unfinished =
                rows.stream().map(r -> isUnfinished(grid, grid.rows().get(r))).toList();
        return unfinished.contains(false) ? unfinished : Collections.nCopies(rows.size(), false);
    }

    private static boolean isUnfinished(Grid grid, Grid.Row row) {
        return IntStream.range(0, row.labels().size())
                .filter(k -> grid.header().keys().get(k).kind() == Grid.AxisKind.PERIOD)
                .anyMatch(k -> grid.header().cutPeriods().contains(row.labels().get(k)) || over(grid, row.days()) < 1);
    }

    private static ChartData status(Grid grid, Chart chart) {
        int at = -1;
        for (int c = 0; c < grid.columns().size() && at < 0; c++) {
            boolean asked = chart.show().isEmpty()
                    || chart.show().contains(grid.columns().get(c).name());
            at = asked && grid.columns().get(c).role() == Grid.ColumnRole.VALUE ? c : at;
        }
        if (at < 0) {
            throw ModelException.of("a status chart draws a target; show one, such as `show: [growth_target]`");
        }
        int value = at;
        List<Integer> rows = chart.worstFirst() ? worstFirst(grid, value) : leaves(grid);
        return new ChartData(
                chart.kind(),
                grid.title(),
                names(grid, rows),
                List.of(bars(grid, value, rows), bars(grid, value + 1, rows)),
                0,
                "",
                rows.stream().map(r -> grid.rows().get(r).status(value + 2)).toList(),
                unfinished(grid, rows),
                grid.header().locale());
    }

    /** Returns the rows by their status, the worst first, then by how far they are from their goal; those without one come last. */
    private static List<Integer> worstFirst(Grid grid, int value) {
        Comparator<Integer> byStatus = Comparator.comparing(r -> grid.rows()
                .get(r)
                .status(value + 2)
                .map(status -> -status.ordinal())
                .orElse(1));
        return leaves(grid).stream()
                .sorted(byStatus.thenComparing(r -> goodness(grid.rows().get(r), value)))
                .toList();
    }

    /** Returns how far beyond its goal a value that met it is, or how far behind it another is, as a negative number. */
    private static double goodness(Grid.Row row, int value) {
        Value of = row.values().get(value);
        Value goal = row.values().get(value + 1);
        if (of.isBlank() || goal.isBlank() || goal.toDouble() == 0) {
            return 0;
        }
        double distance = Math.abs((of.toDouble() - goal.toDouble()) / goal.toDouble());
        return row.status(value + 2)
                        .filter(status -> status == TargetStatus.MET)
                        .isPresent()
                ? distance
                : -distance;
    }
}
