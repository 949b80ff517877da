package dev.mile.spark;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.calendar.MileException;
import dev.mile.fact.Fact;
import dev.mile.fact.MemoryEngine;
import dev.mile.measure.Measure;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.RangeEnd;
import dev.mile.report.Report;
import dev.mile.report.Rows;
import dev.mile.report.Session;
import dev.mile.span.Span;
import java.io.File;
import java.io.IOException;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.Month;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import org.apache.spark.SparkEnv;
import org.apache.spark.api.java.function.FilterFunction;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

/** Reports worked out on a cluster of two workers, each a process of its own. */
class SparkReportTest {
    private static SparkSession spark;
    private static final LocalDate FIRST = LocalDate.parse("2024-01-01");

    @TempDir
    Path folder;

    @BeforeAll
    static void start() throws IOException {
        Clusters.home();
        spark = Clusters.start("local-cluster[2,1,1024]");
    }

    @AfterAll
    static void stop() {
        spark.stop();
    }

    private static Rows rows() {
        Random random = new Random(7);
        Rows rows = Rows.of("ordered:date,dispatched:date,shop,channel,amount:number");
        for (int i = 0; i < 3_000; i++) {
            int day = random.nextInt(900);
            String shop = random.nextInt(40) == 0 ? "" : "S" + random.nextInt(9);
            String dispatched = random.nextInt(9) == 0
                    ? ""
                    : FIRST.plusDays(day + random.nextInt(9)).toString();
            String amount = random.nextInt(30) == 0 ? "" : random.nextInt(99_999) / 100 + ".2" + random.nextInt(10);
            rows.add(
                    FIRST.plusDays(day).toString(), dispatched, shop, random.nextBoolean() ? "web" : "counter", amount);
        }
        return rows;
    }

    private static final Fact SALES = Fact.of("sales", "ordered", "ordered").dated("dispatched", "dispatched");

    private static Project.Builder project() {
        Measure sales = Measure.sum("sales", "amount");
        Measure lastYear = Measure.named("sales").over(Span.back(1, Level.YEAR));
        return Project.named("cluster")
                .asOf(LocalDate.parse("2026-05-14"))
                .calendar("c", FiscalCalendar.startingIn(Month.APRIL))
                .dates(RangeEnd.on(FIRST), RangeEnd.on(LocalDate.parse("2026-12-31")))
                .fact(SALES)
                .measure("sales", sales)
                .measure("so_far", Measure.named("sales").over(Span.toDate(Level.YEAR)))
                .measure("growth", Measure.named("sales").minus(lastYear).dividedBy(lastYear))
                .measure("sent", sales.on("dispatched"))
                .measure("share", sales.dividedBy(sales.across("shop")))
                .measure("best", Measure.max("sales", "amount").over(Span.trailing(12, Level.PERIOD)))
                .measure("channels", Measure.distinct("sales", "channel"))
                .measure("largest", Measure.max("sales", "amount").each("channel"));
    }

    private static final List<String> ALL =
            List.of("sales", "so_far", "growth", "sent", "share", "best", "channels", "largest");

    private static SparkEngine engine(Project project) {
        return SparkEngine.over(
                project.facts(),
                project.lookups(),
                Map.of("sales", Clusters.frame(spark, rows()).repartition(4)),
                ZoneId.of("UTC"));
    }

    private static List<String> expected(Project project, Report report) {
        try (Session session = Session.open(project, new MemoryEngine().fact(SALES, rows().table()))) {
            List<String> lines = new ArrayList<>();
            for (Grid.Row row : session.report(report).rows()) {
                if (row.kind() == Grid.Kind.LEAF) {
                    lines.add(row.labels() + " " + row.values());
                }
            }
            lines.sort(null);
            return lines;
        }
    }

    private static List<String> found(Dataset<Row> frame, int parts) {
        List<String> lines = new ArrayList<>();
        for (Row row : frame.collectAsList()) {
            List<String> labels = new ArrayList<>();
            List<String> values = new ArrayList<>();
            for (int c = 0; c < row.size(); c++) {
                String text = row.isNullAt(c) ? "" : row.get(c).toString();
                if (c < parts) {
                    labels.add(text);
                } else if ((c - parts) % 2 == 1) {
                    values.add(text);
                }
            }
            lines.add(labels + " " + values);
        }
        lines.sort(null);
        return lines;
    }

    @ParameterizedTest
    @CsvSource({"shop;month", "month;shop", "year;channel;shop", "shop;weekday_name", "quarter", "channel"})
    void rowsAreThoseOfOneMachine(String parts) {
        Project project = project().build();
        Report report = Report.of("r", List.of(parts.split(";")), ALL);
        SparkEngine engine = engine(project);
        try (Session session = Session.open(project, engine)) {
            Dataset<Row> frame = SparkReport.of(session, engine, report);
            assertThat(found(frame, parts.split(";").length))
                    .isEqualTo(expected(project, report))
                    .isNotEmpty();
        }
    }

    @Test
    void reportsThatNeedAllRowsInOnePlaceAreRefused() {
        Project project = project().build();
        SparkEngine engine = engine(project);
        try (Session session = Session.open(project, engine)) {
            Report sorted = Report.of("r", List.of("shop"), ALL)
                    .sorted(Optional.of(new Report.Sort("sales", true)), Optional.empty());
            assertThatThrownBy(() -> SparkReport.of(session, engine, sorted))
                    .isInstanceOf(MileException.class)
                    .hasMessageContaining("needs all rows in one place; sort the result");
        }
    }

    /** Two executors are other processes; one ends in the middle of its rows, and the result is the same. */
    @ParameterizedTest
    @EnumSource
    void aWorkerThatDiesTakesNothingWithIt(Dies dies) {
        Project project = project().build();
        Report report = Report.of("r", List.of("shop", "month"), ALL);
        Path mark = folder.resolve("died");
        Dataset<Row> source = Clusters.frame(spark, rows()).repartition(4);
        SparkEngine engine = SparkEngine.over(
                project.facts(),
                project.lookups(),
                Map.of("sales", dies == Dies.READING ? source.filter(new DeathAt(100, mark)) : source),
                ZoneId.of("UTC"));
        try (Session session = Session.open(project, engine)) {
            Dataset<Row> frame = SparkReport.of(session, engine, report);
            Dataset<Row> dying = dies == Dies.EVALUATING ? frame.filter(new DeathAt(10, mark)) : frame;
            Path out = folder.resolve("out.parquet");
            dying.write().parquet(out.toString());
            assertThat(mark).exists();
            assertThat(found(spark.read().parquet(out.toString()), 2)).isEqualTo(expected(project, report));
        }
    }

    enum Dies {
        READING,
        EVALUATING
    }

    /** Lets every row pass, but ends the first executor that comes so far, without a word, as a kill does. */
    private static final class DeathAt implements FilterFunction<Row> {
        private static final long serialVersionUID = 1L;

        private final int rows;
        private final String mark;
        private int seen;

        DeathAt(int rows, Path mark) {
            this.rows = rows;
            this.mark = mark.toString();
        }

        @Override
        public boolean call(Row row) {
            if (++seen == rows && !SparkEnv.get().executorId().equals("driver") && new File(mark).mkdir()) {
                Runtime.getRuntime().halt(137);
            }
            return true;
        }
    }

    @Test
    void theDateDimensionIsAFrame() {
        Project project = project().build();
        try (Session session = Session.open(project, new MemoryEngine().fact(SALES, rows().table()))) {
            Dataset<Row> dates = SparkDates.frame(spark, session.dimension());
            assertThat(dates.count()).isEqualTo(session.dimension().range().days());
            assertThat(dates.columns()).hasSize(session.dimension().columns().size());
            Row day = dates.filter("date = DATE '2026-04-01'").first();
            session.dimension().columns().forEach(column -> {
                Object value = day.getAs(column.name());
                Object expected =
                        column.value((int) LocalDate.parse("2026-04-01").toEpochDay());
                assertThat(String.valueOf(value)).startsWith(String.valueOf(expected));
            });
        }
    }
}
