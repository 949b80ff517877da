package dev.mile.render;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.internal.EpochDays;
import dev.mile.internal.LocalFormat;
import dev.mile.internal.Messages;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;

/**
 * What a chart of a grid shows, before it is drawn: the same for pictures, pages and workbooks.
 *
 * @param kind the kind
 * @param title the title of the report
 * @param categories the labels along the axis
 * @param series the values, all as long as the categories
 * @param asOfAt the position of the as-of date among the categories, the middle of the first at 0
 * @param asOf the as-of date in words; empty where it falls outside the chart
 * @param statuses by category, for targets; else empty
 * @param note what was left out; empty for nothing
 * @param locale the language of numbers
 */
record ChartData(
        Chart.Kind kind,
        String title,
        List<String> categories,
        List<Series> series,
        double asOfAt,
        String asOf,
        List<Optional<TargetStatus>> statuses,
        String note,
        Locale locale) {
    /** Beyond this number, lines cannot be distinguished and bars cannot be read. */
    private static final int MOST_SERIES = 8;

    private static final int MOST_BARS = 24;

    /**
     * Values by category; null for a blank.
     *
     * @param label how people read it
     * @param column the column of the grid, for its format
     * @param part how many of the values, from the first, are of periods whose first days are not covered or not shown
     * @param actual how many of the values, from the first, are of periods that are over on the as-of date and shown to their end; all of
     *     them where categories are no periods
     */
    record Series(String label, Grid.Column column, List<Double> values, int part, int actual) {
        /** Returns whether all values are of periods that are over. */
        boolean isOver() {
            return actual >= values.size();
        }

        /** Returns the values of whole periods that are over, what a trend is fitted to; others are blank. */
        List<Double> whole() {
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
    static ChartData of(Grid grid, Chart chart) {
        return switch (chart.kind()) {
            case RANKING -> ranking(grid, chart);
            case STATUS -> status(grid, chart);
            default -> overTime(grid, chart);
        };
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
        Map<String, Map<Integer, Double>> found = new LinkedHashMap<>();
        Map<String, Grid.Column> columnOf = new LinkedHashMap<>();
        Map<String, Integer> part = new LinkedHashMap<>();
        Map<String, Integer> actual = new LinkedHashMap<>();
        double asOfAt = -0.5;
        boolean reachesAsOf = false;
        boolean period = grid.header().keys().get(time).kind() == Grid.AxisKind.PERIOD;
        for (Grid.Row row : grid.rows()) {
            if (row.kind() != Grid.RowKind.LEAF) {
                continue;
            }
            int at = categories.computeIfAbsent(read.row(time, row.labels().get(time)), k -> categories.size());
            double over = period ? over(grid, row.days()) : 1;
            boolean cut =
                    period && grid.header().cutPeriods().contains(row.labels().get(time));
            reachesAsOf |= over < 1 || cut && endsAtAsOf(grid, row.days());
            asOfAt = over > 0 ? Math.max(asOfAt, at - 0.5 + over) : asOfAt;
            String member = member(grid, row, time, read);
            for (int c : columns) {
                Grid.Column column = grid.columns().get(c);
                String label = label(column, member, read.member(column), columns.size());
                columnOf.putIfAbsent(label, column);
                if (beginsBeforeCoverage(column, row.cellDays(c)) || cut && at == 0) {
                    part.merge(label, at + 1, Math::max);
                }
                if (over(grid, row.cellDays(c)) == 1 && (!cut || at == 0)) {
                    actual.merge(label, at + 1, Math::max);
                }
                found.computeIfAbsent(label, l -> new LinkedHashMap<>())
                        .put(at, number(row.values().get(c)));
            }
        }
        List<Series> series = new ArrayList<>();
        found.values().removeIf(values -> values.values().stream().allMatch(v -> v == null));
        found.forEach((label, values) -> {
            List<Double> all = new ArrayList<>();
            for (int i = 0; i < categories.size(); i++) {
                all.add(values.get(i));
            }
            series.add(new Series(
                    label, columnOf.get(label), all, part.getOrDefault(label, 0), actual.getOrDefault(label, 0)));
        });
        String left = series.size() > MOST_SERIES ? (MOST_SERIES + " of " + series.size() + " lines drawn") : "";
        boolean marked = reachesAsOf && asOfAt > -0.5 && series.stream().anyMatch(one -> !one.isOver());
        return new ChartData(
                chart.kind(),
                grid.title(),
                List.copyOf(categories.keySet()),
                series.subList(0, Math.min(series.size(), MOST_SERIES)),
                asOfAt,
                marked ? grid.header()
                                .asOf()
                                .map(LocalFormat.of(grid.header().locale())::date)
                                .orElse("") : "",
                List.of(),
                left,
                grid.header().locale());
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

    private static List<Grid.Row> leaves(Grid grid) {
        return grid.rows().stream()
                .filter(r -> r.kind() == Grid.RowKind.LEAF || r.kind() == Grid.RowKind.REST)
                .filter(r -> !r.labels().isEmpty())
                .toList();
    }

    /** Returns the last label of each row, with those before it if it occurs twice. */
    private static List<String> names(List<Grid.Row> rows, ReadLabels read) {
        Map<String, Long> often = rows.stream()
                .collect(Collectors.groupingBy(r -> r.labels().get(r.labels().size() - 1), Collectors.counting()));
        return rows.stream()
                .map(r -> {
                    String last = r.labels().get(r.labels().size() - 1);
                    return often.get(last) > 1 ? read.path(r) : read.last(r);
                })
                .toList();
    }

    private static ChartData ranking(Grid grid, Chart chart) {
        List<Integer> columns = columns(grid, chart);
        int c = columns.get(0);
        List<Grid.Row> ranked = leaves(grid).stream()
                .filter(r -> !r.values().get(c).isBlank())
                .sorted(Comparator.comparing((Grid.Row r) -> -r.values().get(c).toDouble()))
                .toList();
        if (ranked.isEmpty()) {
            throw ModelException.of("a ranking chart has a bar for each member; put a dimension in the rows");
        }
        List<Grid.Row> drawn = ranked.subList(0, Math.min(MOST_BARS, ranked.size()));
        Series series = new Series(
                grid.columns().get(c).label(),
                grid.columns().get(c),
                drawn.stream().map(r -> number(r.values().get(c))).toList(),
                0,
                drawn.size());
        return new ChartData(
                chart.kind(), grid.title(), names(drawn, ReadLabels.of(grid.header())), List.of(series), 0, "", List.of(), left(ranked, drawn), grid.header().locale());
    }

    private static String left(List<Grid.Row> all, List<Grid.Row> drawn) {
        return all.size() > drawn.size()
                ? "the first " + drawn.size() + " of " + Messages.quantity(all.size(), "row") + " drawn"
                : "";
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
        List<Grid.Row> all = leaves(grid);
        List<Grid.Row> rows = all.subList(0, Math.min(MOST_BARS, all.size()));
        List<Series> series = new ArrayList<>();
        for (int c = value; c <= value + 1; c++) {
            int column = c;
            series.add(new Series(
                    grid.columns().get(c).label(),
                    grid.columns().get(c),
                    rows.stream().map(r -> number(r.values().get(column))).collect(Collectors.toList()),
                    0,
                    rows.size()));
        }
        List<Optional<TargetStatus>> statuses =
                rows.stream().map(r -> r.status(value + 2)).toList();
        return new ChartData(chart.kind(), grid.title(), names(rows, ReadLabels.of(grid.header())), series, 0, "", statuses, left(all, rows), grid.header().locale());
    }
}
