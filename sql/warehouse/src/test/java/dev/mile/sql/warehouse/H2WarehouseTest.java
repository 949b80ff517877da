package dev.mile.sql.warehouse;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.SourceLocation;
import dev.mile.calendar.Level;
import dev.mile.engine.DataSchema;
import dev.mile.engine.Engine;
import dev.mile.engine.FileFormat;
import dev.mile.engine.Source;
import dev.mile.engine.Warehouse;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Spread;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.report.Project;
import dev.mile.sql.dialect.Dialects;
import dev.mile.sql.dialect.H2Dialect;
import dev.mile.sql.dialect.Sql;
import dev.mile.testkit.EngineContract;
import dev.mile.testkit.TestRows;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javax.sql.DataSource;
import org.h2.jdbcx.JdbcDataSource;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The contract of engines on a database other than PostgreSQL, in its own dialect: H2. */
class H2WarehouseTest extends EngineContract {
    private static final String URL = "jdbc:h2:mem:house";
    private static Connection open;
    private static int schemas;

    @BeforeAll
    static void start() throws SQLException {
        open = DriverManager.getConnection(URL);
    }

    @AfterAll
    static void stop() throws SQLException {
        open.close();
    }

    private static Source source(String table) {
        return Source.table(table, "house").withLocation(SourceLocation.of("mile.yaml", 12, 5));
    }

    private static Connection connection() {
        try {
            return DriverManager.getConnection(URL);
        } catch (SQLException e) {
            throw new AssertionError(e);
        }
    }

    private static Warehouse warehouse(String url) {
        return Warehouse.of("house", url).withLocation(SourceLocation.of("mile.yaml", 9, 5));
    }

    @Override
    protected Engine engine(Project project, Map<String, TestRows> rows) {
        String schema = "s" + schemas++;
        TestTables.run(connection(), "CREATE SCHEMA " + Sql.name(schema));
        Map<String, Source> sources = new LinkedHashMap<>();
        rows.forEach((name, table) -> {
            TestTables.write(connection(), schema, name, table, "NUMERIC(38, %d)");
            sources.put(name, source(schema + "." + name));
        });
        return WarehouseEngine.over(project.schema().withSources(sources), warehouse(URL));
    }

    @Override
    protected int shallowRandomRows() {
        return 1;
    }

    /** Fewer, since the database joins slowly. */
    @Override
    protected int shallowRandomProjects() {
        return 10;
    }

    private static WarehouseEngine over(Fact fact, String table, String zone) {
        return WarehouseEngine.over(
                DataSchema.of(Map.of(fact.name(), fact), Map.of())
                        .withSources(Map.of(fact.name(), source(table)))
                        .withZone(ZoneId.of(zone)),
                warehouse(URL));
    }

    private static WarehouseEngine overQuery(String query) {
        return WarehouseEngine.over(
                DataSchema.of(Map.of("t", Fact.of("t", "on", "day")), Map.of())
                        .withSources(Map.of(
                                "t", Source.query(query, "house").withLocation(SourceLocation.of("mile.yaml", 7, 13)))),
                warehouse(URL));
    }

    @Test
    void rowsOfAQueryAreLikeThoseOfATable() {
        TestTables.run(
                connection(),
                "CREATE TABLE IF NOT EXISTS \"lines\" (\"day\" DATE, \"net\" NUMERIC(9, 2), \"kind\" VARCHAR)",
                "DELETE FROM \"lines\"",
                "INSERT INTO \"lines\" VALUES (DATE '2026-05-01', 1.50, 'a;b'), (DATE '2026-05-02', 2, 'c')");
        String query =
                "SELECT \"day\", \"net\" * 2 AS \"twice\" FROM \"lines\" WHERE \"kind\" = 'a;b' -- those; only\n;";
        try (WarehouseEngine engine = overQuery(query)) {
            assertThat(engine.columns("t").keySet()).containsExactly("day", "twice");
            assertThat(engine.dates("t"))
                    .extracting(d -> LocalDate.ofEpochDay(d.day()))
                    .containsExactly(LocalDate.parse("2026-05-01"));
        }
    }

    @Test
    void aBorrowedConnectionKeepsItsZone() throws SQLException {
        TestTables.run(
                connection(),
                "CREATE TABLE IF NOT EXISTS \"moments\" (\"at\" TIMESTAMP WITH TIME ZONE)",
                "DELETE FROM \"moments\"",
                "INSERT INTO \"moments\" VALUES (TIMESTAMP WITH TIME ZONE '2026-05-01 23:30:00+00')");
        JdbcDataSource source = new JdbcDataSource();
        source.setURL(URL);
        Fact fact = Fact.of("t", "on", "at");
        DataSchema schema = DataSchema.of(Map.of("t", fact), Map.of())
                .withSources(Map.of("t", source("moments")))
                .withZone(ZoneId.of("Asia/Tokyo"));
        try (TestPool pool = new TestPool(source, 1)) {
            String before = zone(pool.connections());
            try (WarehouseEngine engine = WarehouseEngine.over(schema, pool.connections())) {
                assertThat(engine.dates("t"))
                        .extracting(d -> LocalDate.ofEpochDay(d.day()))
                        .containsExactly(LocalDate.parse("2026-05-02"));
            }
            pool.checkAllAreBack();
            assertThat(zone(pool.connections())).isEqualTo(before).doesNotContain("Tokyo");
        }
    }

    private static String zone(DataSource pool) throws SQLException {
        try (Connection connection = pool.getConnection();
                Statement statement = connection.createStatement();
                ResultSet zone = statement.executeQuery(
                        "SELECT SETTING_VALUE FROM INFORMATION_SCHEMA.SETTINGS WHERE SETTING_NAME = 'TIME ZONE'")) {
            zone.next();
            return zone.getString(1);
        }
    }

    @Test
    void columnsOfATableBecomeRows() {
        TestTables.run(
                connection(),
                "CREATE TABLE IF NOT EXISTS \"wide\" (\"shop\" VARCHAR, \"jan\" NUMERIC(9, 2), \"feb\" INTEGER, \"year\" INTEGER,"
                        + " \"note\" VARCHAR)",
                "DELETE FROM \"wide\"",
                "INSERT INTO \"wide\" VALUES ('S1', 1.50, 2, 2026, 'x'), ('S2', NULL, 4, 2025, NULL)");
        Fact fact = Fact.of("t", "on", "month").withGrain(Grain.of(Level.PERIOD), Spread.DAYS);
        FileFormat.Unpivot months = new FileFormat.Unpivot("jan", "feb", "month", "amount", "{column} {year}");
        Source.InWarehouse table = (Source.InWarehouse) source("wide");
        try (WarehouseEngine engine = unpivoted(fact, table, months)) {
            assertThat(engine.columns("t").keySet()).containsExactly("shop", "year", "note", "month", "amount");
            Table rows = engine.rows("t");
            List<String> found = new ArrayList<>();
            for (int row = 0; row < rows.rows(); row++) {
                found.add(
                        rows.textAt("shop", row) + " " + rows.textAt("month", row) + " " + rows.textAt("amount", row));
            }
            assertThat(found).containsExactlyInAnyOrder("S1 jan 2026 1.50", "S1 feb 2026 2.00", "S2 feb 2025 4.00");
        }
        assertThatThrownBy(() -> unpivoted(fact, table, new FileFormat.Unpivot("jan", "note", "m", "v", "{column}"))
                        .columns("t"))
                .hasMessageContaining(
                        "the columns to unpivot are jan..note, of which jan holds exact numbers and note holds texts; take columns of"
                                + " one kind");
    }

    private static WarehouseEngine unpivoted(Fact fact, Source.InWarehouse table, FileFormat.Unpivot columns) {
        return WarehouseEngine.over(
                DataSchema.of(Map.of("t", fact), Map.of()).withSources(Map.of("t", Source.unpivoted(table, columns))),
                warehouse(URL));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            DELETE FROM "lines"                     | a `query` reads rows, so it begins with select or with; found 'DELETE FROM "lines"'
            SELECT 1; DELETE FROM "lines"           | a `query` is one statement; found a semicolon inside, so take out what follows it
            SELECT 1) AS a, (SELECT 2               | the brackets of the `query` do not match; correct them
            SELECT 1 AS "daz"                       | the date role 'on' of 't' is the column 'day', which the query lacks; did you mean 'daz'?
            SELECT nothing                          | Column "NOTHING" not found
            """)
    void queriesOnlyRead(String query, String message) {
        assertThatThrownBy(() -> overQuery(query).columns("t"))
                .hasMessageStartingWith("mile.yaml:7:13: ")
                .hasMessageContaining(message);
    }

    // half past eleven in the evening of UTC, with days that begin at four
    @ParameterizedTest
    @CsvSource({
        "Europe/Berlin, 2026-03-28",
        "UTC, 2026-03-28",
        "+05:30, 2026-03-29",
        "UTC-12:00, 2026-03-28",
        "Z, 2026-03-28"
    })
    void timesHaveTheDayOfTheZone(String zone, LocalDate day) {
        TestTables.run(
                connection(),
                "CREATE TABLE IF NOT EXISTS \"zoned\" (\"at\" TIMESTAMP WITH TIME ZONE)",
                "DELETE FROM \"zoned\"",
                "INSERT INTO \"zoned\" VALUES ('2026-03-28 23:30:00Z')");
        Fact fact = Fact.of("t", "at", "at").withDayStart(LocalTime.of(4, 0));
        try (WarehouseEngine engine = over(fact, "zoned", zone)) {
            assertThat(engine.dates("t"))
                    .extracting(d -> LocalDate.ofEpochDay(d.day()))
                    .containsExactly(day);
        }
    }

    @Test
    void columnsHaveTheTypesOfTheirTable() {
        TestTables.run(
                connection(),
                "CREATE TABLE \"typed\" (\"code\" CHAR(5), \"whole\" TINYINT, \"price\" NUMERIC(12, 4), \"share\" REAL, \"day\""
                        + " DATE, \"open\" BOOLEAN, \"text\" VARCHAR)",
                "INSERT INTO \"typed\" VALUES ('007', 7, 1.2500, 0.5, '2026-03-29', true, '2026-02-28'), ('8', 100, 2, 0.25,"
                        + " '2026-03-29', false, '2026-02-29')");
        Fact fact = Fact.of("t", "day", "day").withDate("text", "text");
        try (WarehouseEngine engine = over(fact, "typed", "Pacific/Chatham")) {
            assertThat(engine.columns("t"))
                    .containsEntry("code", ValueType.TEXT)
                    .containsEntry("whole", ValueType.NUMBER)
                    .containsEntry("share", ValueType.FLOATING)
                    .containsEntry("day", ValueType.DATE);
            Table rows = engine.rows("t");
            // whole days, though the machine's zone is another; codes without the blanks that fill them up
            assertThat(List.of("code", "whole", "day", "open"))
                    .map(column -> rows.textAt(column, 1))
                    .containsExactly("8", "100", "2026-03-29", "false");
            assertThat(engine.dates("t"))
                    .extracting(d -> d.role() + " " + LocalDate.ofEpochDay(d.day()) + " " + d.rows())
                    .containsExactly("day 2026-03-29 2", "text 2026-02-28 1");
            assertThat(engine.example("t", "day", LocalDate.of(2026, 3, 29).toEpochDay()))
                    .contains("007,7,1.2500,0.5,2026-03-29,true,2026-02-28");
        }
    }

    @Test
    void aNameInOtherLettersIsPutRight() {
        TestTables.run(connection(), "CREATE TABLE takings (on_day DATE)");
        assertThatThrownBy(() ->
                        over(Fact.of("t", "on", "ON_DAY"), "takings", "UTC").columns("t"))
                .hasMessage(
                        "mile.yaml:12:5: the warehouse 'house' has no table takings; did you mean 'TAKINGS'; check its name, and"
                                + " write another schema as schema.table");
    }

    @Test
    void aScriptThatFailsTellsWhatMayBeLeftOfIt() {
        assertThatThrownBy(() -> WarehouseScript.run(
                        warehouse(URL),
                        List.of("CREATE TABLE \"half\" (a INTEGER)", "INSERT INTO \"none\" VALUES (1)")))
                .hasMessageStartingWith("mile.yaml:9:5: the warehouse 'house' refuses: Table \"none\" not found")
                .hasMessageEndingWith(
                        "making a table ends a transaction there, so it may be there without its rows: drop it");
        assertThatThrownBy(() ->
                        WarehouseScript.run(warehouse(URL), List.of("DELETE FROM \"half\"", "DELETE FROM \"none\"")))
                .hasMessageEndingWith("nothing has changed there");
        assertThat(WarehouseScript.columns(warehouse(URL), "half")).containsExactly("A");
        assertThat(WarehouseScript.columns(warehouse(URL), "none")).isEmpty();
    }

    /** A database that nobody knows, named in META-INF/services of these tests. */
    public static final class Elsewhere extends H2Dialect {
        @Override
        public String urlPrefix() {
            return "jdbc:elsewhere:";
        }
    }

    @Test
    void dialectsAreFoundOnTheClassPath() {
        assertThat(Dialects.of(warehouse("jdbc:elsewhere:house"))).isInstanceOf(Elsewhere.class);
        assertThat(Dialects.of(warehouse(URL))).isExactlyInstanceOf(H2Dialect.class);
        assertThatThrownBy(() -> Dialects.of(warehouse("jdbc:nowhere:house")))
                .hasMessage(
                        "mile.yaml:9:5: no dialect is known for the url 'jdbc:nowhere:house' of the warehouse 'house'; known:"
                                + " jdbc:elsewhere:, jdbc:postgresql:, jdbc:h2:; another is added by a class that extends"
                                + " dev.mile.sql.dialect.Dialect, named in META-INF/services");
    }
}
