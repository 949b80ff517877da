package dev.mile.sql.warehouse;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.DataException;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.measure.Measure;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Month;
import java.time.ZoneId;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Rows that a database answered, as a table in memory. */
class TableFromResultSetTest {
    private static final String ROWS = "SELECT * FROM (VALUES"
            + " (DATE '2026-01-05', CAST(1.50 AS NUMERIC(9, 2)), 3, CAST(0.5 AS DOUBLE PRECISION), CAST('S1' AS VARCHAR(9)),"
            + " TIMESTAMP WITH TIME ZONE '2026-01-05 23:30:00+00', TRUE),"
            + " (DATE '2026-02-05', 2.25, CAST(NULL AS BIGINT), NULL, CAST('' AS VARCHAR(9)),"
            + " TIMESTAMP WITH TIME ZONE '2026-02-05 01:00:00+00', NULL),"
            + " (NULL, NULL, 9000000000, -1, NULL, NULL, FALSE)) AS t(\"day\", \"net\", \"units\", \"share\", \"shop\", \"at\", \"web\")";

    private static Grid report(Table table) {
        Project project = Project.named("p")
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .fact(Fact.of("t", "on", "day").withDate("at", "at"))
                .measure("net", Measure.sum("t", "net"))
                .measure("units", Measure.sum("t", "units"))
                .measure("moments", Measure.count("t").on("at"))
                .build();
        try (Session session = Session.open(project, MemoryEngine.over(project).rows("t", table))) {
            return session.report(Report.of("r", List.of("day"), List.of("net", "units", "moments")));
        }
    }

    private static void check(Connection connection) throws SQLException {
        try (connection;
                Statement statement = connection.createStatement()) {
            try (ResultSet answer = statement.executeQuery(ROWS)) {
                Table table = Table.from(answer, ZoneId.of("Asia/Tokyo"));
                assertThat(table.rows()).isEqualTo(3);
                assertThat(table.types().values())
                        .containsExactly(
                                ValueType.DATE,
                                ValueType.NUMBER,
                                ValueType.NUMBER,
                                ValueType.FLOATING,
                                ValueType.TEXT,
                                ValueType.DATE,
                                ValueType.TEXT);
                assertThat(table.types().keySet()).containsExactly("day", "net", "units", "share", "shop", "at", "web");
            }
            try (ResultSet answer = statement.executeQuery(ROWS)) {
                Grid grid = report(Table.from(answer, ZoneId.of("Asia/Tokyo")));
                assertThat(grid.row("2026-01-05").number("net")).hasValue(new BigDecimal("1.50"));
                assertThat(grid.row("2026-01-05").number("units")).hasValue(BigDecimal.valueOf(3));
                // half past eleven in the evening of UTC is the next day there
                assertThat(grid.row("2026-01-06").number("moments")).hasValue(BigDecimal.ONE);
                assertThat(grid.row("2026-02-05").number("net")).hasValue(new BigDecimal("2.25"));
                assertThat(grid.row("2026-02-05").number("units")).isEmpty();
            }
        }
    }

    @Test
    void columnsHaveTheTypesOfTheDatabase() throws SQLException, IOException {
        check(DriverManager.getConnection("jdbc:h2:mem:"));
        try (EmbeddedPostgres server = EmbeddedPostgres.start()) {
            check(server.getPostgresDatabase().getConnection());
        }
    }

    @Test
    void typesThatMileDoesNotReadAreRefused() throws SQLException {
        try (Connection connection = DriverManager.getConnection("jdbc:h2:mem:");
                Statement statement = connection.createStatement()) {
            assertThatThrownBy(() -> Table.from(statement.executeQuery("SELECT X'00' AS \"b\"")))
                    .isInstanceOf(DataException.class)
                    .hasMessage(
                            "the column 'b' is of the type BINARY VARYING, which Mile does not read; cast it to a number, a date or"
                                    + " a text in the query");
        }
    }
}
