package dev.mile.sql.warehouse;

import dev.mile.sql.dialect.Sql;
import dev.mile.testkit.TestRows;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Tables of a warehouse under test. */
public final class TestTables {
    private TestTables() {}

    public static void run(Connection connection, String... statements) {
        try (connection;
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        } catch (SQLException e) {
            throw new AssertionError(e);
        }
    }

    /** Writes rows into a new table; the numbers as a type that is exact, with as many decimals as they have. */
    public static void write(Connection connection, String schema, String name, TestRows rows, String number) {
        List<String> types = rows.names().stream()
                .map(c -> rows.isNumber(c) ? String.format(number, decimals(rows, c)) : "VARCHAR")
                .toList();
        String columns = IntStream.range(0, types.size())
                .mapToObj(c -> Sql.name(rows.names().get(c)) + " " + types.get(c))
                .collect(Collectors.joining(", "));
        String table = Sql.name(schema) + "." + Sql.name(name);
        String values = types.stream()
                .map(type -> type.equals("VARCHAR") ? "?" : "CAST(nullif(?, '') AS " + type + ")")
                .collect(Collectors.joining(", "));
        try (connection;
                Statement create = connection.createStatement()) {
            create.execute("CREATE TABLE " + table + " (" + columns + ")");
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

    private static int decimals(TestRows rows, String column) {
        return IntStream.range(0, rows.size())
                .mapToObj(r -> rows.value(r, column))
                .mapToInt(value -> value.isEmpty() ? 0 : Math.max(0, new BigDecimal(value).scale()))
                .max()
                .orElse(0);
    }
}
