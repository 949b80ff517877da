package dev.mile.sql.warehouse;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.engine.Warehouse;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.dialect.Dialects;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.query.Database;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** Runs statements in a warehouse, all or nothing: how a date dimension gets there. Reports never write. */
public final class WarehouseScript {
    private WarehouseScript() {}

    /**
     * {@return the columns of a table that is found without its schema, in order; none where there is no such table}
     *
     * @param warehouse the warehouse
     * @param table the table
     */
    public static List<String> columns(Warehouse warehouse, String table) {
        requireNonNull(warehouse, "warehouse is null");
        requireNonNull(table, "table is null");
        Dialect dialect = Dialects.of(warehouse);
        List<String> columns = new ArrayList<>();
        try (Connection connection = WarehouseConnection.open(warehouse, true);
                Statement statement = connection.createStatement();
                ResultSet none = statement.executeQuery("SELECT * FROM " + Sql.name(table) + " WHERE 1 = 0")) {
            ResultSetMetaData found = none.getMetaData();
            for (int c = 1; c <= found.getColumnCount(); c++) {
                columns.add(found.getColumnLabel(c));
            }
        } catch (SQLException e) {
            if (!dialect.isMissingTable(e)) {
                throw failed(warehouse, e, true);
            }
        }
        return columns;
    }

    /**
     * Runs statements in one transaction.
     *
     * @param warehouse the warehouse
     * @param statements the statements
     * @throws MileException if one fails; then nothing has changed, but in a database where making a table ends a transaction, of
     *     as the message says
     */
    public static void run(Warehouse warehouse, List<String> statements) {
        requireNonNull(warehouse, "warehouse is null");
        requireNonNull(statements, "statements is null");
        Dialects.of(warehouse);
        boolean whole = true;
        try (Connection connection = WarehouseConnection.open(warehouse, false);
                Statement statement = connection.createStatement()) {
            statement.setQueryTimeout((int) warehouse.timeout().toSeconds());
            for (String sql : statements) {
                whole &= !sql.matches("(?s)(CREATE|DROP|COMMENT) .*")
                        || !connection.getMetaData().dataDefinitionCausesTransactionCommit();
                statement.execute(sql);
            }
            connection.commit();
        } catch (SQLException e) {
            throw failed(warehouse, e, whole);
        }
    }

    private static MileException failed(Warehouse warehouse, SQLException e, boolean whole) {
        return DataException.of(
                        "the warehouse '%s' refuses: %s; %s",
                        warehouse.name(),
                        Database.firstLine(String.valueOf(e.getMessage())),
                        whole
                                ? "nothing has changed there"
                                : "making a table ends a transaction there, so it may be there without its rows: drop it")
                .withCause(e)
                .withLocationOf(warehouse);
    }
}
