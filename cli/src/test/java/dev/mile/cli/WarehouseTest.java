package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A model whose facts live in a database, on the command line. */
class WarehouseTest {
    @TempDir
    Path folder;

    private String[] mile(String... args) {
        List<String> all = new ArrayList<>(List.of(args));
        all.addAll(List.of("-f", folder.resolve("mile.yaml").toString()));
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        int code = Main.run(new PrintWriter(out), new PrintWriter(err, true), all.toArray(String[]::new));
        return new String[] {Integer.toString(code), out.toString(), err.toString()};
    }

    @Test
    void reportsReadTablesAndDatesAreLoadedAndRefreshed() throws Exception {
        try (EmbeddedPostgres server = EmbeddedPostgres.start();
                Connection connection = server.getPostgresDatabase().getConnection();
                Statement statement = connection.createStatement()) {
            statement.execute("CREATE TABLE sales (day DATE, paid TIMESTAMP, shop TEXT, amount NUMERIC(10, 2));"
                    + "INSERT INTO sales VALUES ('2026-01-05', '2026-02-01 10:00', 'S1', 10.10), ('2026-02-05', NULL, 'S2', 5),"
                    + " ('2025-01-06', NULL, 'S1', 2);"
                    + "CREATE TABLE shops (shop TEXT, region TEXT);"
                    + "INSERT INTO shops VALUES ('S1', 'North'), ('S2', 'South')");
            Files.writeString(
                    folder.resolve("mile.yaml"),
                    """
                    mile: 1
                    calendars: {c: {year_starts: january}}
                    warehouses: {house: {url: "URL", user: postgres, timeout: 30}}
                    facts:
                      sales:
                        source: {table: sales, in: house}
                        dates: {ordered: day, paid: paid}
                        links: {shop: shops}
                        covers: {from: 2025-01-01}
                    lookups: {shops: {source: {table: public.shops, in: house}, key: shop}}
                    measures: {sales: sum(sales.amount), ly: sales over 1 year back in full, paid: sales on paid}
                    reports: {r: {rows: [month, shops.region], show: [sales, ly, paid]}}
                    """
                            .replace(
                                    "URL",
                                    server.getJdbcUrl("postgres", "postgres").replaceAll("\\?.*", "")));
            assertThat(mile("report", "r", "--as", "csv", "--quiet"))
                    .containsExactly(
                            "0",
                            """
                            month,shops.region,sales,ly,paid
                            FY2025 P01,North,2.00,,
                            FY2026 P01,North,10.10,2.00,
                            FY2026 P02,North,,,10.10
                            FY2026 P02,South,5.00,,
                            """,
                            "");
            assertThat(mile("dates", "--into", "house")).containsExactly("0", "", "loaded 730 days into dates\n");
            statement.execute("CREATE VIEW mine AS SELECT date FROM dates; DELETE FROM dates WHERE year = 2025");
            assertThat(mile("dates", "--into", "house")).containsExactly("0", "", "refreshed 730 days into dates\n");
            try (ResultSet row = statement.executeQuery("SELECT count(*), count(DISTINCT date) FROM mine")) {
                row.next();
                assertThat(row.getInt(1)).isEqualTo(730);
                assertThat(row.getInt(2)).isEqualTo(730);
            }
            try (ResultSet row = statement.executeQuery(
                    "SELECT paid_c_period_label FROM paid_dates WHERE paid_date = '2026-02-01'")) {
                row.next();
                assertThat(row.getString(1)).isEqualTo("FY2026 P02");
            }
            assertThat(mile("dates", "--into", "house", "--columns", "date,year")[2])
                    .contains("the table 'dates' of the warehouse 'house' has other columns than this date dimension");
            assertThat(mile("dates", "--into", "hose")[2]).contains("unknown warehouse 'hose'; did you mean 'house'?");
        }
    }

    @Test
    void anotherDatabaseReadsTablesAndTakesDatesToo() throws Exception {
        String url = "jdbc:h2:" + folder.resolve("books");
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "CREATE TABLE \"sales\" (\"day\" DATE, \"paid\" TIMESTAMP WITH TIME ZONE, \"amount\" NUMERIC(10, 2));"
                            + "INSERT INTO \"sales\" VALUES ('2026-01-05', '2026-01-31 23:30:00Z', 10.10), ('2025-01-06', NULL, 2)");
        }
        Files.writeString(
                folder.resolve("mile.yaml"),
                """
                mile: 1
                zone: Europe/Berlin
                as_of: 2026-02-28
                calendars: {c: {year_starts: january}}
                warehouses: {house: {url: "%s"}}
                facts: {sales: {source: {table: sales, in: house}, dates: {ordered: day, paid: paid}, covers: {from: 2025-01-01}}}
                measures: {sales: sum(sales.amount), ly: sales over 1 year back in full, paid: sales on paid}
                reports: {r: {rows: [month], show: [sales, ly, paid], totals: false}}
                """
                        .formatted(url));
        assertThat(mile("report", "r", "--as", "csv", "--quiet"))
                .containsExactly(
                        "0",
                        """
                        month,sales,ly,paid
                        FY2025 P01,2.00,,
                        FY2026 P01,10.10,2.00,
                        FY2026 P02,,,10.10
                        """,
                        "");
        assertThat(mile("dates", "--into", "house")).containsExactly("0", "", "loaded 730 days into dates\n");
        assertThat(mile("dates", "--into", "house")).containsExactly("0", "", "refreshed 730 days into dates\n");
        try (Connection connection = DriverManager.getConnection(url);
                ResultSet row = connection
                        .createStatement()
                        .executeQuery("SELECT \"paid_c_period_label\" FROM \"paid_dates\" WHERE \"paid_date\" ="
                                + " DATE '2026-02-01'")) {
            row.next();
            assertThat(row.getString(1)).isEqualTo("FY2026 P02");
        }
    }
}
