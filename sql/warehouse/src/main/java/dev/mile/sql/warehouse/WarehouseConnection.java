package dev.mile.sql.warehouse;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.engine.Warehouse;
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
import java.util.Properties;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.ReentrantLock;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A connection to a warehouse: transactions that only read, cursors on the server, a time-out, and one more try where the
 * connection was lost. A statement that runs is cancelled when its thread is interrupted, or the program ends.
 */
final class WarehouseConnection extends Database {
    private static final Logger LOG = LoggerFactory.getLogger(WarehouseConnection.class);
    private static final int ROWS_AT_A_TIME = 10_000;

    private final Warehouse warehouse;
    private final Dialect dialect;
    private final ZoneId zone;
    private final ReentrantLock inUse = new ReentrantLock();
    private Connection connection;
    private final Set<Statement> running = ConcurrentHashMap.newKeySet();
    private final Thread canceller = new Thread(this::cancel, "mile cancels " + hashCode());

    /**
     * Opens it.
     *
     * @param zone the zone in which timestamps have their day
     */
    WarehouseConnection(Warehouse warehouse, Dialect dialect, ZoneId zone) {
        this.warehouse = warehouse;
        this.dialect = dialect;
        this.zone = zone;
        this.connection = reading();
        Runtime.getRuntime().addShutdownHook(canceller);
    }

    private Connection reading() {
        Connection opened = open(warehouse, true);
        try {
            dialect.prepare(opened, zone);
            opened.commit();
            return opened;
        } catch (SQLException e) {
            quietly(opened);
            throw failed(e, "");
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
            throw DataException.of(
                            "the warehouse '%s' cannot be reached: %s; check its url, its user, and where its password comes from",
                            warehouse.name(), firstLine(String.valueOf(e.getMessage())))
                    .withCause(e)
                    .withLocationOf(warehouse);
        }
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
    public <T> T withConnection(OnConnection<T> work) throws SQLException {
        if (inUse.tryLock()) {
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
            quietly(own);
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
        return retried(sql, () -> {
            Connection own = reading();
            Statement statement = prepared(own);
            return during(statement, () -> StreamingCursor.of(own, statement, sql, this::failed, this::onClosed));
        });
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
        inUse.lock();
        try {
            quietly(connection);
            connection = reading();
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
                            "the warehouse '%s' took longer than %d seconds; raise its `timeout`, or ask for less",
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

    private static void quietly(Connection connection) {
        try {
            connection.close();
        } catch (SQLException e) {
            LOG.debug("a lost connection does not close", e);
        }
    }

    @Override
    public void close() {
        quietly(connection);
        try {
            Runtime.getRuntime().removeShutdownHook(canceller);
        } catch (IllegalStateException e) {
            LOG.debug("the program is ending already", e);
        }
    }
}
