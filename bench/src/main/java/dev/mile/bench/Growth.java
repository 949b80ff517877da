package dev.mile.bench;

import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Table;
import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import dev.mile.report.Project;
import dev.mile.report.Session;
import java.awt.BasicStroke;
import java.awt.Color;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.text.DecimalFormat;
import java.text.DecimalFormatSymbols;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.SplittableRandom;
import java.util.TreeMap;
import org.jfree.chart.ChartUtils;
import org.jfree.chart.JFreeChart;
import org.jfree.chart.axis.LogarithmicAxis;
import org.jfree.chart.plot.XYPlot;
import org.jfree.chart.renderer.xy.XYLineAndShapeRenderer;
import org.jfree.data.xy.XYSeries;
import org.jfree.data.xy.XYSeriesCollection;

/**
 * How the time of a report grows with rows, groups, days, day buckets, measures and members of a lookup, rows in arrays: medians of five, the exponent of the
 * best power law through them, and a picture with both axes logarithmic.
 *
 * <p>Argument: the picture.
 */
public final class Growth {
    private static final int ROUNDS = 5;
    private static final int ROWS = 2_000_000;
    private static final int GROUPS = 200;
    private static final int DAYS = 2_192;
    private static final int REGIONS = 20;

    private final Map<String, Map<Double, Double>> curves = new LinkedHashMap<>();

    private Growth() {}

    /** Measures, prints and draws. */
    public static void main(String[] args) throws IOException {
        Growth growth = new Growth();
        for (int warm = 0; warm < 3; warm++) {
            growth.time("warm", 1, ROWS, GROUPS, DAYS, "more");
        }
        growth.curves.clear();
        for (int rows = 500_000; rows <= 8_000_000; rows *= 4) {
            growth.time("rows", rows, rows, GROUPS, DAYS, "six");
        }
        for (int groups = 25; groups <= 1_600; groups *= 4) {
            growth.time("groups", groups, ROWS, groups, DAYS, "six");
        }
        for (int days = 34; days <= DAYS; days *= 4) {
            growth.time("days", days, ROWS, GROUPS, days, "six");
        }
        for (int ends = 1; ends <= 27; ends *= 3) {
            // each window of a month's last days divides its month once more
            double buckets = 72.0 * (ends + 1);
            growth.time(
                    "day buckets",
                    buckets,
                    SalesData.projectOfMonthEnds(ends),
                    Map.of("sales", sales(ROWS, "shop", names("S", GROUPS), DAYS)),
                    "ends");
        }
        for (int members = 1_000; members <= 256_000; members *= 4) {
            growth.timeMembers(members);
        }
        growth.time("measures", 1, ROWS, GROUPS, DAYS, "short");
        growth.time("measures", 6, ROWS, GROUPS, DAYS, "six");
        growth.time("measures", 26, ROWS, GROUPS, DAYS, "more");
        growth.print();
        growth.draw(Path.of(args.length > 0 ? args[0] : "growth.png"));
    }

    private void time(String curve, double x, int rows, int groups, int days, String report) {
        time(curve, x, SalesData.project(), Map.of("sales", sales(rows, "shop", names("S", groups), days)), report);
    }

    private void timeMembers(int members) {
        Map<String, Table> tables =
                Map.of("sales", sales(ROWS, "customer", names("K", members), DAYS), "customers", customers(members));
        time("members of a lookup", members, SalesData.projectWithCustomers(), tables, "regions");
    }

    private void time(String curve, double x, Project project, Map<String, Table> tables, String report) {
        List<Double> times = new ArrayList<>();
        for (int i = 0; i <= ROUNDS; i++) {
            long start = System.nanoTime();
            MemoryEngine engine = MemoryEngine.over(project);
            tables.forEach(engine::rows);
            try (Session session = Session.open(project, engine)) {
                session.report(session.project().report(report), new GridSink() {
                    @Override
                    public void header(Grid.Header head) {}

                    @Override
                    public void row(Grid.Row row) {}

                    @Override
                    public void notes(List<String> notes) {}
                });
            }
            times.add((System.nanoTime() - start) / 1e6);
        }
        double median =
                times.subList(1, times.size()).stream().sorted().toList().get(ROUNDS / 2);
        curves.computeIfAbsent(curve, c -> new TreeMap<>()).put(x, median);
    }

    private static Table customers(int members) {
        int[] codes = new int[members];
        int[] regions = new int[members];
        for (int i = 0; i < members; i++) {
            codes[i] = i;
            regions[i] = i % REGIONS;
        }
        return Table.ofRows(members)
                .coded("customer", codes, names("K", members))
                .coded("region", regions, names("R", REGIONS));
    }

    private static String[] names(String letter, int count) {
        String[] names = new String[count];
        for (int i = 0; i < count; i++) {
            names[i] = String.format(Locale.ROOT, "%s%08d", letter, i);
        }
        return names;
    }

    /** Returns sales of the last days, each of one of the members of a column. */
    private static Table sales(int rows, String column, String[] members, int days) {
        SplittableRandom random = new SplittableRandom(rows + members.length);
        int[] on = new int[rows];
        int[] codes = new int[rows];
        long[] amounts = new long[rows];
        int last = (int) SalesData.LAST.toEpochDay();
        for (int i = 0; i < rows; i++) {
            on[i] = last - random.nextInt(days);
            codes[i] = random.nextInt(members.length);
            amounts[i] = random.nextInt(100_000);
        }
        return Table.ofRows(rows).days("day", on).coded(column, codes, members).number("amount", amounts, 2);
    }

    /** Returns the slope of the best line through the logarithms. */
    private static double exponent(Map<Double, Double> curve) {
        double n = curve.size();
        double x = 0;
        double y = 0;
        double xx = 0;
        double xy = 0;
        for (Map.Entry<Double, Double> point : curve.entrySet()) {
            double a = Math.log(point.getKey());
            double b = Math.log(point.getValue());
            x += a;
            y += b;
            xx += a * a;
            xy += a * b;
        }
        return (n * xy - x * y) / (n * xx - x * x);
    }

    private void print() {
        curves.forEach((name, curve) -> {
            System.out.printf(Locale.ROOT, "%s (exponent %.2f)%n", name, exponent(curve));
            curve.forEach((x, y) -> System.out.printf(Locale.ROOT, "  %,14.0f  %8.1f ms%n", x, y));
        });
    }

    private static LogarithmicAxis axis(String label) {
        LogarithmicAxis axis = new LogarithmicAxis(label);
        // plain numbers, not powers
        axis.setExpTickLabelsFlag(false);
        axis.setLog10TickLabelsFlag(false);
        axis.setNumberFormatOverride(new DecimalFormat("#,##0", DecimalFormatSymbols.getInstance(Locale.ROOT)));
        return axis;
    }

    private void draw(Path picture) throws IOException {
        XYSeriesCollection all = new XYSeriesCollection();
        curves.forEach((name, curve) -> {
            XYSeries series = new XYSeries(String.format(Locale.ROOT, "%s, exponent %.2f", name, exponent(curve)));
            curve.forEach(series::add);
            all.addSeries(series);
        });
        LogarithmicAxis across = axis("rows, groups, days, day buckets, members or measures");
        LogarithmicAxis up = axis("milliseconds");
        XYLineAndShapeRenderer renderer = new XYLineAndShapeRenderer();
        Color[] colours = {
            new Color(0x1b6ca8),
            new Color(0xc8553d),
            new Color(0x3c8d5a),
            new Color(0x8a5aa8),
            new Color(0xb8860b),
            new Color(0x444444)
        };
        for (int s = 0; s < all.getSeriesCount(); s++) {
            renderer.setSeriesPaint(s, colours[s]);
            renderer.setSeriesStroke(s, new BasicStroke(2));
        }
        XYPlot plot = new XYPlot(all, across, up, renderer);
        plot.setBackgroundPaint(Color.WHITE);
        plot.setDomainGridlinePaint(Color.LIGHT_GRAY);
        plot.setRangeGridlinePaint(Color.LIGHT_GRAY);
        JFreeChart chart = new JFreeChart("How the time of a report grows", plot);
        chart.setBackgroundPaint(Color.WHITE);
        Files.write(picture, ChartUtils.encodeAsPNG(chart.createBufferedImage(1000, 640)));
    }
}
