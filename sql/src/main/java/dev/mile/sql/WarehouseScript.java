package dev.mile.sql;

import dev.mile.calendar.MileException;
import dev.mile.fact.Warehouse;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** Runs a script in a warehouse, all or nothing: how a date dimension gets there. Reports never write. */
public final class WarehouseScript {
    private WarehouseScript() {}

    /** Returns the columns of a table on the search path, in order; none where there is no such table. */
    public static List<String> columns(Warehouse warehouse, String table) {
        String sql = "SELECT attname FROM pg_attribute WHERE attrelid = to_regclass(" + Sql.text(Sql.name(table))
                + ") AND attnum > 0 AND NOT attisdropped ORDER BY attnum";
        List<String> columns = new ArrayList<>();
        try (Connection connection = WarehouseConnection.open(warehouse, true);
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(sql)) {
            while (row.next()) {
                columns.add(row.getString(1));
            }
        } catch (SQLException e) {
            throw failed(warehouse, e);
        }
        return columns;
    }

    /**
     * Runs statements, parted by semicolons, in one transaction.
     *
     * @throws MileException if one fails; then nothing has changed
     */
    public static void run(Warehouse warehouse, String statements) {
        try (Connection connection = WarehouseConnection.open(warehouse, false);
                Statement statement = connection.createStatement()) {
            statement.setQueryTimeout(warehouse.seconds());
            statement.execute(statements);
            connection.commit();
        } catch (SQLException e) {
            throw failed(warehouse, e);
        }
    }

    private static MileException failed(Warehouse warehouse, SQLException e) {
        return MileException.data(
                        "the warehouse '%s' refuses: %s; nothing has changed there",
                        warehouse.name(), Database.firstLine(String.valueOf(e.getMessage())))
                .causedBy(e)
                .at(warehouse.place());
    }
}
