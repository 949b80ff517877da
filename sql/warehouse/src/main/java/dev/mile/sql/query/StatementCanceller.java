package dev.mile.sql.query;

import java.sql.SQLException;
import java.sql.Statement;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;

/** Cancels statements whose threads are interrupted: a driver that waits for its database heeds no interrupt itself. */
final class StatementCanceller {
    private static final int MILLISECONDS = 20;

    /** The running statements and the threads that wait for them. */
    private static final Map<Statement, Thread> RUNNING = new ConcurrentHashMap<>();

    private StatementCanceller() {}

    /** The thread that looks at all of them; it begins with the first statement. */
    private static final class Watch {
        static {
            ScheduledExecutorService watch = Executors.newSingleThreadScheduledExecutor(work -> {
                Thread thread = new Thread(work, "mile cancels statements");
                thread.setDaemon(true);
                return thread;
            });
            watch.scheduleWithFixedDelay(
                    StatementCanceller::cancelInterrupted, MILLISECONDS, MILLISECONDS, TimeUnit.MILLISECONDS);
        }

        private static void begin() {
            // the class is initialized by the call
        }
    }

    /** Runs a statement, which is cancelled where the thread is interrupted meanwhile. */
    static <T> T during(Statement statement, StatementCall<T> work) throws SQLException {
        Watch.begin();
        RUNNING.put(statement, Thread.currentThread());
        try {
            return work.get();
        } finally {
            RUNNING.remove(statement);
        }
    }

    /** One that has not begun yet is cancelled the next time. */
    private static void cancelInterrupted() {
        RUNNING.forEach((statement, thread) -> {
            if (thread.isInterrupted()) {
                try {
                    statement.cancel();
                } catch (SQLException e) {
                    // it has ended meanwhile
                }
            }
        });
    }
}
