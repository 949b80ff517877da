package dev.mile.bench;

import dev.mile.engine.DataSchema;
import dev.mile.engine.Engine;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Table;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import dev.mile.report.Project;
import dev.mile.report.Session;
import dev.mile.sql.cache.CachingEngine;
import dev.mile.sql.cache.FileTables;
import dev.mile.sql.cache.TotalsCache;
import dev.mile.sql.files.DuckDbEngine;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Supplier;

/**
 * Mile beside SQL written by hand, on the same embedded database, in one run: each round runs every way once, so that what else
 * the machine does falls on all alike. Prints medians, and ratios of medians.
 *
 * <p>Arguments: rows (50 million), rounds (5), a folder for the data.
 */
public final class EngineComparison {
    private static final ZoneId UTC = ZoneId.of("UTC");

    /** Runs of a few milliseconds before they are timed; more change nothing. */
    private static final int WARM_UP = 40;

    private final Map<String, List<Double>> times = new LinkedHashMap<>();
    private final Project project = SalesData.project();
    private BigDecimal expected;

    private EngineComparison() {}

    /** Runs the comparison. */
    public static void main(String[] args) throws Exception {
        long rows = args.length > 0 ? Long.parseLong(args[0]) : 50_000_000;
        int rounds = args.length > 1 ? Integer.parseInt(args[1]) : 5;
        Path folder = Path.of(args.length > 2 ? args[2] : "bench-data").toAbsolutePath();
        EngineComparison comparison = new EngineComparison();
        comparison.files(rows, rounds, folder);
        comparison.memory(rows, rounds);
    }

    /** Something that is timed, and returns the sum of all amounts of the report, to be checked. */
    private interface Way {
        BigDecimal run() throws SQLException;
    }

    private void time(String name, Way way) throws SQLException {
        long start = System.nanoTime();
        BigDecimal sum = way.run();
        times.computeIfAbsent(name, n -> new ArrayList<>()).add((System.nanoTime() - start) / 1e6);
        if (sum != null) {
            expected = expected == null ? sum : expected;
            if (sum.compareTo(expected) != 0) {
                throw new IllegalStateException(name + " adds up to " + sum + ", others to " + expected);
            }
        }
    }

    private double median(String name) {
        List<Double> sorted = times.get(name).stream().sorted().toList();
        int n = sorted.size();
        return n % 2 == 1 ? sorted.get(n / 2) : (sorted.get(n / 2 - 1) + sorted.get(n / 2)) / 2;
    }

    private void print(String name, String other, double limit) {
        System.out.printf(
                Locale.ROOT,
                "%-46s %8.0f ms  %6.3f x %-26s (asked: %.3g)%n",
                name,
                median(name),
                median(name) / median(other),
                other,
                limit);
    }

    private BigDecimal report(Engine engine, String name) {
        return report(Session.open(project, () -> engine), name, name.equals("six"));
    }

    private BigDecimal report(Session session, String name, boolean checked) {
        Value[] sum = {Value.ZERO};
        try (session) {
            session.report(session.project().report(name), new GridSink() {
                @Override
                public void header(Grid.Header head) {}

                @Override
                public void row(Grid.Row row) {
                    for (int c = 0; checked && c < 5; c++) {
                        Value value = row.values().get(c);
                        sum[0] = value.isBlank() ? sum[0] : sum[0].plus(value);
                    }
                }

                @Override
                public void notes(List<String> notes) {}
            });
        }
        return checked ? sum[0].decimal() : null;
    }

    private static BigDecimal sql(Statement statement, String sql, int firstAmount) throws SQLException {
        BigDecimal sum = BigDecimal.ZERO;
        try (ResultSet rows = statement.executeQuery(sql)) {
            while (rows.next()) {
                for (int c = 0; firstAmount > 0 && c < 5; c++) {
                    BigDecimal value = rows.getBigDecimal(firstAmount + c);
                    sum = value == null ? sum : sum.add(value);
                }
            }
        }
        return firstAmount > 0 ? sum : null;
    }

    private void files(long rows, int rounds, Path folder) throws Exception {
        for (boolean shuffled : new boolean[] {false, true}) {
            times.clear();
            expected = null;
            Path file = SalesData.parquet(folder, rows, 200, shuffled);
            DataSchema schema = SalesData.schema(file);
            Supplier<Engine> cold = () -> DuckDbEngine.over(schema);
            Path store = Files.createTempDirectory(folder, "store");
            Supplier<Engine> kept = () ->
                    new CachingEngine(cold.get(), new FileTables(schema), TotalsCache.in(store), System.err::println);
            for (String name : List.of("six", "more", "short", "long")) {
                report(kept.get(), name);
            }
            String from = "read_parquet('" + file + "')";
            // one round is for the compiler
            for (int round = 0; round <= rounds; round++) {
                try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                        Statement statement = connection.createStatement()) {
                    time("bare scan", () -> sql(statement, SalesData.scan(from), 0));
                    time("bare sum by day and shop", () -> sql(statement, SalesData.bare(from), 0));
                    time("SQL by hand", () -> sql(statement, SalesData.byHand(from), 3));
                }
                time("Mile, cold", () -> report(cold.get(), "six"));
                time("Mile, cold, 20 measures more", () -> report(cold.get(), "more"));
                time("Mile, cold, 20 of months and weeks more", () -> report(cold.get(), "weeks"));
                time("Mile, cold, windows of 7 days", () -> report(cold.get(), "short"));
                time("Mile, cold, windows of 700 days", () -> report(cold.get(), "long"));
                for (int i = 0; i < (round == 0 ? WARM_UP : 5); i++) {
                    time("Mile, from stored totals", () -> report(kept.get(), "six"));
                    time("Mile, stored, 20 measures more", () -> report(kept.get(), "more"));
                    time("Mile, stored, windows of 7 days", () -> report(kept.get(), "short"));
                    time("Mile, stored, windows of 700 days", () -> report(kept.get(), "long"));
                }
                if (round == 0) {
                    times.clear();
                }
            }
            System.out.printf(
                    Locale.ROOT, "%n%,d rows in Parquet, %s%n", rows, shuffled ? "shuffled" : "in the order of dates");
            print("SQL by hand", "bare sum by day and shop", 1);
            print("Mile, cold", "SQL by hand", 0.5);
            print("Mile, cold", "bare scan", 2);
            print("Mile, cold", "bare sum by day and shop", 1.05);
            print("Mile, from stored totals", "SQL by hand", 0.02);
            print("Mile, cold, 20 measures more", "Mile, cold", 1.1);
            print("Mile, cold, 20 of months and weeks more", "Mile, cold", 1.1);
            print("Mile, stored, 20 measures more", "Mile, from stored totals", 1.1);
            print("Mile, cold, windows of 700 days", "Mile, cold, windows of 7 days", 1.05);
            print("Mile, stored, windows of 700 days", "Mile, stored, windows of 7 days", 1.05);
        }
    }

    private void memory(long rows, int rounds) throws SQLException {
        times.clear();
        expected = null;
        int size = Math.toIntExact(rows);
        try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE TABLE sales AS " + SalesData.rows(rows, 200));
            Table table = table(statement, size);
            for (int round = 0; round <= rounds; round++) {
                time("SQL by hand", () -> sql(statement, SalesData.byHand("sales"), 3));
                time("bare sum by day and shop", () -> sql(statement, SalesData.bare("sales"), 0));
                time(
                        "Mile, rows in arrays",
                        () -> report(MemoryEngine.over(SalesData.project()).rows("sales", table), "six"));
                if (round == 0) {
                    times.clear();
                }
            }
        }
        System.out.printf(Locale.ROOT, "%n%,d rows in memory%n", rows);
        print("Mile, rows in arrays", "SQL by hand", 0.25);
        print("Mile, rows in arrays", "bare sum by day and shop", 0.25);
    }

    private static Table table(Statement statement, int size) throws SQLException {
        int[] days = new int[size];
        int[] shops = new int[size];
        long[] amounts = new long[size];
        String[] names = new String[200];
        try (ResultSet rows =
                statement.executeQuery("SELECT CAST(day - DATE '1970-01-01' AS INTEGER), CAST(substr(shop, 2)"
                        + " AS INTEGER), CAST(amount * 100 AS BIGINT) FROM sales")) {
            for (int i = 0; rows.next(); i++) {
                days[i] = rows.getInt(1);
                shops[i] = rows.getInt(2);
                amounts[i] = rows.getLong(3);
            }
        }
        for (int s = 0; s < names.length; s++) {
            names[s] = String.format(Locale.ROOT, "S%08d", s);
        }
        return Table.ofRows(size).days("day", days).coded("shop", shops, names).number("amount", amounts, 2);
    }
}
