package dev.mile.sql.query;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.sql.dialect.Sql;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Properties;
import java.util.function.DoubleConsumer;
import org.duckdb.DuckDBConnection;
import org.duckdb.DuckDBDriver;

/** One connection to a database, statements, and errors in words. */
public class Database implements AutoCloseable {
    private final Connection connection;
    private DoubleConsumer progress;

    public Database(Connection connection) {
        this.connection = connection;
    }

    /** Opens an embedded database of its own. */
    public static Database embedded() {
        try {
            Properties properties = new Properties();
            // rows come while they are read, so that memory does not grow with their number
            properties.setProperty(DuckDBDriver.JDBC_STREAM_RESULTS, "true");
            Database database = new Database(DriverManager.getConnection("jdbc:duckdb:", properties));
            // nothing is written beside the user's files
            database.run("SET temp_directory = " + Sql.text(System.getProperty("java.io.tmpdir"))
                    + "; SET autoinstall_known_extensions = false; SET preserve_insertion_order = true");
            return database;
        } catch (SQLException e) {
            throw DataException.of("the embedded database does not start: %s", e.getMessage())
                    .withCause(e);
        }
    }

    /** One embedded database for all that need no tables of their own in it; opened once, and closed by the end of the program. */
    private static final class Shared {
        static final Database DATABASE = embedded();

        static {
            // files of the store are small: waking other threads takes longer than reading them
            DATABASE.run("SET threads = 1");
        }
    }

    /** Returns a connection to the embedded database that is shared in this program; tables in it need names of their own. */
    public static Database shared() {
        try {
            return new Database(
                    Shared.DATABASE.connection().unwrap(DuckDBConnection.class).duplicate());
        } catch (SQLException e) {
            throw DataException.of("the embedded database does not start: %s", e.getMessage())
                    .withCause(e);
        }
    }

    public Connection connection() {
        return connection;
    }

    /** Has somebody told which share of a long statement is done; for the embedded database alone. */
    public void onProgress(DoubleConsumer listener) {
        // asked for, not printed by the database itself
        run("SET enable_progress_bar = true; SET enable_progress_bar_print = false");
        progress = listener;
    }

    public void run(String sql) {
        try (Statement statement = connection().createStatement()) {
            StatementProgress.during(statement, progress, () -> statement.execute(sql));
        } catch (SQLException e) {
            throw failed(e, sql);
        }
    }

    /** Reads a row. */
    public interface Row<T> {
        T read(ResultSet row) throws SQLException;
    }

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
        try (Statement statement = connection().createStatement();
                ResultSet result = StatementProgress.during(statement, progress, () -> statement.executeQuery(sql))) {
            return reader.read(result);
        } catch (SQLException e) {
            throw failed(e, sql);
        }
    }

    /** Runs a statement and leaves its rows open; other statements may run meanwhile. */
    public Cursor open(String sql) {
        try {
            Connection own = connection.unwrap(DuckDBConnection.class).duplicate();
            Statement statement = own.createStatement();
            return StatementProgress.during(
                    statement, progress, () -> StreamingCursor.of(own, statement, sql, this::failed, this::onClosed));
        } catch (SQLException e) {
            throw failed(e, sql);
        }
    }

    /** Is told when the rows of an open statement are closed. */
    protected void onClosed(Statement statement) {}

    public MileException failed(SQLException e, String sql) {
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

    public static String firstLine(String message) {
        return message.lines().findFirst().orElse(message).replace("Invalid Input Error: ", "");
    }

    @Override
    public void close() {
        try {
            connection.close();
        } catch (SQLException e) {
            throw DataException.of("the database does not close: %s", e.getMessage())
                    .withCause(e);
        }
    }
}
