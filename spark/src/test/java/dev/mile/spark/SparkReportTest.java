package dev.mile.spark;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.testkit.TestRows;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.TimeUnit;
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

/** Reports computed on a cluster of two workers, each a process of its own. */
class SparkReportTest {
    private static SparkSession spark;

    @TempDir
    Path folder;

    @BeforeAll
    static void start() throws IOException {
        Clusters.home();
        spark = Clusters.start("local-cluster[2,1,1024]", 4);
    }

    @AfterAll
    static void stop() {
        spark.stop();
    }

    private static TestRows rows() {
        Random random = new Random(7);
        TestRows rows = TestRows.of("ordered:date,dispatched:date,shop,channel,amount:number");
        for (int i = 0; i < 3_000; i++) {
            int day = random.nextInt(900);
            String shop = random.nextInt(40) == 0 ? "" : "S" + random.nextInt(9);
            String dispatched = random.nextInt(9) == 0
                    ? ""
                    : TestSales.FIRST.plusDays(day + random.nextInt(9)).toString();
            String amount = random.nextInt(30) == 0 ? "" : random.nextInt(99_999) / 100 + ".2" + random.nextInt(10);
            rows.add(
                    TestSales.FIRST.plusDays(day).toString(),
                    dispatched,
                    shop,
                    random.nextBoolean() ? "web" : "counter",
                    amount);
        }
        return rows;
    }

    private static TestRows budget() {
        return TestRows.of(
                "of,shop,channel,amount:number",
                "FY2025,S1,web,120000.00",
                "FY2026,S1,counter,90000.10",
                "FY2026,S77,web,1000",
                "FY2026,,web,5.05");
    }

    private static SparkEngine engine(Project project) {
        return engine(project, Clusters.frame(spark, rows()).repartition(4));
    }

    private static SparkEngine engine(Project project, Dataset<Row> sales) {
        return SparkEngine.over(project, Map.of("sales", sales, "budget", Clusters.frame(spark, budget())));
    }

    private static MemoryEngine memory(Project project) {
        return MemoryEngine.over(project).rows("sales", rows().table()).rows("budget", budget().table());
    }

    private static List<String> expected(Project project, Report report) {
        try (Session session = Session.open(project, memory(project))) {
            List<String> lines = new ArrayList<>();
            for (Grid.Row row : session.report(report).rows()) {
                if (row.kind() == Grid.RowKind.LEAF) {
                    List<Value> values = new ArrayList<>(row.values());
                    values.remove(values.size() - 1);
                    lines.add(row.labels() + " " + values
                            + row.status(values.size()).map(TargetStatus::word).orElse(""));
                }
            }
            lines.sort(null);
            return lines;
        }
    }

    /** Returns the rows of a frame in the same words, of the columns that hold every digit; the last is a status. */
    private static List<String> found(Dataset<Row> frame, int parts) {
        List<String> lines = new ArrayList<>();
        String[] columns = frame.columns();
        for (Row row : frame.collectAsList()) {
            List<String> texts = new ArrayList<>();
            for (int c = 0; c < columns.length - 1; c++) {
                if (c < parts || columns[c].endsWith("_exact")) {
                    texts.add(row.isNullAt(c) ? "" : row.getString(c));
                }
            }
            String status = row.isNullAt(columns.length - 1) ? "" : row.getString(columns.length - 1);
            lines.add(texts.subList(0, parts) + " " + texts.subList(parts, texts.size()) + status);
        }
        lines.sort(null);
        return lines;
    }

    @ParameterizedTest
    @CsvSource({"shop;month", "month;shop", "year;channel;shop", "shop;weekday_name", "quarter", "channel"})
    void rowsAreThoseOfOneMachine(String parts) {
        Project project = TestSales.project();
        Report report = Report.of("r", List.of(parts.split(";")), TestSales.ALL);
        SparkEngine engine = engine(project);
        try (Session session = Session.open(project, engine)) {
            Dataset<Row> frame = SparkReport.of(session, engine, report);
            assertThat(found(frame, parts.split(";").length))
                    .isEqualTo(expected(project, report))
                    .isNotEmpty();
        }
    }

    @Test
    void parquetHasTheTypesOfReports() throws IOException {
        Project project = TestSales.project();
        Report report = Report.of("r", List.of("shop", "month"), TestSales.ALL);
        SparkEngine engine = engine(project);
        Path out = folder.resolve("report.parquet");
        try (Session session = Session.open(project, engine)) {
            // the second takes the place of the first
            for (int run = 0; run < 2; run++) {
                ReportParquet.write(engine, session.distribute(report), out);
            }
            Dataset<Row> written = spark.read().parquet(out.toString());
            assertThat(written.schema().simpleString())
                    .isEqualTo("struct<shop:string,month:string,sales:decimal(7,2),so_far:decimal(7,2),growth:double,"
                            + "sent:decimal(6,2),share:double,best:decimal(5,2),channels:decimal(1,0),"
                            + "largest:decimal(6,2),planned:decimal(7,2),aim_value:decimal(7,2),"
                            + "aim_against:decimal(7,2),aim_status:string>");
            try (var left = Files.list(folder)) {
                assertThat(left).hasSize(1);
            }
            Dataset<Row> worked = SparkReport.of(session, engine, report);
            assertThat(written.count()).isEqualTo(worked.count());
            assertThat(written.selectExpr("sum(planned)").first().getDecimal(0))
                    .isEqualByComparingTo(worked.selectExpr("sum(cast(planned_exact AS decimal(18, 3)))")
                            .first()
                            .getDecimal(0));
            Files.writeString(folder.resolve("report.parquet/notes.txt"), "mine");
            assertThatThrownBy(() -> ReportParquet.write(engine, session.distribute(report), out))
                    .hasMessageEndingWith("report.parquet: it is a folder that holds 'notes.txt', which no report has"
                            + " written; choose another name");
        }
    }

    @Test
    void reportsThatNeedAllRowsInOnePlaceAreRefused() {
        Project project = TestSales.project();
        SparkEngine engine = engine(project);
        try (Session session = Session.open(project, engine)) {
            Report sorted = Report.of("r", List.of("shop"), TestSales.ALL).withSort(new Report.Sort("sales", true));
            assertThatThrownBy(() -> SparkReport.of(session, engine, sorted))
                    .isInstanceOf(MileException.class)
                    .hasMessageContaining("needs all rows in one place; sort the result");
        }
    }

    /** Two executors are other processes; one ends in the middle of its rows, and the result is the same. */
    @ParameterizedTest
    @EnumSource
    void aWorkerThatDiesTakesNothingWithIt(Dies dies) {
        Project project = TestSales.project();
        Report report = Report.of("r", List.of("shop", "month"), TestSales.ALL);
        Path mark = folder.resolve("died");
        Dataset<Row> source = Clusters.frame(spark, rows()).repartition(4);
        SparkEngine engine = engine(project, dies == Dies.READING ? source.filter(new DeathAt(100, mark)) : source);
        try (Session session = Session.open(project, engine)) {
            Dataset<Row> frame = SparkReport.of(session, engine, report);
            Dataset<Row> dying = dies == Dies.EVALUATING ? frame.filter(new DeathAt(10, mark)) : frame;
            Path out = folder.resolve("out.parquet");
            dying.write().parquet(out.toString());
            assertThat(mark).exists();
            assertThat(found(spark.read().parquet(out.toString()), 2)).isEqualTo(expected(project, report));
        }
    }

    /** The jars of the core and of this module are all that a cluster is to be given. */
    @Test
    void aProgramRunsWithSparkSubmit() throws Exception {
        Path sales = folder.resolve("sales.parquet");
        Clusters.frame(spark, rows()).write().parquet(sales.toString());
        Path budget = folder.resolve("budget.parquet");
        Clusters.frame(spark, budget()).write().parquet(budget.toString());
        Path out = folder.resolve("report.parquet");
        Path program = Clusters.jar(folder, SubmittedProgram.class, SubmittedProgram.class, TestSales.class);
        String jars = Clusters.jar(folder, Project.class) + "," + Clusters.jar(folder, SparkReport.class);
        Process submit = Clusters.submit(
                folder,
                List.of(
                        "--master",
                        "local-cluster[1,1,1024]",
                        "--jars",
                        jars,
                        "--class",
                        SubmittedProgram.class.getName()),
                List.of(program.toString(), sales.toString(), budget.toString(), out.toString()));
        if (!submit.waitFor(10, TimeUnit.MINUTES)) {
            submit.destroyForcibly().waitFor();
        }
        assertThat(submit.exitValue())
                .as(Files.readString(folder.resolve("submit.log")))
                .isZero();
        assertThat(found(spark.read().parquet(out.toString()), 2))
                .isEqualTo(expected(TestSales.project(), Report.of("r", List.of("shop", "month"), TestSales.ALL)));
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
        Project project = TestSales.project();
        try (Session session = Session.open(project, memory(project))) {
            Dataset<Row> dates = SparkDates.frame(spark, session.dimension());
            assertThat(dates.count()).isEqualTo(session.dimension().range().length());
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
