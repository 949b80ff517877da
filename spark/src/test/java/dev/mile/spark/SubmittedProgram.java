package dev.mile.spark;

import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import java.util.List;
import java.util.Map;
import org.apache.spark.sql.SparkSession;

/** A program as users submit it: the report of the tests over a Parquet file, written as Parquet. */
public final class SubmittedProgram {
    private SubmittedProgram() {}

    /** Reads the sales from the first argument and the budget from the second, and writes the report to the third. */
    public static void main(String[] args) {
        Project project = TestSales.project();
        try (SparkSession spark = SparkSession.builder().getOrCreate()) {
            SparkEngine engine = SparkEngine.over(
                    project,
                    Map.of(
                            "sales",
                            spark.read().parquet(args[0]),
                            "budget",
                            spark.read().parquet(args[1])));
            try (Session session = Session.open(project, engine)) {
                Report report = Report.of("r", List.of("shop", "month"), TestSales.ALL);
                SparkReport.of(session, engine, report).write().parquet(args[2]);
            }
        }
    }
}
