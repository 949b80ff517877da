package dev.mile.bench;

import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;

/**
 * The command line with a heap of 512 MiB over very many groups ({@link MadeUpGroups}), to Parquet: a process of its own, whose
 * memory is watched, and whose amounts are added up afterwards and compared with the made-up ones.
 *
 * <p>Arguments: groups (10 million), days of each (1,000), a folder for the output.
 */
public final class ManyGroups {
    private static final String MODEL =
            """
            mile: 1
            calendars: {years: {year_starts: january 1}}
            facts: {sales: {source: none.csv, dates: {ordered: day}}}
            measures:
              sales: sum(sales.amount)
              ytd: sales over year to date
              ly: sales over 1 year back
              lytd: sales over 1 year back, year to date
              r12: sales over trailing 12 months
              growth: (sales - ly) / ly
            reports: {customers: {rows: [customer, year], show: [sales, ytd, ly, lytd, r12, growth], totals: false}}
            """;

    private ManyGroups() {}

    /** Runs the command. */
    public static void main(String[] args) throws IOException, InterruptedException, SQLException {
        int groups = args.length > 0 ? Integer.parseInt(args[0]) : 10_000_000;
        int days = args.length > 1 ? Integer.parseInt(args[1]) : 1_000;
        Path folder = Files.createDirectories(Path.of(args.length > 2 ? args[2] : "bench-data"));
        Path model = Files.writeString(folder.resolve("many-groups.yaml"), MODEL);
        Path out = folder.resolve("many-groups.parquet").toAbsolutePath();
        WatchedProcess process = WatchedProcess.run(
                ProcessBuilder.Redirect.INHERIT,
                List.of("-Xmx512m", "-D" + MadeUpGroups.GROUPS + "=" + groups, "-D" + MadeUpGroups.DAYS + "=" + days),
                List.of("report", "-f", model.toString(), "--engine", MadeUpGroups.NAME, "-o", out.toString()));
        if (process.code() != 0) {
            throw new IllegalStateException("the command ended with " + process.code());
        }
        long cents = IntStream.range(0, groups)
                .parallel()
                .mapToLong(
                        group -> Arrays.stream(MadeUpGroups.cents(group, days)).sum())
                .sum();
        try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(
                        "SELECT count(*), count(DISTINCT customer), sum(sales) FROM '" + out + "'")) {
            row.next();
            System.out.printf(
                    Locale.ROOT,
                    "%,d groups of %,d days: %,d rows of %,d groups in %.0f s, the process at most %s%n",
                    groups,
                    days,
                    row.getLong(1),
                    row.getLong(2),
                    process.seconds(),
                    process.memory());
            if (row.getBigDecimal(3).compareTo(BigDecimal.valueOf(cents, 2)) != 0) {
                throw new IllegalStateException("the rows add up to " + row.getBigDecimal(3) + ", what was made up to "
                        + BigDecimal.valueOf(cents, 2));
            }
        }
    }
}
