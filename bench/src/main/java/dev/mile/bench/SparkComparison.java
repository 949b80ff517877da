package dev.mile.bench;

import static org.apache.spark.sql.functions.sum;

import dev.mile.report.Project;
import dev.mile.report.Session;
import dev.mile.spark.SparkEngine;
import dev.mile.spark.SparkReport;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.apache.spark.scheduler.SparkListener;
import org.apache.spark.scheduler.SparkListenerStageCompleted;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;

/**
 * A report computed by Spark beside Spark's own sum by day and shop, on the same rows in one run; both results are thrown away
 * where they are made. Prints medians and their ratio.
 *
 * <p>Arguments: rows (50 million), rounds (5), a folder for the data, shops (200), a report of
 * {@link SalesData} ({@code six}). The master is that of {@code spark-submit}, else all
 * processors of this machine.
 */
public final class SparkComparison {
    private final Map<String, List<Double>> times = new LinkedHashMap<>();
    private final Map<String, String> shuffles = new LinkedHashMap<>();
    private final Shuffles stages = new Shuffles();

    private SparkComparison() {}

    /** Tells what each stage has written for others to read. */
    private static final class Shuffles extends SparkListener {
        private final List<String> written = Collections.synchronizedList(new ArrayList<>());

        @Override
        public void onStageCompleted(SparkListenerStageCompleted stage) {
            long records = stage.stageInfo().taskMetrics().shuffleWriteMetrics().recordsWritten();
            long bytes = stage.stageInfo().taskMetrics().shuffleWriteMetrics().bytesWritten();
            if (records > 0) {
                written.add(String.format(Locale.ROOT, "%,d records, %,d bytes", records, bytes));
            }
        }
    }

    /** Runs the comparison. */
    public static void main(String[] args) throws Exception {
        long rows = args.length > 0 ? Long.parseLong(args[0]) : 50_000_000;
        int rounds = args.length > 1 ? Integer.parseInt(args[1]) : 5;
        Path folder = Path.of(args.length > 2 ? args[2] : "bench-data").toAbsolutePath();
        int shops = args.length > 3 ? Integer.parseInt(args[3]) : 200;
        String report = args.length > 4 ? args[4] : "six";
        SparkSession.Builder builder =
                SparkSession.builder().appName("mile bench").config("spark.ui.enabled", "false");
        if (System.getProperty("spark.master") == null) {
            builder.master("local[*]").config("spark.sql.shuffle.partitions", "8");
        }
        try (SparkSession spark = builder.getOrCreate()) {
            for (boolean shuffled : new boolean[] {false, true}) {
                Path file = SalesData.parquet(folder, rows, shops, shuffled);
                new SparkComparison().run(spark, file, rounds, report);
            }
        }
    }

    private void run(SparkSession spark, Path file, int rounds, String report) {
        spark.sparkContext().addSparkListener(stages);
        Dataset<Row> sales = spark.read().parquet(file.toString());
        Project project = SalesData.project();
        for (int round = 0; round <= rounds; round++) {
            time(
                    "bare sum by day and shop",
                    () -> drop(sales.groupBy("shop", "day").agg(sum("amount"))));
            SparkEngine engine = SparkEngine.over(project, Map.of("sales", sales));
            try (Session session = Session.open(project, engine)) {
                time("Mile by Spark", () -> drop(SparkReport.of(session, engine, project.report(report))));
                if (round == 0) {
                    check(sales, SparkReport.of(session, engine, project.report(report)));
                    times.clear();
                }
            }
        }
        spark.sparkContext().removeSparkListener(stages);
        System.out.printf(Locale.ROOT, "%n%s%n", file.getFileName());
        shuffles.forEach((name, written) -> System.out.println(name + " shuffled " + written));
        double bare = median("bare sum by day and shop");
        times.keySet()
                .forEach(name -> System.out.printf(
                        Locale.ROOT, "%-30s %8.0f ms  %6.3f%n", name, median(name), median(name) / bare));
    }

    /** Makes sure that the sales of the report are those of the file. */
    private static void check(Dataset<Row> sales, Dataset<Row> report) {
        BigDecimal all = sales.agg(sum("amount")).first().getDecimal(0);
        BigDecimal shown = report.selectExpr("sum(cast(sales_exact as decimal(38, 2)))")
                .first()
                .getDecimal(0);
        if (all.compareTo(shown) != 0) {
            throw new IllegalStateException("the report adds up to " + shown + ", the file to " + all);
        }
    }

    private static void drop(Dataset<Row> rows) {
        rows.write().format("noop").mode("overwrite").save();
    }

    private void time(String name, Runnable way) {
        stages.written.clear();
        long start = System.nanoTime();
        way.run();
        times.computeIfAbsent(name, n -> new ArrayList<>()).add((System.nanoTime() - start) / 1e6);
        shuffles.put(name, String.join(", then ", stages.written));
    }

    private double median(String name) {
        List<Double> sorted = times.get(name).stream().sorted().toList();
        return sorted.get(sorted.size() / 2);
    }
}
