package dev.mile.spark;

import dev.mile.fact.Engine;
import dev.mile.report.EngineContract;
import dev.mile.report.Project;
import dev.mile.report.Rows;
import java.time.ZoneId;
import java.util.LinkedHashMap;
import java.util.Map;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;

/** Spark gives the same answers as every engine. */
class SparkEngineTest extends EngineContract {
    private static SparkSession spark;

    @BeforeAll
    static void start() {
        spark = Clusters.start("local[2]");
    }

    @AfterAll
    static void stop() {
        spark.stop();
    }

    @Override
    protected Engine engine(Project project, Map<String, Rows> rows) {
        Map<String, Dataset<Row>> frames = new LinkedHashMap<>();
        rows.forEach((name, table) -> frames.put(name, Clusters.frame(spark, table)));
        return SparkEngine.over(project.facts(), project.lookups(), frames, ZoneId.of("UTC"));
    }

    /** Each random project takes seconds here; more are run by hand, with {@code -Dmile.spark.tables=40}. */
    @Override
    protected int randomRows() {
        return Integer.getInteger("mile.spark.tables", 1);
    }
}
