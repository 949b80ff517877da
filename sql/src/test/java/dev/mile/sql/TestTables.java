package dev.mile.sql;

import dev.mile.report.Rows;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Collectors;

/** Tables of a warehouse under test. */
final class TestTables {
    private TestTables() {}

    static void run(Connection connection, String... statements) {
        try (connection;
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        } catch (SQLException e) {
            throw new AssertionError(e);
        }
    }

    /** Writes rows into a new table; the numbers as a type that is exact. */
    static void write(Connection connection, String schema, String name, Rows rows, String number) {
        List<String> columns = rows.names().stream()
                .map(c -> Sql.name(c) + " " + (rows.isNumber(c) ? number : "VARCHAR"))
                .toList();
        String table = Sql.name(schema) + "." + Sql.name(name);
        String values = rows.names().stream()
                .map(c -> rows.isNumber(c) ? "CAST(nullif(?, '') AS " + number + ")" : "?")
                .collect(Collectors.joining(", "));
        try (connection;
                Statement create = connection.createStatement()) {
            create.execute("CREATE TABLE " + table + " (" + String.join(", ", columns) + ")");
            try (PreparedStatement insert =
                    connection.prepareStatement("INSERT INTO " + table + " VALUES (" + values + ")")) {
                for (int r = 0; r < rows.size(); r++) {
                    for (int c = 0; c < rows.names().size(); c++) {
                        insert.setString(c + 1, rows.value(r, rows.names().get(c)));
                    }
                    insert.addBatch();
                }
                insert.executeBatch();
            }
        } catch (SQLException e) {
            throw new AssertionError(e);
        }
    }
}
