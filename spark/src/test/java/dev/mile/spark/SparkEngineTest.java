package dev.mile.spark;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.Engine;
import dev.mile.fact.Fact;
import dev.mile.measure.Measure;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.testkit.EngineContract;
import dev.mile.testkit.TestRows;
import java.math.BigDecimal;
import java.sql.Date;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.RowFactory;
import org.apache.spark.sql.SparkSession;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.StructType;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Spark gives the same answers as every engine. */
class SparkEngineTest extends EngineContract {
    private static SparkSession spark;

    @BeforeAll
    static void start() {
        spark = Clusters.start("local[2]", 1);
    }

    @AfterAll
    static void stop() {
        spark.stop();
    }

    @Override
    protected Engine engine(Project project, Map<String, TestRows> rows) {
        Map<String, Dataset<Row>> frames = new LinkedHashMap<>();
        rows.forEach((name, table) -> frames.put(name, Clusters.frame(spark, table)));
        return SparkEngine.over(project, frames);
    }

    /** In the zone of the model, whatever zone the session is in. */
    @ParameterizedTest
    @CsvSource({"Europe/Berlin, 2026-03-29", "Pacific/Honolulu, 2026-03-28", "UTC+2, 2026-03-29", "-10:00, 2026-03-28"})
    void timesHaveTheDayOfTheZone(String zone, LocalDate day) {
        Dataset<Row> frame = spark.sql("SELECT TIMESTAMP '2026-03-28 23:30:00Z' AS at");
        Row row = SparkTable.of("t", frame, Map.of("on", "at"), Set.of(), ZoneId.of(zone), LocalTime.MIDNIGHT)
                .rows()
                .first();
        assertThat(row.getDate(0).toLocalDate()).isEqualTo(day);
        assertThat(row.getInt(1)).isEqualTo((int) day.toEpochDay());
    }

    @ParameterizedTest
    @ValueSource(ints = {9, 12, 13})
    void sumsKeepEveryDigit(int digits) {
        BigDecimal largest = new BigDecimal("4".repeat(digits)).movePointLeft(2);
        List<BigDecimal> amounts = Arrays.asList(
                largest,
                largest,
                new BigDecimal("-0.01"),
                null,
                largest.negate().add(BigDecimal.ONE),
                largest,
                new BigDecimal("-7.05"));
        List<Row> rows = amounts.stream()
                .map(amount -> RowFactory.create(Date.valueOf("2026-03-28"), amount))
                .toList();
        StructType type =
                new StructType().add("day", DataTypes.DateType).add("amount", DataTypes.createDecimalType(digits, 2));
        Project project = Project.named("sums")
                .asOf(LocalDate.parse("2026-12-31"))
                .calendar("civil", FiscalCalendar.civil())
                .fact(Fact.of("sales", "ordered", "day"))
                .measure("amount", Measure.sum("sales", "amount"))
                .build();
        try (Session session =
                Session.open(project, SparkEngine.over(project, Map.of("sales", spark.createDataFrame(rows, type))))) {
            Grid grid = session.report(Report.of("all", List.of("year"), List.of("amount")));
            assertThat(grid.rows().get(0).values().get(0).decimal())
                    .isEqualByComparingTo(largest.add(largest).subtract(new BigDecimal("6.06")));
        }
    }

    @Override
    protected int shallowReportsOfAThread() {
        return 2;
    }

    @Override
    protected int shallowRandomRows() {
        return 1;
    }

    /** Fewer, since each report takes a second here. */
    @Override
    protected int shallowRandomProjects() {
        return 4;
    }
}
