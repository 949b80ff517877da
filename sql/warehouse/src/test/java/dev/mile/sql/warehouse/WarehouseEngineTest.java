package dev.mile.sql.warehouse;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import dev.mile.MileException;
import dev.mile.SourceLocation;
import dev.mile.StoppedException;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.Engine;
import dev.mile.engine.Source;
import dev.mile.engine.Warehouse;
import dev.mile.fact.Fact;
import dev.mile.fact.ValueType;
import dev.mile.measure.Measure;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.ReportOptions;
import dev.mile.report.Session;
import dev.mile.testkit.EngineContract;
import dev.mile.testkit.TestRows;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.Month;
import java.time.ZoneId;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The contract of engines, and what only a warehouse can do, on a real PostgreSQL. */
class WarehouseEngineTest extends EngineContract {
    private static EmbeddedPostgres server;
    private static int schemas;

    @BeforeAll
    static void start() throws IOException {
        server = EmbeddedPostgres.builder().start();
    }

    @AfterAll
    static void stop() throws IOException {
        server.close();
    }

    private static Warehouse warehouse(String url) {
        return Warehouse.of("warehouse", url)
                .withUser("postgres")
                .withTimeout(Duration.ofMinutes(1))
                .withLocation(SourceLocation.of("mile.yaml", 9, 5));
    }

    private static Warehouse warehouse() {
        return warehouse(server.getJdbcUrl("postgres", "postgres"));
    }

    private static Source source(String table) {
        return Source.table(table, "warehouse").withLocation(SourceLocation.of("mile.yaml", 12, 5));
    }

    private static Connection connection() {
        try {
            return server.getPostgresDatabase().getConnection();
        } catch (SQLException e) {
            throw new AssertionError(e);
        }
    }

    private static void run(String... statements) {
        TestTables.run(connection(), statements);
    }

    @Override
    protected Engine engine(Project project, Map<String, TestRows> rows) {
        String schema = "s" + schemas++;
        run("CREATE SCHEMA " + schema);
        Map<String, Source> sources = new LinkedHashMap<>();
        rows.forEach((name, table) -> {
            TestTables.write(connection(), schema, name, table, "NUMERIC");
            sources.put(name, source(schema + "." + name));
        });
        return WarehouseEngine.over(project.schema().withSources(sources), warehouse());
    }

    @Override
    protected int shallowRandomRows() {
        return 2;
    }

    private static WarehouseEngine over(Fact fact, String table, String zone, Warehouse warehouse) {
        return WarehouseEngine.over(
                DataSchema.of(Map.of(fact.name(), fact), Map.of())
                        .withSources(Map.of(fact.name(), source(table)))
                        .withZone(ZoneId.of(zone)),
                warehouse);
    }

    @Test
    void columnsHaveTheTypesOfTheirTableAndTimesTheDayOfTheZone() {
        run(
                "CREATE TABLE typed (code CHAR(5), whole INTEGER, price NUMERIC(12, 4), share REAL, at TIMESTAMPTZ, plain"
                        + " TIMESTAMP, day DATE, open BOOLEAN, note TEXT)",
                "INSERT INTO typed VALUES ('007', 7, 1.2500, 0.5, '2026-03-28 23:30:00Z', '2026-03-28 03:30', 'infinity',"
                        + " true, ''), ('8', 8, 2, 0.1, '2026-03-29 12:00:00Z', NULL, '2026-03-29', false, 'x')");
        Fact fact = Fact.of("t", "at", "at")
                .withDate("plain", "plain")
                .withDate("day", "day")
                .withDayStart(LocalTime.of(4, 0));
        try (WarehouseEngine engine = over(fact, "typed", "Europe/Berlin", warehouse())) {
            assertThat(engine.columns("t"))
                    .containsEntry("code", ValueType.TEXT)
                    .containsEntry("whole", ValueType.NUMBER)
                    .containsEntry("price", ValueType.NUMBER)
                    .containsEntry("share", ValueType.FLOATING)
                    .containsEntry("day", ValueType.DATE)
                    .containsEntry("open", ValueType.TEXT);
            // half past midnight in Berlin, and half past three, belong to the day before; infinity to none
            assertThat(engine.dates("t"))
                    .extracting(d -> d.role() + " " + LocalDate.ofEpochDay(d.day()))
                    .containsExactly("at 2026-03-28", "at 2026-03-29", "plain 2026-03-27", "day 2026-03-29");
        }
    }

    @ParameterizedTest
    @CsvSource({"Europe/Berlin, 2026-03-29", "Pacific/Honolulu, 2026-03-28", "UTC+2, 2026-03-29", "-10:00, 2026-03-28"})
    void timesHaveTheDayOfTheZone(String zone, LocalDate day) {
        run("CREATE TABLE IF NOT EXISTS zoned AS SELECT TIMESTAMPTZ '2026-03-28 23:30:00Z' AS at");
        try (WarehouseEngine engine = over(Fact.of("t", "on", "at"), "zoned", zone, warehouse())) {
            assertThat(LocalDate.ofEpochDay(engine.dates("t").get(0).day())).isEqualTo(day);
            assertThat(engine.rows("t").textAt("at", 0)).isEqualTo(day.toString());
        }
    }

    @Test
    void textsThatAreNoDatesAreMarked() {
        run(
                "CREATE TABLE texts (day TEXT)",
                "INSERT INTO texts VALUES ('2026-02-28'), (' 2024-02-29 '), ('2026-02-29'), ('2026-13-01'), ('0000-01-01'),"
                        + " ('1/2/2026'), (''), (NULL)");
        try (WarehouseEngine engine = over(Fact.of("t", "on", "day"), "texts", "UTC", warehouse())) {
            assertThat(engine.dates("t"))
                    .extracting(DateCount::day)
                    .containsExactly(
                            LocalDate.of(2024, 2, 29).toEpochDay(),
                            LocalDate.of(2026, 2, 28).toEpochDay());
        }
    }

    private static final Project PROJECT = Project.named("warehouse")
            .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
            .dates(DateBound.at(LocalDate.of(2026, 1, 1)), DateBound.at(LocalDate.of(2026, 12, 31)))
            .fact(Fact.of("t", "on", "day"))
            .measure("n", Measure.count("t"))
            .report(Report.of("r", List.of("year"), List.of("n")))
            .build();

    @Test
    void aConnectionThatIsLostIsTriedOnceMore() {
        run("CREATE TABLE lost (day DATE)", "INSERT INTO lost VALUES ('2026-01-05'), ('2026-02-05')");
        try (Session session =
                Session.open(PROJECT, () -> over(PROJECT.facts().get("t"), "lost", "UTC", warehouse()))) {
            session.dimension();
            session.check();
            run("SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE pid <> pg_backend_pid() AND usename ="
                    + " 'postgres' AND state LIKE 'idle%'");
            assertThat(session.report("r").rows().get(0).values().get(0).decimal())
                    .isEqualByComparingTo("2");
        }
    }

    @Test
    void nothingIsWrittenAndWhatFailsIsSaidWithoutThePassword(@TempDir Path folder) throws IOException {
        run("CREATE TABLE locked (day DATE)");
        try (WarehouseEngine engine = over(PROJECT.facts().get("t"), "locked", "UTC", warehouse())) {
            assertThatThrownBy(() -> engine.database().read("DELETE FROM locked RETURNING 1", row -> 1))
                    .hasMessageContaining("read-only transaction");
        }
        assertThatThrownBy(() -> over(PROJECT.facts().get("t"), "nowhere_to_be_found", "UTC", warehouse())
                        .columns("t"))
                .isInstanceOf(MileException.class)
                .hasMessage(
                        "mile.yaml:12:5: the warehouse 'warehouse' has no table nowhere_to_be_found; check its name, and write another schema as"
                                + " schema.table");
        SourceLocation place = SourceLocation.of("m", 1, 1);
        Warehouse slow = warehouse().withTimeout(Duration.ofSeconds(1)).withLocation(place);
        run("CREATE VIEW slow AS SELECT DATE '2026-01-05' AS day FROM pg_sleep(20)");
        assertThatThrownBy(() ->
                        over(PROJECT.facts().get("t"), "slow", "UTC", slow).dates("t"))
                .hasMessage(
                        "m:1:1: the warehouse 'warehouse' took longer than 1 seconds; allow it more time, or ask for less");
        Path secret = Files.writeString(folder.resolve("secret"), "hunter2-wrong\n");
        run("CREATE ROLE analyst LOGIN PASSWORD 'right'");
        Warehouse closed = Warehouse.of("warehouse", "jdbc:postgresql://localhost:1/none")
                .withUser("analyst")
                .withPassword(new Warehouse.PasswordSource.FirstLine(secret.toString()))
                .withTimeout(Duration.ofSeconds(5))
                .withLocation(place);
        assertThatThrownBy(
                        () -> over(PROJECT.facts().get("t"), "x", "UTC", closed).columns("t"))
                .hasMessageStartingWith("m:1:1: the warehouse 'warehouse' cannot be reached: ")
                .hasMessageNotContaining("hunter2");
        assertThat(closed.toString()).doesNotContain("hunter2");
        Warehouse unset = closed.withPassword(new Warehouse.PasswordSource.Variable("MILE_NO_SUCH_VARIABLE"));
        assertThatThrownBy(
                        () -> over(PROJECT.facts().get("t"), "x", "UTC", unset).columns("t"))
                .hasMessage(
                        "m:1:1: the password of the warehouse 'warehouse' should be in the variable MILE_NO_SUCH_VARIABLE, which is"
                                + " not set");
    }

    @Test
    void connectionsOfAPoolAreBorrowedAndGivenBackAsTheyWere() throws Exception {
        run("CREATE TABLE pooled (day DATE)", "INSERT INTO pooled VALUES ('2026-01-05'), ('2026-02-05')");
        DataSchema schema = PROJECT.schema().withSources(Map.of("t", source("pooled")));
        try (TestPool pool = new TestPool(server.getPostgresDatabase(), 2)) {
            try (Session session = Session.open(PROJECT, () -> WarehouseEngine.over(schema, pool.connections()))) {
                List<Callable<Grid>> reports =
                        Collections.nCopies(8, () -> session.report(Report.of("r", List.of("month"), List.of("n"))));
                ExecutorService threads = Executors.newFixedThreadPool(4);
                for (Future<Grid> report : threads.invokeAll(reports)) {
                    assertThat(report.get().row("FY2026 P02").number("n")).hasValue(BigDecimal.ONE);
                }
                threads.shutdown();
            }
            pool.checkAllAreBack();
        }
        try (WarehouseEngine refused = WarehouseEngine.over(schema, warehouse(), refusing())) {
            assertThatThrownBy(() -> refused.columns("t"))
                    .hasMessage(
                            "mile.yaml:9:5: the warehouse 'warehouse' cannot be reached: no connection is free; check the pool"
                                    + " that its connections come from");
        }
        assertThatThrownBy(() -> WarehouseEngine.over(schema, refusing()))
                .hasMessage("the database cannot be reached: no connection is free");
    }

    private static DataSource refusing() throws SQLException {
        DataSource refusing = mock(DataSource.class);
        when(refusing.getConnection()).thenThrow(new SQLException("no connection is free"));
        return refusing;
    }

    @Test
    void aReportOutOfTimeCancelsItsStatement() throws SQLException {
        run("CREATE VIEW endless AS SELECT DATE '2026-01-05' AS day FROM pg_sleep(3600)");
        try (Session session =
                Session.open(PROJECT, () -> over(PROJECT.facts().get("t"), "endless", "UTC", warehouse()))) {
            assertThatThrownBy(() -> session.report(
                            PROJECT.report("r"), ReportOptions.DEFAULT.withTimeout(Duration.ofMillis(300))))
                    .isInstanceOf(StoppedException.class)
                    .hasMessage("stopped after 0.3 seconds; allow more time, or ask for less");
            run("CREATE OR REPLACE VIEW endless AS SELECT DATE '2026-01-05' AS day");
            assertThat(session.report("r").rows()).hasSize(2);
        }
        try (Connection connection = connection();
                Statement statement = connection.createStatement();
                ResultSet running =
                        statement.executeQuery("SELECT count(*) FROM pg_stat_activity WHERE state = 'active'"
                                + " AND pid <> pg_backend_pid() AND query LIKE '%endless%'")) {
            running.next();
            assertThat(running.getInt(1)).isZero();
        }
    }

    @Test
    void numbersThatAreNoneAreRefused() {
        run(
                "CREATE TABLE odd (day DATE, exact NUMERIC, floating FLOAT8)",
                "INSERT INTO odd VALUES ('2026-01-05', 'NaN', 'NaN')");
        for (Measure measure : List.of(
                Measure.sum("t", "exact"),
                Measure.max("t", "exact"),
                Measure.sum("t", "floating"),
                Measure.min("t", "floating"))) {
            Project project = PROJECT.withMeasure("odd", measure);
            try (Session session =
                    Session.open(project, () -> over(project.facts().get("t"), "odd", "UTC", warehouse()))) {
                assertThatThrownBy(() -> session.report(Report.of("r", List.of("year"), List.of("odd"))))
                        .hasMessage("a column holds an infinite number or NaN; correct the data");
            }
        }
    }
}
