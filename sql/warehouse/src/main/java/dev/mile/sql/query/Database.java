package dev.mile.sql.query;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.StoppedException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** A database that is asked in SQL: statements, rows, and errors in words. Safe for use by several threads. */
public abstract class Database implements AutoCloseable {
    private static final String CAUSE = "\nError: ";

    private final BackgroundCalls calls = new BackgroundCalls();

    /** Reads a row. */
    public interface Row<T> {
        T read(ResultSet row) throws SQLException;
    }

    /** Something that is done with a connection. */
    @FunctionalInterface
    public interface OnConnection<T> {
        T apply(Connection connection) throws SQLException;
    }

    /**
     * Does something with a connection that no other thread uses meanwhile, on a thread of its own.
     *
     * @throws SQLException if it fails
     * @throws StoppedException if the thread is interrupted, which waits no longer than a moment for what then ends in the background
     */
    public <T> T withConnection(OnConnection<T> work) throws SQLException {
        return calls.call(() -> useConnection(work), late -> {});
    }

    /** Does something with a connection that no other thread uses meanwhile, on this thread. */
    protected abstract <T> T useConnection(OnConnection<T> work) throws SQLException;

    /** Returns the calls of this database, on threads of their own. */
    protected final BackgroundCalls calls() {
        return calls;
    }

    /** Runs a statement and leaves its rows open; other statements may run meanwhile. */
    public abstract Cursor open(String sql);

    @Override
    public abstract void close();

    /**
     * Executes a statement, which is cancelled where the thread is interrupted; databases that know their progress report it meanwhile.
     */
    protected <T> T during(Statement statement, StatementCall<T> work) throws SQLException {
        return StatementCanceller.during(statement, work);
    }

    /** Runs a statement that has no rows. */
    public void run(String sql) {
        try {
            withConnection(connection -> {
                try (Statement statement = connection.createStatement()) {
                    return during(statement, () -> statement.execute(sql));
                }
            });
        } catch (SQLException e) {
            throw failed(e, sql);
        }
    }

    /**
     * Runs a statement that writes a file. Who is interrupted waits until it has ended, so that no file appears afterwards.
     */
    public final void write(String sql) {
        try {
            useConnection(connection -> {
                try (Statement statement = connection.createStatement()) {
                    return during(statement, () -> statement.execute(sql));
                }
            });
        } catch (SQLException e) {
            throw failed(e, sql);
        }
    }

    /** Drops tables that are needed no longer, even where the thread is interrupted: when no statement that was left uses them. */
    public final void drop(String... tables) {
        calls.end(() -> dropNow(tables));
    }

    private void dropNow(String... tables) {
        try {
            useConnection(connection -> {
                try (Statement statement = connection.createStatement()) {
                    for (String table : tables) {
                        statement.execute("DROP TABLE IF EXISTS " + table);
                    }
                    return tables;
                }
            });
        } catch (SQLException e) {
            throw failed(e, "DROP TABLE");
        }
    }

    /** Returns what the reader makes of each row. */
    public final <T> List<T> query(String sql, Row<T> row) {
        return read(sql, result -> {
            List<T> rows = new ArrayList<>();
            while (result.next()) {
                rows.add(row.read(result));
            }
            return rows;
        });
    }

    /** Returns what the reader makes of all rows. */
    public <T> T read(String sql, Row<T> reader) {
        try {
            return withConnection(connection -> {
                try (Statement statement = connection.createStatement();
                        ResultSet result = during(statement, () -> statement.executeQuery(sql))) {
                    return reader.read(result);
                }
            });
        } catch (SQLException e) {
            throw failed(e, sql);
        }
    }

    /**
     * Returns what failed, in words.
     *
     * @throws StoppedException if it failed because the thread was interrupted
     */
    public MileException failed(SQLException e, String sql) {
        if (Thread.currentThread().isInterrupted()) {
            throw StoppedException.interrupted(e);
        }
        String message = String.valueOf(e.getMessage());
        boolean large =
                message.contains("Overflow") || message.contains("overflow") || message.contains("out of range");
        if (large && remedy(message).isEmpty()) {
            return DataException.of(
                            "a number is larger than 38 digits can hold; round the columns that are multiplied or added: %s",
                            firstLine(message))
                    .withCause(e);
        }
        return DataException.of("the data cannot be read: %s%s", firstLine(message), remedy(message))
                .withCause(new SQLException(message + "\nin: " + sql, e));
    }

    /** Returns what to do about a file that is not what its name says. */
    private static String remedy(String message) {
        return message.matches("(?is).*(too small to be a parquet|magic bytes|thrift|footer|decompress|corrupt).*")
                ? "; the file is damaged, or was not written to its end: have it written again"
                : "";
    }

    /** Returns the first line of what a driver says, which may come after one that says that the statement failed. */
    public static String firstLine(String message) {
        String cause = message.substring(message.indexOf(CAUSE) + 1);
        return cause.lines()
                .findFirst()
                .orElse(cause)
                .replaceFirst("^Error: ", "")
                .replace("Invalid Input Error: ", "");
    }
}
