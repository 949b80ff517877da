package dev.mile.sql.query;

import dev.mile.MileException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/** Rows that are read while they come, on a connection of their own, which is closed with them. */
public final class StreamingCursor implements Cursor {
    private final Database database;
    private final Connection connection;
    private final Statement statement;
    private final ResultSet rows;
    private final String sql;

    private StreamingCursor(Database database, Connection connection, Statement statement, String sql)
            throws SQLException {
        this.database = database;
        this.connection = connection;
        this.statement = statement;
        this.sql = sql;
        this.rows = statement.executeQuery(sql);
    }

    /** Runs the statement, which belongs to the connection; both are closed with the rows, or where it fails. */
    public static StreamingCursor of(Database database, Connection connection, Statement statement, String sql)
            throws SQLException {
        try {
            return new StreamingCursor(database, connection, statement, sql);
        } catch (SQLException e) {
            database.onClosed(statement);
            closed(connection, e);
            throw e;
        }
    }

    private static void closed(Connection connection, SQLException because) {
        try {
            connection.close();
        } catch (SQLException e) {
            because.addSuppressed(e);
        }
    }

    @Override
    public ResultSet rows() {
        return rows;
    }

    @Override
    public MileException failed(SQLException e) {
        return database.failed(e, sql);
    }

    @Override
    public void close() {
        database.onClosed(statement);
        try (connection;
                statement) {
            rows.close();
        } catch (SQLException e) {
            throw MileException.invalidData("the rows of a statement do not close: %s", e.getMessage())
                    .withCause(e);
        }
    }
}
