package dev.mile.sql.warehouse;

import static org.assertj.core.api.Assertions.assertThat;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;

/** A pool of connections that stay open, and that notes how they come back. */
final class TestPool implements AutoCloseable {
    private final BlockingQueue<Connection> idle;
    private final int size;
    final AtomicInteger borrowed = new AtomicInteger();

    TestPool(DataSource source, int size) throws SQLException {
        this.size = size;
        idle = new ArrayBlockingQueue<>(size);
        for (int i = 0; i < size; i++) {
            idle.add(source.getConnection());
        }
    }

    /** Returns the pool as programs see it: closing a connection gives it back. */
    DataSource connections() {
        return (DataSource) Proxy.newProxyInstance(
                TestPool.class.getClassLoader(), new Class<?>[] {DataSource.class}, (proxy, method, arguments) -> {
                    assertThat(method.getName()).isEqualTo("getConnection");
                    borrowed.incrementAndGet();
                    return lent(idle.take());
                });
    }

    private Connection lent(Connection real) {
        return (Connection) Proxy.newProxyInstance(
                TestPool.class.getClassLoader(), new Class<?>[] {Connection.class}, (proxy, method, arguments) -> {
                    switch (method.getName()) {
                        case "close":
                            idle.add(real);
                            return null;
                        case "hashCode":
                            return System.identityHashCode(proxy);
                        case "equals":
                            return proxy == arguments[0];
                        default:
                            try {
                                return method.invoke(real, arguments);
                            } catch (InvocationTargetException e) {
                                throw e.getCause();
                            }
                    }
                });
    }

    /** Every connection is back, and as it was. */
    void checkAllAreBack() throws SQLException {
        assertThat(borrowed).hasPositiveValue();
        assertThat(idle).hasSize(size);
        for (Connection connection : idle) {
            assertThat(connection.isClosed()).isFalse();
            assertThat(connection.getAutoCommit()).isTrue();
            assertThat(connection.isReadOnly()).isFalse();
        }
    }

    @Override
    public void close() throws SQLException {
        for (Connection connection : idle) {
            connection.close();
        }
    }
}
