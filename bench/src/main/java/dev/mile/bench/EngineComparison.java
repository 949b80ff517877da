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
import java.util.List;
import java.util.Locale;
import java.util.function.Supplier;

/**
 * Mile beside SQL written by hand, on the same embedded database, in one run: each round runs every way, short ones several
 * times, so that what else the machine does falls on all alike.
 */
final class EngineComparison {
    private static final ZoneId UTC = ZoneId.of("UTC");

    /** Runs of a few milliseconds before they are timed: a session is warm when the compiler has done what it can. */
    private static final int SHORT_WARM_UP = 1_000;

    /** Runs of a fifth of a second before they are timed. */
    private static final int COLD_WARM_UP = 20;

    /** How often a round runs what takes a few milliseconds. */
    private static final int SHORT_RUNS = 5;

    /** How often a round runs what takes a fifth of a second, and is compared with others like it. */
    private static final int COLD_RUNS = 3;

    private final Figures figures;
    private final Project project = SalesData.project();
    private BigDecimal expected;

    /** Returns a comparison that adds its ratios to the figures. */
    EngineComparison(Figures figures) {
        this.figures = figures;
    }

    /** Runs the comparison. */
    void run(long rows, int rounds, Path folder) throws Exception {
        files(rows, rounds, folder);
        memory(rows, rounds);
    }

    /** Something that is timed, and returns the sum of all amounts of the report, to be checked; null where it has none. */
    private interface Way {
        BigDecimal run() throws SQLException;
    }

    private void time(String name, Way way) throws Exception {
        figures.time(name, () -> {
            BigDecimal sum = way.run();
            expected = expected == null ? sum : expected;
            if (sum != null && sum.compareTo(expected) != 0) {
                throw new IllegalStateException(name + " adds up to " + sum + ", others to " + expected);
            }
        });
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
            figures.forgetTimes();
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
                    time("SQL by hand", () -> sql(statement, SalesData.byHand(from), 3));
                }
                for (int i = 0; i < (round == 0 ? COLD_WARM_UP : COLD_RUNS); i++) {
                    time("Mile, cold", () -> report(cold.get(), "six"));
                    time("Mile, cold, 20 measures more", () -> report(cold.get(), "more"));
                    time("Mile, cold, 20 of weeks", () -> report(cold.get(), "weeks"));
                }
                for (int i = 0; i < (round == 0 ? SHORT_WARM_UP : SHORT_RUNS); i++) {
                    time("Mile, kept", () -> report(kept.get(), "six"));
                    time("Mile, 7 days", () -> report(kept.get(), "short"));
                    time("Mile, 700 days", () -> report(kept.get(), "long"));
                }
                if (round == 0) {
                    figures.forgetTimes();
                }
            }
            String order = shuffled ? "shuffled" : "ordered";
            figures.compare("cold, " + order + ", to SQL by hand", "Mile, cold", "SQL by hand", shuffled ? 0.4 : 0.5);
            figures.compare("cold, " + order + ", to the bare scan", "Mile, cold", "bare scan", 2);
            figures.compare(
                    "cold, " + order + ", 20 measures more", "Mile, cold, 20 measures more", "Mile, cold", 1.15);
            figures.compare(
                    "cold, " + order + ", 20 more, half of weeks", "Mile, cold, 20 of weeks", "Mile, cold", 1.15);
            figures.compare("kept, " + order + ", to the bare scan", "Mile, kept", "bare scan", 0.02);
            figures.compare("kept, " + order + ", windows of 700 days to 7", "Mile, 700 days", "Mile, 7 days", 1.05);
        }
    }

    private void memory(long rows, int rounds) throws Exception {
        figures.forgetTimes();
        expected = null;
        int size = Math.toIntExact(rows);
        try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE TABLE sales AS " + SalesData.rows(rows, 200));
            Table table = table(statement, size);
            for (int round = 0; round <= rounds; round++) {
                time("SQL by hand", () -> sql(statement, SalesData.byHand("sales"), 3));
                time(
                        "Mile, rows in arrays",
                        () -> report(MemoryEngine.over(SalesData.project()).rows("sales", table), "six"));
                if (round == 0) {
                    figures.forgetTimes();
                }
            }
        }
        figures.compare("rows in Java arrays, to SQL on a table", "Mile, rows in arrays", "SQL by hand", 0.12);
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
