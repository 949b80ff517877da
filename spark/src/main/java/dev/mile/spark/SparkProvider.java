package dev.mile.spark;

import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.EngineProvider;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.report.distributed.ClusterEngine;
import dev.mile.report.distributed.DistributedReport;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.SparkSession;

/** Lets the command line compute with Spark: {@code mile report --engine spark --master spark://host:7077}. */
public final class SparkProvider implements EngineProvider {
    /** For {@link java.util.ServiceLoader}. */
    public SparkProvider() {}

    @Override
    public String name() {
        return "spark";
    }

    @Override
    public Engine open(DataSchema schema, Map<String, String> settings) {
        String master = settings.getOrDefault("master", "local[*]");
        SparkSession.Builder builder =
                SparkSession.builder().master(master).appName("mile").config("spark.ui.enabled", "false");
        if (master.startsWith("local")) {
            // one machine: two parts for each processor keep it busy, and more cost time for each
            builder.config(
                    "spark.sql.shuffle.partitions", 2 * Runtime.getRuntime().availableProcessors());
        }
        SparkSession spark = builder.getOrCreate();
        Map<String, Dataset<Row>> frames = new LinkedHashMap<>();
        schema.sources().forEach((name, source) -> frames.put(name, SourceFrames.of(spark, source)));
        return new OwningSparkEngine(spark, SparkEngine.over(schema, frames));
    }

    /** An engine whose session ends with it. */
    private record OwningSparkEngine(SparkSession spark, SparkEngine engine) implements ClusterEngine {
        @Override
        public void write(DistributedReport report, Path folder) {
            ReportParquet.write(engine, report, folder);
        }

        @Override
        public DataSchema schema() {
            return engine.schema();
        }

        @Override
        public Map<String, ValueType> columns(String table) {
            return engine.columns(table);
        }

        @Override
        public List<DateCount> dates(String fact) {
            return engine.dates(fact);
        }

        @Override
        public Optional<String> example(String fact, String role, long day) {
            return engine.example(fact, role, day);
        }

        @Override
        public TotalsCursor totals(TotalsRequest request, DayContext days) {
            return engine.totals(request, days);
        }

        @Override
        public FactAccounts accounts(String fact, List<Operand.Field> amounts, DayContext days) {
            return engine.accounts(fact, amounts, days);
        }

        @Override
        public Table rows(String table) {
            return engine.rows(table);
        }

        @Override
        public void close() {
            engine.close();
            spark.stop();
        }
    }
}
