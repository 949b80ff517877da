package dev.mile.render.chart;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.internal.LocalFormat;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.render.layout.AxisLabels;
import dev.mile.render.layout.ChartColours;
import dev.mile.render.layout.ChartData;
import dev.mile.render.layout.ChartPicture;
import dev.mile.render.layout.NumberFormatter;
import dev.mile.render.layout.StatusText;
import dev.mile.render.layout.TextWidth;
import dev.mile.render.layout.Trend;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Font;
import java.awt.FontMetrics;
import java.awt.Graphics2D;
import java.awt.Paint;
import java.awt.RenderingHints;
import java.awt.Stroke;
import java.awt.geom.Rectangle2D;
import java.awt.image.BufferedImage;
import java.io.IOException;
import java.io.OutputStream;
import java.io.Writer;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import javax.imageio.stream.ImageOutputStream;
import javax.imageio.stream.MemoryCacheImageOutputStream;
import org.jfree.chart.JFreeChart;
import org.jfree.chart.LegendItemCollection;
import org.jfree.chart.axis.Axis;
import org.jfree.chart.axis.AxisLocation;
import org.jfree.chart.axis.AxisSpace;
import org.jfree.chart.axis.AxisState;
import org.jfree.chart.axis.CategoryAxis;
import org.jfree.chart.axis.NumberAxis;
import org.jfree.chart.axis.NumberTick;
import org.jfree.chart.axis.SymbolAxis;
import org.jfree.chart.axis.ValueAxis;
import org.jfree.chart.block.BlockBorder;
import org.jfree.chart.labels.CategoryItemLabelGenerator;
import org.jfree.chart.labels.ItemLabelAnchor;
import org.jfree.chart.labels.ItemLabelPosition;
import org.jfree.chart.plot.CategoryPlot;
import org.jfree.chart.plot.CombinedDomainXYPlot;
import org.jfree.chart.plot.DatasetRenderingOrder;
import org.jfree.chart.plot.Plot;
import org.jfree.chart.plot.PlotOrientation;
import org.jfree.chart.plot.ValueMarker;
import org.jfree.chart.plot.XYPlot;
import org.jfree.chart.renderer.category.BarRenderer;
import org.jfree.chart.renderer.category.LevelRenderer;
import org.jfree.chart.renderer.category.StandardBarPainter;
import org.jfree.chart.renderer.xy.StandardXYBarPainter;
import org.jfree.chart.renderer.xy.XYBarRenderer;
import org.jfree.chart.renderer.xy.XYLineAndShapeRenderer;
import org.jfree.chart.title.LegendTitle;
import org.jfree.chart.title.TextTitle;
import org.jfree.chart.ui.HorizontalAlignment;
import org.jfree.chart.ui.Layer;
import org.jfree.chart.ui.RectangleAnchor;
import org.jfree.chart.ui.RectangleEdge;
import org.jfree.chart.ui.RectangleInsets;
import org.jfree.chart.ui.TextAnchor;
import org.jfree.data.Range;
import org.jfree.data.category.CategoryDataset;
import org.jfree.data.category.DefaultCategoryDataset;
import org.jfree.data.xy.XYDataset;
import org.jfree.data.xy.XYSeries;
import org.jfree.data.xy.XYSeriesCollection;

/** Draws the chart of a grid as PNG or SVG. */
public final class GridChart {
    private static final int WIDTH = 1200;
    private static final int HEIGHT = 680;
    private static final int TICKS = 13;

    /** Points between two labels, and about how many of its width a drawing needs beside its plot. */
    private static final int APART = 18;

    private static final int MARGINS = 140;

    private final ChartData data;
    private final int width;

    /** Whether it is one of many: what all have in common is said once beside them. */
    private final boolean small;

    private GridChart(ChartData data, int width) {
        this.data = data;
        this.width = width;
        this.small = width < WIDTH;
    }

    /**
     * Writes the picture, 1,200 by 680 points at double density.
     *
     * @param grid the report that was computed
     * @param out where it is written
     * @throws MileException if the grid has not what its kind of chart needs
     * @throws IOException if it cannot be written
     */
    public static void png(Grid grid, OutputStream out) throws IOException {
        requireNonNull(grid, "grid is null");
        requireNonNull(out, "out is null");
        ChartPicture picture = ChartPicture.of(grid);
        BufferedImage image = new BufferedImage(2 * WIDTH, 2 * HEIGHT, BufferedImage.TYPE_INT_RGB);
        Graphics2D graphics = image.createGraphics();
        graphics.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
        graphics.setRenderingHint(RenderingHints.KEY_TEXT_ANTIALIASING, RenderingHints.VALUE_TEXT_ANTIALIAS_ON);
        graphics.scale(2, 2);
        draw(picture, graphics);
        graphics.dispose();
        // in memory: the library's own file for this would be one more that can fail
        try (ImageOutputStream stream = new MemoryCacheImageOutputStream(out)) {
            ImageIO.write(image, "png", stream);
        }
    }

    /**
     * Writes the drawing as SVG, as {@link #png} does.
     *
     * @param grid the report that was computed
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void svg(Grid grid, Writer out) throws IOException {
        requireNonNull(grid, "grid is null");
        requireNonNull(out, "out is null");
        out.write("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
        ChartPicture picture = ChartPicture.of(grid);
        SvgDrawing drawing = SvgDrawing.of(WIDTH, HEIGHT);
        draw(picture, drawing);
        out.write(drawing.element(TextWidth.sanitizeControls("Chart: " + grid.title() + ", " + picture.legend())));
    }

    private static void draw(ChartPicture picture, Graphics2D graphics) {
        if (picture.panels().size() == 1) {
            JFreeChart chart = new GridChart(picture.panels().get(0).data(), WIDTH).chart();
            chart.setTitle(title(picture.title(), 20));
            note(chart, picture.note());
            chart.draw(graphics, new Rectangle2D.Double(0, 0, WIDTH, HEIGHT));
        } else {
            drawPanels(picture, graphics);
        }
    }

    // ---- small multiples

    private static final int HEAD = 84;
    private static final int FOOT = 34;
    private static final int EDGE = 22;

    /** Draws a chart for each member, all to the same scale, under one title and one legend. */
    private static void drawPanels(ChartPicture picture, Graphics2D graphics) {
        graphics.setPaint(ChartTheme.GROUND);
        graphics.fill(new Rectangle2D.Double(0, 0, WIDTH, HEIGHT));
        graphics.setFont(ChartTheme.font(Font.BOLD, 20));
        graphics.setPaint(ChartTheme.INK);
        graphics.drawString(picture.title(), EDGE, 38);
        List<ChartPicture.Panel> panels = picture.panels();
        int across = panels.size() <= 4 ? 2 : panels.size() <= 6 ? 3 : 4;
        int down = (panels.size() + across - 1) / across;
        double wide = (WIDTH - EDGE) / (double) across;
        double high = (HEIGHT - HEAD - FOOT) / (double) down;
        List<JFreeChart> charts = panels.stream()
                .map(panel -> {
                    JFreeChart chart = new GridChart(panel.data(), (int) wide).chart();
                    chart.setTitle(title(panel.member(), 14));
                    chart.setPadding(new RectangleInsets(4, 8, 4, 10));
                    return chart;
                })
                .toList();
        drawLegend(charts.get(0), graphics);
        alignScales(charts);
        for (int i = 0; i < charts.size(); i++) {
            charts.get(i).removeLegend();
            charts.get(i)
                    .draw(
                            graphics,
                            new Rectangle2D.Double(
                                    EDGE / 2.0 + i % across * wide, HEAD + i / across * high, wide, high));
        }
        graphics.setFont(ChartTheme.font(Font.PLAIN, 13));
        graphics.setPaint(ChartTheme.QUIET);
        ChartData any = panels.get(0).data();
        String unit = any.series().get(0).column().style().describe();
        String common = Stream.of(unit, any.asOf().isEmpty() ? "" : "dotted line: as of " + any.asOf(), picture.note())
                .filter(words -> !words.isEmpty())
                .collect(Collectors.joining("; "));
        graphics.drawString(common, EDGE, HEIGHT - 12);
    }

    private static void drawLegend(JFreeChart chart, Graphics2D graphics) {
        graphics.setFont(ChartTheme.font(Font.PLAIN, 14));
        float x = EDGE;
        LegendItemCollection items = chart.getPlot().getLegendItems();
        for (int i = 0; i < items.getItemCount(); i++) {
            graphics.setPaint(
                    items.get(i).isLineVisible()
                            ? items.get(i).getLinePaint()
                            : items.get(i).getFillPaint());
            graphics.fill(new Rectangle2D.Float(x, 58, 22, 4));
            graphics.setPaint(ChartTheme.INK);
            graphics.drawString(items.get(i).getLabel(), x + 30, 65);
            x += 56 + graphics.getFontMetrics().stringWidth(items.get(i).getLabel());
        }
    }

    /** Gives all charts the widest of their ranges, so that they can be compared. */
    private static void alignScales(List<JFreeChart> charts) {
        for (int axis = 0; axis < rangeAxes(charts.get(0)).size(); axis++) {
            int at = axis;
            Range range = charts.stream()
                    .map(chart -> rangeAxes(chart).get(at).getRange())
                    .reduce(Range::combine)
                    .orElseThrow();
            charts.forEach(chart -> rangeAxes(chart).get(at).setRange(range));
        }
    }

    private static List<ValueAxis> rangeAxes(JFreeChart chart) {
        if (chart.getPlot() instanceof CombinedDomainXYPlot combined) {
            List<ValueAxis> axes = new ArrayList<>();
            for (Object plot : combined.getSubplots()) {
                axes.add(((XYPlot) plot).getRangeAxis());
            }
            return axes;
        }
        return List.of(chart.getXYPlot().getRangeAxis());
    }

    private static TextTitle title(String text, int size) {
        TextTitle title = new TextTitle(text, ChartTheme.font(Font.BOLD, size));
        title.setPaint(ChartTheme.INK);
        title.setHorizontalAlignment(HorizontalAlignment.LEFT);
        title.setPosition(RectangleEdge.TOP);
        title.setMargin(0, 4, 6, 0);
        return title;
    }

    private static void note(JFreeChart chart, String text) {
        if (!text.isEmpty()) {
            TextTitle note = new TextTitle(text, ChartTheme.font(Font.PLAIN, 13));
            note.setPaint(ChartTheme.QUIET);
            note.setPosition(RectangleEdge.BOTTOM);
            note.setHorizontalAlignment(HorizontalAlignment.LEFT);
            chart.addSubtitle(note);
        }
    }

    private JFreeChart chart() {
        JFreeChart chart =
                switch (data.kind()) {
                    case RANKING, STATUS -> bars();
                    case GAP -> gap();
                    default -> lines();
                };
        chart.setBackgroundPaint(ChartTheme.GROUND);
        chart.setPadding(new RectangleInsets(14, 18, 12, 24));
        return chart;
    }

    private void legend(JFreeChart chart) {
        LegendTitle legend = chart.getLegend();
        legend.setPosition(RectangleEdge.TOP);
        legend.setHorizontalAlignment(HorizontalAlignment.LEFT);
        legend.setFrame(BlockBorder.NONE);
        legend.setBackgroundPaint(ChartTheme.GROUND);
        legend.setItemFont(ChartTheme.font(Font.PLAIN, 14));
        legend.setItemPaint(ChartTheme.INK);
        legend.setItemLabelPadding(new RectangleInsets(2, 4, 2, 16));
        legend.setMargin(0, 0, 8, 0);
    }

    // ---- axes

    private int ticks() {
        return small ? 11 : TICKS;
    }

    private void stylePlainAxis(Axis axis) {
        axis.setTickLabelFont(ChartTheme.font(Font.PLAIN, ticks()));
        axis.setTickLabelPaint(ChartTheme.QUIET);
        axis.setLabelFont(ChartTheme.font(Font.PLAIN, 13));
        axis.setLabelPaint(ChartTheme.QUIET);
        axis.setAxisLinePaint(ChartTheme.LINES);
        axis.setTickMarksVisible(false);
    }

    /** Labels in two lines: what differs, and under it, once, what labels have in common. */
    private SymbolAxis categories() {
        AxisLabels words = AxisLabels.of(data.categories());
        String[] labels = thinned(words.ticks());
        boolean grouped = words.groups().stream().anyMatch(group -> !group.isEmpty());
        SymbolAxis axis = new SymbolAxis(null, labels) {
            private static final long serialVersionUID = 1L;

            @Override
            protected List<NumberTick> refreshTicksHorizontal(
                    Graphics2D graphics, Rectangle2D area, RectangleEdge edge) {
                return IntStream.range(0, labels.length)
                        .filter(i -> !labels[i].isEmpty())
                        .mapToObj(i -> new NumberTick(i, labels[i], TextAnchor.TOP_CENTER, TextAnchor.CENTER, 0))
                        .toList();
            }

            @Override
            protected AxisState drawTickMarksAndLabels(
                    Graphics2D graphics, double cursor, Rectangle2D plot, Rectangle2D area, RectangleEdge edge) {
                AxisState state = super.drawTickMarksAndLabels(graphics, cursor, plot, area, edge);
                if (grouped) {
                    drawGroups(graphics, state.getCursor(), area, edge);
                    state.cursorDown(GROUP);
                }
                return state;
            }

            private void drawGroups(Graphics2D graphics, double top, Rectangle2D area, RectangleEdge edge) {
                graphics.setFont(ChartTheme.font(Font.BOLD, ticks()));
                graphics.setPaint(ChartTheme.QUIET);
                double free = -Double.MAX_VALUE;
                for (int i = 0; i < words.groups().size(); i++) {
                    String group = words.groups().get(i);
                    double x = valueToJava2D(i, area, edge) - (i == 0 ? 12 : 0);
                    boolean begins = i == 0 || !group.equals(words.groups().get(i - 1));
                    if (begins && x > free) {
                        graphics.drawString(group, (float) x, (float) (top + GROUP - 4));
                        free = x + graphics.getFontMetrics().stringWidth(group) + APART / 2.0;
                    }
                }
            }

            @Override
            public AxisSpace reserveSpace(
                    Graphics2D graphics, Plot plot, Rectangle2D area, RectangleEdge edge, AxisSpace space) {
                AxisSpace all = super.reserveSpace(graphics, plot, area, edge, space);
                if (grouped) {
                    all.add(GROUP, edge);
                }
                return all;
            }
        };
        stylePlainAxis(axis);
        axis.setGridBandsVisible(false);
        axis.setLowerMargin(0);
        axis.setUpperMargin(0);
        return axis;
    }

    private static final int GROUP = 20;

    /** Returns the labels; of many, only as many as do not overlap. */
    private String[] thinned(List<String> ticks) {
        FontMetrics metrics = new BufferedImage(1, 1, BufferedImage.TYPE_INT_RGB)
                .createGraphics()
                .getFontMetrics(ChartTheme.font(Font.PLAIN, ticks()));
        int widest = ticks.stream().mapToInt(metrics::stringWidth).max().orElse(0);
        int step = Math.max(1, (int) Math.ceil(ticks.size() * (widest + APART) / (double) (width - MARGINS)));
        return IntStream.range(0, ticks.size())
                .mapToObj(i -> i % step == 0 ? ticks.get(i) : "")
                .toArray(String[]::new);
    }

    private NumberAxis numbers(Grid.Column column) {
        String unit = column.style().describe();
        NumberAxis axis = new NumberAxis(unit.isEmpty() || small ? null : unit);
        stylePlainAxis(axis);
        axis.setAxisLineVisible(false);
        // room between the lines
        int above = small ? 3 : 9;
        axis.setTickLabelInsets(new RectangleInsets(above, 4, above, 6));
        axis.setNumberFormatOverride(
                LocalFormat.of(data.locale()).numbers(column.style().isPercentage() ? "0.#%" : "#,##0.##"));
        return axis;
    }

    /** Zero is on the axis unless the values lie far from it and close together. */
    private void includeZero(NumberAxis axis, List<ChartData.Series> series) {
        double least = Double.MAX_VALUE;
        double most = -Double.MAX_VALUE;
        for (ChartData.Series one : series) {
            for (Double value : one.values()) {
                if (value != null) {
                    least = Math.min(least, value);
                    most = Math.max(most, value);
                }
            }
        }
        boolean close = least > 0 && least > 0.7 * most && least < most;
        axis.setAutoRangeIncludesZero(!close);
        axis.setAutoRangeStickyZero(true);
    }

    private void styleFrame(XYPlot plot) {
        plot.setBackgroundPaint(ChartTheme.GROUND);
        plot.setOutlineVisible(false);
        plot.setRangeGridlinePaint(ChartTheme.LINES);
        plot.setRangeGridlineStroke(ChartTheme.THIN);
        plot.setDomainGridlinesVisible(false);
        plot.setAxisOffset(RectangleInsets.ZERO_INSETS);
    }

    // ---- lines

    private XYDataset points(List<ChartData.Series> series) {
        XYSeriesCollection points = new XYSeriesCollection();
        for (int s = 0; s < series.size(); s++) {
            ChartData.Series one = series.get(s);
            XYSeries line = new XYSeries(one.label() + zeroWidth(s));
            for (int i = 0; i < one.values().size(); i++) {
                Double value = one.values().get(i);
                // a blank breaks the line
                line.add(i, value == null ? Double.NaN : one.scaled(value));
            }
            points.addSeries(line);
        }
        return points;
    }

    /** Two series may read alike; their keys may not be equal. */
    private static String zeroWidth(int series) {
        return "\u200B".repeat(series);
    }

    private XYLineAndShapeRenderer lineRenderer(int count) {
        boolean marked = !small && data.categories().size() <= ChartColours.MOST_MARKED;
        XYLineAndShapeRenderer renderer = new XYLineAndShapeRenderer(true, marked) {
            private static final long serialVersionUID = 1L;

            @Override
            public Stroke getItemStroke(int series, int item) {
                // the stretch that ends after the as-of date is to come
                return item >= data.series().get(series).actual() ? ChartTheme.DASHED : ChartTheme.SOLID;
            }

            @Override
            public boolean getItemShapeVisible(int series, int item) {
                return marked || alone(series, item);
            }

            /** A point between blanks has no line and would not be seen. */
            private boolean alone(int series, int item) {
                return blank(series, item - 1) && blank(series, item + 1) && !blank(series, item);
            }

            private boolean blank(int series, int item) {
                XYDataset points = getPlot().getDataset();
                return item < 0 || item >= points.getItemCount(series) || Double.isNaN(points.getYValue(series, item));
            }
        };
        for (int s = 0; s < count; s++) {
            renderer.setSeriesPaint(s, ChartTheme.colour(s));
            renderer.setSeriesShape(s, ChartTheme.mark(s));
        }
        renderer.setLegendLine(new java.awt.geom.Line2D.Double(-14, 0, 14, 0));
        return renderer;
    }

    private void asOf(XYPlot plot, boolean labelled) {
        if (data.asOf().isEmpty()) {
            return;
        }
        ValueMarker marker = new ValueMarker(data.asOfAt(), ChartTheme.QUIET, ChartTheme.DOTTED);
        if (labelled && !small) {
            marker.setLabel("as of " + data.asOf());
            marker.setLabelFont(ChartTheme.font(Font.PLAIN, 13));
            marker.setLabelPaint(ChartTheme.QUIET);
            marker.setLabelBackgroundColor(ChartTheme.NOTHING);
            boolean late = data.asOfAt() > data.categories().size() * 3 / 4;
            marker.setLabelAnchor(late ? RectangleAnchor.TOP_LEFT : RectangleAnchor.TOP_RIGHT);
            marker.setLabelTextAnchor(late ? TextAnchor.TOP_RIGHT : TextAnchor.TOP_LEFT);
            marker.setLabelOffset(new RectangleInsets(4, 6, 0, 6));
        }
        plot.addDomainMarker(marker, Layer.BACKGROUND);
    }

    private JFreeChart lines() {
        List<ChartData.Series> series = data.series();
        if (series.isEmpty()) {
            throw ModelException.of("there is nothing to draw: the report has no rows");
        }
        NumberAxis range = numbers(series.get(0).column());
        includeZero(range, series);
        range.setUpperMargin(0.1);
        XYPlot plot = new XYPlot(points(series), categories(), range, lineRenderer(series.size()));
        styleFrame(plot);
        plot.getDomainAxis().setRange(-0.5, data.categories().size() - 0.5);
        asOf(plot, true);
        if (data.kind() == Chart.Kind.TREND) {
            trends(plot);
        }
        JFreeChart chart = new JFreeChart(null, ChartTheme.font(Font.BOLD, 20), plot, true);
        legend(chart);
        return chart;
    }

    /** Draws the best line and the best curve of each series, and puts their equations beside them. */
    private void trends(XYPlot plot) {
        XYSeriesCollection fits = new XYSeriesCollection();
        XYLineAndShapeRenderer renderer = new XYLineAndShapeRenderer(true, false);
        int line = 0;
        for (int s = 0; s < data.series().size(); s++) {
            ChartData.Series series = data.series().get(s);
            for (Trend trend : Trend.of(series)) {
                String kind = trend.exponential() ? "exponential" : "linear";
                XYSeries fit = new XYSeries(
                        series.label() + ", " + kind + ": " + trend.equation(data.locale()) + zeroWidth(s));
                for (int i = 0; i < data.categories().size(); i++) {
                    fit.add(i, trend.at(i + 1));
                }
                fits.addSeries(fit);
                renderer.setSeriesPaint(line, ChartTheme.colour(s));
                renderer.setSeriesStroke(line, trend.exponential() ? ChartTheme.DOTTED : ChartTheme.THIN);
                line++;
            }
        }
        plot.setDataset(1, fits);
        plot.setRenderer(1, renderer);
    }

    // ---- a gap

    private JFreeChart gap() {
        List<ChartData.Series> lines = data.series().subList(0, 2);
        List<ChartData.Series> columns = data.series().subList(2, 3);
        NumberAxis upper = numbers(lines.get(0).column());
        includeZero(upper, lines);
        XYPlot above = new XYPlot(points(lines), null, upper, lineRenderer(2));
        XYBarRenderer bars = new XYBarRenderer(0.35) {
            private static final long serialVersionUID = 1L;

            @Override
            public Paint getItemPaint(int series, int item) {
                Color colour = getPlot().getDataset().getYValue(series, item) < 0
                        ? ChartTheme.colour(1)
                        : ChartTheme.colour(2);
                return isOpen(item) ? ChartTheme.pale(colour) : colour;
            }

            @Override
            public Paint getItemOutlinePaint(int series, int item) {
                double value = getPlot().getDataset().getYValue(series, item);
                return isOpen(item) ? ChartTheme.colour(value < 0 ? 1 : 2) : ChartTheme.NOTHING;
            }

            @Override
            public Stroke getItemOutlineStroke(int series, int item) {
                return ChartTheme.DASHED_THIN;
            }

            /** Returns whether the period is not over: its bar is dashed, as lines are. */
            private boolean isOpen(int item) {
                return item >= columns.get(0).actual();
            }
        };
        bars.setDrawBarOutline(true);
        bars.setBarPainter(new StandardXYBarPainter());
        bars.setShadowVisible(false);
        bars.setDefaultLegendShape(new Rectangle2D.Double(-5, -5, 10, 10));
        bars.setSeriesPaint(0, ChartTheme.colour(2));
        NumberAxis lower = numbers(columns.get(0).column());
        lower.setLabel(small ? null : columns.get(0).label());
        XYPlot below = new XYPlot(columns(columns.get(0)), null, lower, bars);
        below.setRangeZeroBaselineVisible(true);
        below.setRangeZeroBaselinePaint(ChartTheme.QUIET);
        SymbolAxis domain = categories();
        CombinedDomainXYPlot both = new CombinedDomainXYPlot(domain);
        both.setGap(small ? 8 : 18);
        both.add(above, small ? 2 : 3);
        both.add(below, 1);
        styleFrame(above);
        styleFrame(below);
        both.setBackgroundPaint(ChartTheme.GROUND);
        both.setOutlineVisible(false);
        domain.setRange(-0.5, data.categories().size() - 0.5);
        asOf(above, true);
        asOf(below, false);
        JFreeChart chart = new JFreeChart(null, ChartTheme.font(Font.BOLD, 20), both, true);
        legend(chart);
        return chart;
    }

    private static XYDataset columns(ChartData.Series series) {
        XYSeriesCollection points = new XYSeriesCollection();
        points.setIntervalWidth(1);
        XYSeries line = new XYSeries(series.label());
        for (int i = 0; i < series.values().size(); i++) {
            Double value = series.values().get(i);
            line.add(i, value == null ? Double.NaN : series.scaled(value));
        }
        points.addSeries(line);
        return points;
    }

    // ---- bars

    private JFreeChart bars() {
        ChartData.Series values = data.series().get(0);
        NumberFormatter words = NumberFormatter.of(
                values.column(),
                values.values().stream()
                        .map(v -> v == null ? Value.UNKNOWN : Value.of(v))
                        .toList(),
                data.locale());
        DefaultCategoryDataset dataset = new DefaultCategoryDataset();
        for (int i = 0; i < data.categories().size(); i++) {
            Double value = values.values().get(i);
            dataset.addValue(value == null ? null : values.scaled(value), values.label(), category(i));
        }
        CategoryAxis names = new CategoryAxis();
        stylePlainAxis(names);
        names.setTickLabelPaint(ChartTheme.INK);
        names.setMaximumCategoryLabelWidthRatio(0.4f);
        NumberAxis range = numbers(values.column());
        range.setUpperMargin(0.18);
        range.setLowerMargin(0.12);
        CategoryPlot plot = new CategoryPlot(dataset, names, range, barRenderer(values, words));
        plot.setOrientation(PlotOrientation.HORIZONTAL);
        plot.setBackgroundPaint(ChartTheme.GROUND);
        plot.setOutlineVisible(false);
        plot.setRangeGridlinePaint(ChartTheme.LINES);
        plot.setRangeGridlineStroke(ChartTheme.THIN);
        plot.setRangeZeroBaselineVisible(true);
        plot.setRangeZeroBaselinePaint(ChartTheme.QUIET);
        plot.setRangeAxisLocation(AxisLocation.BOTTOM_OR_LEFT);
        boolean goals = data.kind() == Chart.Kind.STATUS;
        if (goals) {
            goals(plot, data.series().get(1));
            labels(plot, values, words);
        }
        JFreeChart chart = new JFreeChart(null, ChartTheme.font(Font.BOLD, 20), plot, goals);
        if (goals) {
            legend(chart);
        } else if (range.getLabel() == null) {
            range.setLabel(values.label());
        }
        return chart;
    }

    private String category(int i) {
        return data.categories().get(i) + zeroWidth(i);
    }

    private BarRenderer barRenderer(ChartData.Series values, NumberFormatter words) {
        BarRenderer renderer = new BarRenderer() {
            private static final long serialVersionUID = 1L;

            @Override
            public Paint getItemPaint(int row, int column) {
                Color colour = barColour(values, column);
                return data.unfinished().get(column) ? ChartTheme.pale(colour) : colour;
            }

            @Override
            public Paint getItemOutlinePaint(int row, int column) {
                return data.unfinished().get(column) ? barColour(values, column) : ChartTheme.NOTHING;
            }

            @Override
            public Stroke getItemOutlineStroke(int row, int column) {
                return ChartTheme.DASHED_THIN;
            }
        };
        renderer.setDrawBarOutline(true);
        renderer.setBarPainter(new StandardBarPainter());
        renderer.setShadowVisible(false);
        renderer.setMaximumBarWidth(0.06);
        renderer.setSeriesPaint(0, ChartTheme.QUIET);
        if (data.kind() == Chart.Kind.RANKING) {
            label(renderer, values, words);
        }
        return renderer;
    }

    private Color barColour(ChartData.Series values, int bar) {
        if (data.kind() == Chart.Kind.STATUS) {
            return data.statuses().get(bar).map(ChartTheme::colour).orElse(ChartTheme.QUIET);
        }
        Double value = values.values().get(bar);
        return value != null && value < 0 ? ChartTheme.colour(1) : ChartTheme.colour(0);
    }

    private void label(BarRenderer renderer, ChartData.Series values, NumberFormatter words) {
        renderer.setDefaultItemLabelsVisible(true);
        renderer.setDefaultItemLabelFont(ChartTheme.font(Font.PLAIN, 13));
        renderer.setDefaultItemLabelPaint(ChartTheme.INK);
        renderer.setDefaultPositiveItemLabelPosition(
                new ItemLabelPosition(ItemLabelAnchor.OUTSIDE3, TextAnchor.CENTER_LEFT));
        renderer.setDefaultNegativeItemLabelPosition(
                new ItemLabelPosition(ItemLabelAnchor.OUTSIDE9, TextAnchor.CENTER_RIGHT));
        renderer.setItemLabelInsets(new RectangleInsets(0, 8, 0, 8));
        renderer.setDefaultItemLabelGenerator(new Labels(values, words, data.statuses()));
    }

    /** Puts the numbers after the longer of the bar and its goal. */
    private void labels(CategoryPlot plot, ChartData.Series values, NumberFormatter words) {
        DefaultCategoryDataset ends = new DefaultCategoryDataset();
        for (int i = 0; i < data.categories().size(); i++) {
            Double value = values.values().get(i);
            Double against = data.series().get(1).values().get(i);
            boolean farther = value != null && against != null && Math.abs(against) > Math.abs(value);
            Double end = farther && against * value > 0 ? against : value;
            ends.addValue(end == null ? null : values.scaled(end), "", category(i));
        }
        BarRenderer unseen = new BarRenderer();
        unseen.setSeriesPaint(0, ChartTheme.NOTHING);
        unseen.setBarPainter(new StandardBarPainter());
        unseen.setShadowVisible(false);
        unseen.setMaximumBarWidth(0.06);
        unseen.setSeriesVisibleInLegend(0, false);
        label(unseen, values, words);
        plot.setDataset(2, ends);
        plot.setRenderer(2, unseen);
    }

    /** The text beside a bar: the number, and the sign and word of its status. */
    private record Labels(ChartData.Series values, NumberFormatter words, List<Optional<TargetStatus>> statuses)
            implements CategoryItemLabelGenerator {
        @Override
        public String generateRowLabel(CategoryDataset dataset, int row) {
            return "";
        }

        @Override
        public String generateColumnLabel(CategoryDataset dataset, int column) {
            return "";
        }

        @Override
        public String generateLabel(CategoryDataset dataset, int row, int column) {
            Double value = values.values().get(column);
            String number = value == null ? "" : words.of(Value.of(value));
            Optional<TargetStatus> status = statuses.isEmpty() ? Optional.empty() : statuses.get(column);
            return number + status.map(s -> "  " + StatusText.of(s)).orElse("");
        }
    }

    /** Marks the goal of each value by a stroke across its bar. */
    private void goals(CategoryPlot plot, ChartData.Series against) {
        DefaultCategoryDataset goals = new DefaultCategoryDataset();
        for (int i = 0; i < data.categories().size(); i++) {
            Double value = against.values().get(i);
            goals.addValue(value == null ? null : against.scaled(value), against.label(), category(i));
        }
        LevelRenderer renderer = new LevelRenderer();
        renderer.setSeriesPaint(0, ChartTheme.INK);
        renderer.setSeriesStroke(0, new BasicStroke(3f));
        renderer.setMaximumItemWidth(0.08);
        plot.setDataset(1, goals);
        plot.setRenderer(1, renderer);
        plot.setDatasetRenderingOrder(DatasetRenderingOrder.FORWARD);
    }
}
