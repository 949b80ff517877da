package dev.mile.sql.parquet;

import dev.mile.StoppedException;
import java.io.IOException;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.DoubleConsumer;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * One pass over row groups on several threads, each of which takes the next one until there is none left.
 *
 * @param <T> what is known of a row group
 */
final class RowGroupPass<T> {
    private static final int MILLISECONDS = 250;

    private final List<T> rows;
    private final AtomicInteger next = new AtomicInteger();
    private final AtomicInteger finished = new AtomicInteger();
    private volatile boolean stopped;
    private volatile @Nullable Throwable failure;

    /**
     * What one thread does with row groups.
     *
     * @param <T> what is known of a row group
     */
    interface Work<T> {
        /**
         * Does it with the next one.
         *
         * @param pass is asked now and then whether to stop
         */
        void with(T rows, RowGroupPass<T> pass) throws IOException;
    }

    private RowGroupPass(List<T> rows) {
        this.rows = rows;
    }

    /**
     * Passes over the row groups.
     *
     * @param threads how many may work, at least 1
     * @param work makes the work of a thread; called by the caller's own
     * @param progress is told which fraction is done, where it takes long
     * @throws UnsupportedParquetException if the work of a thread failed
     * @throws StoppedException if the thread is interrupted
     */
    static <T> void over(List<T> rows, int threads, Supplier<Work<T>> work, Optional<DoubleConsumer> progress)
            throws UnsupportedParquetException {
        new RowGroupPass<>(rows).run(threads, work, progress);
    }

    private void run(int threads, Supplier<Work<T>> work, Optional<DoubleConsumer> progress)
            throws UnsupportedParquetException {
        int count = Math.min(threads, rows.size());
        CountDownLatch running = new CountDownLatch(count);
        for (int i = 0; i < count; i++) {
            Work<T> own = work.get();
            Thread thread = new Thread(() -> work(own, running), "mile reads Parquet");
            thread.setDaemon(true);
            thread.start();
        }
        await(running, progress);
        if (failure != null) {
            throw new UnsupportedParquetException(String.valueOf(failure));
        }
    }

    private void work(Work<T> own, CountDownLatch running) {
        try {
            for (int i = next.getAndIncrement(); i < rows.size() && !stopped; i = next.getAndIncrement()) {
                own.with(rows.get(i), this);
                finished.incrementAndGet();
            }
        } catch (IOException | RuntimeException | Error e) {
            failure = e;
            stopped = true;
        } finally {
            running.countDown();
        }
    }

    private void await(CountDownLatch running, Optional<DoubleConsumer> progress) {
        boolean reported = false;
        try {
            while (!running.await(MILLISECONDS, TimeUnit.MILLISECONDS)) {
                if (progress.isPresent()) {
                    progress.get().accept((double) finished.get() / rows.size());
                    reported = true;
                }
            }
        } catch (InterruptedException e) {
            stopped = true;
            Thread.currentThread().interrupt();
            throw StoppedException.interrupted(e);
        }
        if (reported) {
            progress.get().accept(1);
        }
    }

    /** Returns whether to stop: nobody waits for the work any more, or another thread has failed. */
    boolean isStopped() {
        return stopped;
    }
}
