package dev.mile.sql.query;

import dev.mile.DataException;
import dev.mile.MileException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.function.BiFunction;
import java.util.function.Consumer;

/** Rows that are read while they come, on a connection of their own, which is closed with them. */
public final class StreamingCursor implements Cursor {
    private final BiFunction<SQLException, String, MileException> errors;
    private final Consumer<Statement> closing;
    private final Connection connection;
    private final Statement statement;
    private final ResultSet rows;
    private final String sql;

    private StreamingCursor(
            Connection connection,
            Statement statement,
            String sql,
            BiFunction<SQLException, String, MileException> errors,
            Consumer<Statement> closing)
            throws SQLException {
        this.errors = errors;
        this.closing = closing;
        this.connection = connection;
        this.statement = statement;
        this.sql = sql;
        this.rows = statement.executeQuery(sql);
    }

    /**
     * Runs the statement, which belongs to the connection; both are closed with the rows, or where it fails.
     *
     * @param errors words what fails later
     * @param closing receives the statement when it closes
     */
    public static StreamingCursor of(
            Connection connection,
            Statement statement,
            String sql,
            BiFunction<SQLException, String, MileException> errors,
            Consumer<Statement> closing)
            throws SQLException {
        try {
            return new StreamingCursor(connection, statement, sql, errors, closing);
        } catch (SQLException e) {
            closing.accept(statement);
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
        return errors.apply(e, sql);
    }

    @Override
    public void close() {
        closing.accept(statement);
        try (connection;
                statement) {
            rows.close();
        } catch (SQLException e) {
            throw DataException.of("the rows of a statement do not close: %s", e.getMessage())
                    .withCause(e);
        }
    }
}
