package dev.mile.sql.duckdb;

import dev.mile.DataException;
import dev.mile.internal.PrivateFolder;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.query.BackgroundCalls;
import dev.mile.sql.query.Cursor;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.StatementCall;
import dev.mile.sql.query.StreamingCursor;
import java.io.IOException;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Properties;
import java.util.function.DoubleConsumer;
import java.util.function.Function;
import org.duckdb.DuckDBConnection;
import org.duckdb.DuckDBDriver;
import org.jspecify.annotations.Nullable;

/** DuckDB, embedded in this program. */
public final class EmbeddedDatabase extends Database {
    /** The size of the largest array of totals, as a power of two, that numbered groups are added up in without hashing. */
    public static final int ARRAY_BITS = 20;

    private final DuckDBConnection connection;
    private volatile @Nullable DoubleConsumer progress;

    private EmbeddedDatabase(DuckDBConnection connection) {
        this.connection = connection;
    }

    /**
     * Opens a new embedded database. The first one of a program loads a library, which takes a while.
     *
     * @throws dev.mile.StoppedException if the thread is interrupted
     */
    public static EmbeddedDatabase open() {
        try {
            return new BackgroundCalls().call(EmbeddedDatabase::opened, EmbeddedDatabase::close);
        } catch (LinkageError e) {
            throw DataException.of(
                            "the embedded database does not start: its library cannot be unpacked into %s, or loaded from there; make room"
                                    + " for it, or name another folder with the Java option -Djava.io.tmpdir=FOLDER",
                            System.getProperty("java.io.tmpdir"))
                    .withCause(e);
        } catch (SQLException e) {
            throw notStarted(e);
        }
    }

    private static EmbeddedDatabase opened() throws SQLException {
        Properties properties = new Properties();
        // rows come while they are read, so that memory does not grow with their number
        properties.setProperty(DuckDBDriver.JDBC_STREAM_RESULTS, "true");
        EmbeddedDatabase database = new EmbeddedDatabase(
                DriverManager.getConnection("jdbc:duckdb:", properties).unwrap(DuckDBConnection.class));
        // nothing is written beside the user's files
        database.run("SET temp_directory = " + Sql.text(temporaryFolder())
                + "; SET autoinstall_known_extensions = false; SET preserve_insertion_order = true; SET GLOBAL perfect_ht_threshold = "
                + ARRAY_BITS);
        return database;
    }

    /** Returns where the database puts aside what does not fit into memory; empty where it may not. */
    private static String temporaryFolder() {
        try {
            return PrivateFolder.ofProcess().toString();
        } catch (IOException e) {
            return "";
        }
    }

    private static DataException notStarted(SQLException e) {
        return (DataException) DataException.of("the embedded database does not start: %s", e.getMessage())
                .withCause(e);
    }

    /** Each statement has a connection of its own to the same tables. */
    @Override
    protected <T> T useConnection(OnConnection<T> work) throws SQLException {
        try (DuckDBConnection own = duplicate()) {
            return work.apply(own);
        }
    }

    /**
     * Returns what the work makes of the same tables over one connection, on which temporary tables stay from statement to statement. It
     * begins when all that was left before has ended, since it may write the same tables.
     *
     * @throws dev.mile.StoppedException if the thread is interrupted
     */
    public <T> T onOneConnection(Function<Database, T> work) {
        calls().awaitLeftCalls();
        try {
            return calls().call(
                            () -> {
                                try (DuckDBConnection own = duplicate()) {
                                    return work.apply(new OneConnection(own));
                                }
                            },
                            late -> {});
        } catch (SQLException e) {
            throw failed(e, "");
        }
    }

    /** The database over one connection, for the thread that made it. */
    private final class OneConnection extends Database {
        private final DuckDBConnection own;

        OneConnection(DuckDBConnection own) {
            this.own = own;
        }

        @Override
        public <T> T withConnection(OnConnection<T> work) throws SQLException {
            return work.apply(own);
        }

        @Override
        protected <T> T useConnection(OnConnection<T> work) throws SQLException {
            return work.apply(own);
        }

        @Override
        protected <T> T during(Statement statement, StatementCall<T> work) throws SQLException {
            return EmbeddedDatabase.this.during(statement, work);
        }

        @Override
        public Cursor open(String sql) {
            return EmbeddedDatabase.this.open(sql);
        }

        @Override
        public void close() {
            // closed by who opened it
        }
    }

    private DuckDBConnection duplicate() throws SQLException {
        DuckDBConnection own = connection.duplicate();
        if (progress != null) {
            try (Statement statement = own.createStatement()) {
                // asked for, not printed by the database itself
                statement.execute("SET enable_progress_bar = true; SET enable_progress_bar_print = false");
            } catch (SQLException e) {
                own.close();
                throw e;
            }
        }
        return own;
    }

    /** Registers a listener for the fraction of a long statement that is done. */
    public void onProgress(DoubleConsumer listener) {
        progress = listener;
    }

    @Override
    protected <T> T during(Statement statement, StatementCall<T> work) throws SQLException {
        return super.during(statement, () -> StatementProgress.during(statement, progress, work));
    }

    @Override
    public Cursor open(String sql) {
        try {
            return calls().open(() -> {
                DuckDBConnection own = duplicate();
                Statement statement = own.createStatement();
                return during(statement, () -> StreamingCursor.of(own, statement, sql, this::failed, closed -> {}));
            });
        } catch (SQLException e) {
            throw failed(e, sql);
        }
    }

    /** Closes the database when all that was left has ended. */
    @Override
    public void close() {
        calls().end(this::closeNow);
    }

    private void closeNow() {
        try {
            connection.close();
        } catch (SQLException e) {
            throw DataException.of("the database does not close: %s", e.getMessage())
                    .withCause(e);
        }
    }
}
