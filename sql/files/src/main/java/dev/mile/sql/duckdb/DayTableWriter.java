package dev.mile.sql.duckdb;

import dev.mile.DataException;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.DayTable;
import java.sql.SQLException;
import java.util.List;
import java.util.stream.Collectors;
import org.duckdb.DuckDBAppender;
import org.duckdb.DuckDBConnection;

/** Writes the table of days that time between dates is counted with into the embedded database. */
public final class DayTableWriter {
    private DayTableWriter() {}

    /** Writes the rows into a new table. */
    public static void write(Database database, String table, DayTable.Rows rows) {
        String columns = rows.columns().stream()
                .map(column -> column + (DayTable.isSmall(column) ? " INTEGER" : " BIGINT"))
                .collect(Collectors.joining(", "));
        database.run("CREATE OR REPLACE TABLE " + Sql.name(table) + " (" + columns + ")");
        try {
            database.withConnection(connection -> {
                try (DuckDBAppender appender =
                        connection.unwrap(DuckDBConnection.class).createAppender("main", table)) {
                    for (List<Long> day : rows.days()) {
                        appender.beginRow();
                        for (int c = 0; c < day.size(); c++) {
                            if (day.get(c) == null) {
                                appender.appendNull();
                            } else if (DayTable.isSmall(rows.columns().get(c))) {
                                appender.append(day.get(c).intValue());
                            } else {
                                appender.append(day.get(c).longValue());
                            }
                        }
                        appender.endRow();
                    }
                    return table;
                }
            });
        } catch (SQLException e) {
            throw DataException.of("the table of days cannot be written: %s", e.getMessage())
                    .withCause(e);
        }
    }
}
