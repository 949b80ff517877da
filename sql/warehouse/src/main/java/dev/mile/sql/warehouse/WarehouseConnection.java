package dev.mile.sql.warehouse;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.engine.Warehouse;
import dev.mile.internal.ShutdownHooks;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.query.Cursor;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.StatementCall;
import dev.mile.sql.query.StreamingCursor;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.ZoneId;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Properties;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.ReentrantLock;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A warehouse over connections that are opened here, or borrowed from a pool for each statement: transactions that only read, cursors on
 * the server, a time-out, and one more try where the connection was lost. A statement that runs is cancelled when its thread is
 * interrupted, or the program ends.
 */
final class WarehouseConnection extends Database {
    private static final Logger LOG = LoggerFactory.getLogger(WarehouseConnection.class);
    private static final int ROWS_AT_A_TIME = 10_000;

    private final Warehouse warehouse;
    private final Dialect dialect;
    private final ZoneId zone;
    private final Optional<DataSource> pool;
    private final Map<Connection, Borrowed> borrowed = Collections.synchronizedMap(new IdentityHashMap<>());
    private final ReentrantLock inUse = new ReentrantLock();

    /** The connection that stays open; null over a pool. */
    private @Nullable Connection connection;

    private final Set<Statement> running = ConcurrentHashMap.newKeySet();
    private final Thread canceller = new Thread(this::cancel, "mile cancels " + hashCode());

    /** How a borrowed connection was, and will be given back. */
    private record Borrowed(boolean autoCommit, boolean readOnly) {}

    /**
     * Opens it.
     *
     * @param pool where connections come from; empty to open them here
     * @param zone the zone in which timestamps have their day
     */
    WarehouseConnection(Warehouse warehouse, Optional<DataSource> pool, Dialect dialect, ZoneId zone) {
        this.warehouse = warehouse;
        this.pool = pool;
        this.dialect = dialect;
        this.zone = zone;
        this.connection = pool.isPresent() ? null : opened();
        ShutdownHooks.add(canceller);
    }

    /** Opens a connection on a thread of its own, since a server that does not answer is waited for long. */
    private Connection opened() {
        try {
            return calls().call(this::reading, this::release);
        } catch (SQLException e) {
            throw failed(e, "");
        }
    }

    /** Opens or borrows a connection that only reads. */
    private Connection reading() {
        Connection opened = pool.map(this::borrow).orElseGet(() -> open(warehouse, true));
        try {
            dialect.prepare(opened, zone);
            opened.commit();
            return opened;
        } catch (SQLException e) {
            release(opened);
            throw failed(e, "");
        }
    }

    private Connection borrow(DataSource from) {
        try {
            Connection taken = from.getConnection();
            borrowed.put(taken, new Borrowed(taken.getAutoCommit(), taken.isReadOnly()));
            taken.setReadOnly(true);
            taken.setAutoCommit(false);
            return taken;
        } catch (SQLException e) {
            throw unreachable(warehouse, e, "the pool that its connections come from");
        }
    }

    /** Closes a connection that was opened here; gives a borrowed one back as it was. */
    private void release(Connection used) {
        restore(used);
        quietly(used);
    }

    private void restore(Connection used) {
        Borrowed before = borrowed.remove(used);
        if (before != null) {
            try {
                used.rollback();
                dialect.restore(used);
                used.setAutoCommit(before.autoCommit());
                used.setReadOnly(before.readOnly());
            } catch (SQLException e) {
                LOG.debug("a connection cannot be given back as it was; the pool will close it", e);
            }
        }
    }

    /** Opens a connection with transactions. */
    static Connection open(Warehouse warehouse, boolean readOnly) {
        Properties properties = new Properties();
        warehouse.user().ifPresent(user -> properties.setProperty("user", user));
        warehouse
                .password()
                .map(source -> password(warehouse, source))
                .filter(password -> !password.isEmpty())
                .ifPresent(password -> properties.setProperty("password", password));
        checkDriver(warehouse);
        try {
            Connection connection = DriverManager.getConnection(warehouse.url(), properties);
            connection.setReadOnly(readOnly);
            connection.setAutoCommit(false);
            return connection;
        } catch (SQLException e) {
            throw unreachable(warehouse, e, "its url, its user, and where its password comes from");
        }
    }

    private static MileException unreachable(Warehouse warehouse, SQLException e, String check) {
        return DataException.of(
                        "the warehouse '%s' cannot be reached: %s; check %s",
                        warehouse.name(), firstLine(String.valueOf(e.getMessage())), check)
                .withCause(e)
                .withLocationOf(warehouse);
    }

    private static void checkDriver(Warehouse warehouse) {
        try {
            DriverManager.getDriver(warehouse.url());
        } catch (SQLException e) {
            throw DataException.of(
                            "no driver on the class path takes the url '%s' of the warehouse '%s'; add its jar (for the command"
                                    + " line: MILE_DRIVERS=driver.jar)",
                            warehouse.url(), warehouse.name())
                    .withCause(e)
                    .withLocationOf(warehouse);
        }
    }

    private static String password(Warehouse warehouse, Warehouse.PasswordSource source) {
        if (source instanceof Warehouse.PasswordSource.Variable variable) {
            String value = System.getenv(variable.name());
            if (value == null) {
                throw DataException.of(
                                "the password of the warehouse '%s' should be in the variable %s, which is not set",
                                warehouse.name(), variable.name())
                        .withLocationOf(warehouse);
            }
            return value;
        }
        String file = ((Warehouse.PasswordSource.FirstLine) source).file();
        try {
            return Files.readString(Path.of(file)).lines().findFirst().orElse("");
        } catch (IOException e) {
            throw DataException.of(
                            "the password of the warehouse '%s' should be in the file %s, which cannot be read",
                            warehouse.name(), file)
                    .withCause(e)
                    .withLocationOf(warehouse);
        }
    }

    /** A second thread gets a connection of its own, for as long as the first one uses the one that is open. */
    @Override
    protected <T> T useConnection(OnConnection<T> work) throws SQLException {
        if (pool.isEmpty() && inUse.tryLock()) {
            try {
                return work.apply(connection);
            } finally {
                inUse.unlock();
            }
        }
        Connection own = reading();
        try {
            return work.apply(own);
        } finally {
            release(own);
        }
    }

    @Override
    public <T> T read(String sql, Row<T> reader) {
        return retried(sql, () -> once(sql, reader));
    }

    private <T> T once(String sql, Row<T> reader) throws SQLException {
        return withConnection(on -> {
            try (Statement statement = prepared(on)) {
                try (ResultSet result = during(statement, () -> statement.executeQuery(sql))) {
                    return reader.read(result);
                } finally {
                    onClosed(statement);
                }
            } finally {
                if (!on.isClosed()) {
                    on.rollback();
                }
            }
        });
    }

    /** Rows left open have a connection of their own, since a transaction ends with the next statement on this one. */
    @Override
    public Cursor open(String sql) {
        return retried(sql, () -> calls().open(() -> streamed(sql)));
    }

    private Cursor streamed(String sql) throws SQLException {
        Connection own = reading();
        Statement statement = prepared(own);
        return during(
                statement,
                () -> StreamingCursor.of(own, statement, sql, this::failed, closing -> {
                    onClosed(closing);
                    restore(own);
                }));
    }

    private Statement prepared(Connection on) throws SQLException {
        Statement statement = on.createStatement();
        statement.setFetchSize(ROWS_AT_A_TIME);
        statement.setQueryTimeout((int) warehouse.timeout().toSeconds());
        running.add(statement);
        return statement;
    }

    private void onClosed(Statement statement) {
        running.remove(statement);
    }

    /** Tries once more where the connection was lost. */
    private <T> T retried(String sql, StatementCall<T> attempt) {
        try {
            return attempt.get();
        } catch (SQLException e) {
            if (!dialect.isConnectionLost(e) || Thread.currentThread().isInterrupted()) {
                throw failed(e, sql);
            }
            LOG.warn("the connection to the warehouse '{}' was lost; trying once more", warehouse.name());
            reconnect();
            try {
                return attempt.get();
            } catch (SQLException again) {
                throw failed(again, sql);
            }
        }
    }

    private void reconnect() {
        if (pool.isPresent()) {
            return;
        }
        inUse.lock();
        try {
            quietly(connection);
            connection = opened();
        } finally {
            inUse.unlock();
        }
    }

    @Override
    public MileException failed(SQLException e, String sql) {
        // a statement that was cancelled for an interrupt looks like one out of time
        boolean interrupted = Thread.currentThread().isInterrupted();
        if (!interrupted && dialect.isConnectionLost(e)) {
            return DataException.of(
                            "the connection to the warehouse '%s' was lost, and again on a second try: %s",
                            warehouse.name(), firstLine(String.valueOf(e.getMessage())))
                    .withCause(e)
                    .withLocationOf(warehouse);
        }
        if (!interrupted && dialect.isTimeout(e)) {
            return DataException.of(
                            "the warehouse '%s' took longer than %d seconds; allow it more time, or ask for less",
                            warehouse.name(), warehouse.timeout().toSeconds())
                    .withCause(e)
                    .withLocationOf(warehouse);
        }
        return super.failed(e, sql);
    }

    private void cancel() {
        for (Statement statement : running) {
            try {
                statement.cancel();
            } catch (SQLException e) {
                LOG.debug("a statement could not be cancelled", e);
            }
        }
    }

    private static void quietly(@Nullable Connection connection) {
        try {
            if (connection != null) {
                connection.close();
            }
        } catch (SQLException e) {
            LOG.debug("a lost connection does not close", e);
        }
    }

    @Override
    public void close() {
        calls().end(() -> quietly(connection));
        try {
            Runtime.getRuntime().removeShutdownHook(canceller);
        } catch (IllegalStateException e) {
            LOG.debug("the program is ending already", e);
        }
    }
}
