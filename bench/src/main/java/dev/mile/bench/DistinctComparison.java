package dev.mile.bench;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.fact.Fact;
import dev.mile.measure.Measure;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.span.Span;
import dev.mile.sql.files.DuckDbEngine;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Month;
import java.util.List;

/**
 * Different customers by month and shop, in the month, in the year to date and in twelve months, beside SQL that joins the months of
 * each window: what cannot be added up. Both are checked to find the same.
 *
 * <p>Arguments: rows (2 million), rounds (5), a folder for the data.
 */
public final class DistinctComparison {
    private static final int CUSTOMERS = 500_000;
    private static final int SHOPS = 200;

    private DistinctComparison() {}

    /** Runs the comparison. */
    public static void main(String[] args) throws Exception {
        long rows = args.length > 0 ? Long.parseLong(args[0]) : 2_000_000;
        int rounds = args.length > 1 ? Integer.parseInt(args[1]) : 5;
        Path folder = Path.of(args.length > 2 ? args[2] : "bench-data").toAbsolutePath();
        run(new Figures(), rows, rounds, folder);
    }

    /** Adds the ratio to the figures. */
    static void run(Figures figures, long rows, int rounds, Path folder) throws Exception {
        Path file = parquet(Files.createDirectories(folder), rows);
        for (int round = 0; round < rounds; round++) {
            long[] counted = new long[2];
            figures.time("distinct", () -> counted[0] = report(file));
            figures.time("distinct by hand", () -> counted[1] = byHand(file));
            if (counted[0] != counted[1]) {
                throw new IllegalStateException("Mile counts " + counted[0] + ", the SQL by hand " + counted[1]);
            }
        }
        figures.compare("distinct customers, to SQL by hand", "distinct", "distinct by hand", 0.3);
    }

    private static Path parquet(Path folder, long rows) throws SQLException {
        Path file = folder.resolve("customers-" + rows + ".parquet");
        if (!Files.exists(file)) {
            try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                    Statement statement = connection.createStatement()) {
                statement.execute("COPY (SELECT *, CAST(hash(row_number() OVER () * 13) % " + CUSTOMERS
                        + " AS INTEGER) AS customer FROM (" + SalesData.rows(rows, SHOPS) + ")) TO '" + file
                        + "' (FORMAT PARQUET)");
            }
        }
        return file;
    }

    private static long report(Path file) {
        Measure customers = Measure.named("customers");
        Fact fact = SalesData.SALES;
        Project project = Project.named("bench")
                .asOf(SalesData.LAST)
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(SalesData.FIRST), DateBound.at(SalesData.LAST))
                .fact(fact)
                .measure("customers", Measure.distinct("sales", "customer"))
                .measure("ytd", customers.over(Span.toDate(Level.YEAR)))
                .measure("r12", customers.over(Span.last(12, Level.PERIOD)))
                .report(Report.of("r", List.of("month", "shop"), List.of("customers", "ytd", "r12"))
                        .withTotals(false))
                .build();
        DuckDbEngine engine = DuckDbEngine.over(
                project.schema().withSources(SalesData.schema(file).sources()));
        long[] sum = {0};
        try (Session session = Session.open(project, () -> engine)) {
            session.report(project.report("r"), new GridSink() {
                @Override
                public void header(Grid.Header head) {}

                @Override
                public void row(Grid.Row row) {
                    row.values().forEach(v -> sum[0] += v.isBlank() ? 0 : (long) v.toDouble());
                }

                @Override
                public void notes(List<String> notes) {}
            });
        }
        return sum[0];
    }

    /** Each month's customers once, then each window's months by a join, in one statement. */
    private static long byHand(Path file) throws SQLException {
        String windows =
                "SELECT m, unnest([m, date_trunc('year', m), m - INTERVAL 11 MONTH]) AS first, unnest([1, 2, 3]) AS kind"
                        + " FROM (SELECT unnest(generate_series(TIMESTAMP '" + SalesData.FIRST + "', TIMESTAMP '"
                        + SalesData.LAST
                        + "', INTERVAL 1 MONTH)) AS m)";
        String sql = "WITH months AS (SELECT DISTINCT date_trunc('month', day) AS d, shop, customer FROM '" + file
                + "'), counted AS (SELECT m, shop, kind, count(DISTINCT customer) AS n FROM months JOIN (" + windows
                + ") ON d BETWEEN first AND m GROUP BY ALL) SELECT m, shop, max(n) FILTER (WHERE kind = 1),"
                + " max(n) FILTER (WHERE kind = 2), max(n) FILTER (WHERE kind = 3) FROM counted GROUP BY ALL ORDER BY ALL";
        long sum = 0;
        try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(sql)) {
            while (rows.next()) {
                sum += rows.getLong(3) + rows.getLong(4) + rows.getLong(5);
            }
        }
        return sum;
    }
}
