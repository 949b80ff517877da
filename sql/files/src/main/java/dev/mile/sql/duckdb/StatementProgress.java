package dev.mile.sql.duckdb;

import dev.mile.sql.query.StatementCall;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.function.DoubleConsumer;
import org.duckdb.DuckDBPreparedStatement;
import org.duckdb.QueryProgress;

/** Watches a statement of the embedded database from another thread, and reports which fraction of it is done. */
final class StatementProgress {
    private static final int MILLISECONDS = 250;
    private static final double PERCENT = 100;
    private static final double ALMOST = 0.999;

    private final CountDownLatch ended = new CountDownLatch(1);

    private volatile boolean reported;
    private final DoubleConsumer listener;

    private StatementProgress(DoubleConsumer listener) {
        this.listener = listener;
    }

    /** Runs a statement and watches it meanwhile, if somebody listens. */
    static <T> T during(Statement statement, DoubleConsumer listener, StatementCall<T> call) throws SQLException {
        if (listener == null || !(statement instanceof DuckDBPreparedStatement running)) {
            return call.get();
        }
        StatementProgress watch = new StatementProgress(listener);
        Thread thread = new Thread(() -> watch.run(running), "mile watches a statement");
        thread.setDaemon(true);
        thread.start();
        try {
            return call.get();
        } finally {
            watch.end();
        }
    }

    private void run(DuckDBPreparedStatement statement) {
        try {
            while (!ended.await(MILLISECONDS, TimeUnit.MILLISECONDS)) {
                QueryProgress progress = statement.getQueryProgress();
                if (progress != null && progress.getPercentage() > 0) {
                    reported = true;
                    listener.accept(Math.min(ALMOST, progress.getPercentage() / PERCENT));
                }
            }
        } catch (SQLException e) {
            // the statement has ended meanwhile: there is nothing to report
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    private void end() {
        ended.countDown();
        if (reported) {
            listener.accept(1);
        }
    }
}
