package dev.mile.render.layout;

import dev.mile.ModelException;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/**
 * What a picture of a chart shows of all that there is, since a picture cannot be asked: one drawing, or a small one for each member.
 *
 * @param title the title of the report
 * @param panels the drawings, at least one
 * @param note what is not drawn and how to see it; empty where all is
 */
public record ChartPicture(String title, List<Panel> panels, String note) {
    /** Beyond this number, lines of one drawing cannot be told apart, small drawings cannot be read, and neither can bars. */
    private static final int MOST_LINES = 8;

    private static final int MOST_PANELS = 12;
    private static final int MOST_BARS = 24;

    /**
     * A drawing.
     *
     * @param member the member that it is of; empty for all
     * @param data what it shows
     */
    public record Panel(String member, ChartData data) {}

    /**
     * Returns the picture of a report's chart.
     *
     * @throws dev.mile.MileException if the report has no chart, or not what its kind needs
     */
    public static ChartPicture of(Grid grid) {
        Chart chart = grid.header()
                .chart()
                .orElseThrow(() -> ModelException.of(
                        "the report has no chart; write `chart: lines` in the model, or use --chart lines"));
        ChartData data = ChartData.of(grid, chart);
        return switch (data.kind()) {
            case RANKING, STATUS -> bars(data);
            default -> lines(data);
        };
    }

    private static ChartPicture bars(ChartData data) {
        int bars = data.categories().size();
        if (bars <= MOST_BARS) {
            return new ChartPicture(data.title(), List.of(new Panel("", data)), "");
        }
        int between = bars - MOST_BARS;
        return new ChartPicture(
                data.title(),
                List.of(new Panel("", data.withGap(MOST_BARS / 2, MOST_BARS / 2 + between))),
                "The first and the last " + MOST_BARS / 2 + " of " + bars + " rows are drawn, " + between
                        + " lie between.");
    }

    private static ChartPicture lines(ChartData data) {
        if (data.series().isEmpty()) {
            throw ModelException.of("there is nothing to draw: the report has no rows");
        }
        Map<String, List<ChartData.Series>> byMember = data.byMember();
        boolean together = data.kind() != Chart.Kind.GAP && data.series().size() <= MOST_LINES;
        if (together || byMember.size() == 1) {
            int drawn = Math.min(MOST_LINES, data.series().size());
            return new ChartPicture(
                    data.title(),
                    List.of(new Panel("", data.withSeries(data.series().subList(0, drawn)))),
                    drawn < data.series().size()
                            ? drawn + " of " + data.series().size()
                                    + " lines are drawn; name those to draw in the chart's `show`."
                            : "");
        }
        List<Panel> panels = new ArrayList<>();
        byMember.forEach((member, series) -> {
            if (panels.size() < MOST_PANELS) {
                // what the panel says need not stand at each of its lines
                panels.add(new Panel(
                        member,
                        data.withSeries(series.stream()
                                .limit(MOST_LINES)
                                .map(one -> one.withoutMember())
                                .toList())));
            }
        });
        return new ChartPicture(
                data.title(),
                panels,
                panels.size() < byMember.size()
                        ? panels.size() + " of " + byMember.size()
                                + " members are drawn; choose others with --where, or in a page (-o report.html)."
                        : "");
    }

    /** Returns the labels of what is drawn. */
    public String legend() {
        return panels.stream()
                .flatMap(panel -> panel.data().series().stream().map(ChartData.Series::label))
                .distinct()
                .collect(Collectors.joining(", "));
    }
}
