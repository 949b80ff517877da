package dev.mile.sql.parquet;

import dev.mile.StoppedException;
import dev.mile.engine.TotalsCursor;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.DoubleConsumer;

/** Adds up the rows of Parquet files on several threads, each of which takes the next part of a file. */
public final class ParquetTotals {
    private static final int MILLISECONDS = 250;

    private final List<ParquetSource.Rows> rows;
    private final SlotLayout layout;
    private final AtomicInteger next = new AtomicInteger();
    private final AtomicInteger finished = new AtomicInteger();
    private volatile boolean stopped;

    private ParquetTotals(ParquetSource source, SlotLayout layout) {
        this.rows = source.rows();
        this.layout = layout;
    }

    /**
     * Returns the totals of a question; empty if the files have something that is not read here.
     *
     * @param threads how many may read, at least 1
     * @param progress is told which fraction is done, where it takes long
     * @throws StoppedException if the thread is interrupted
     */
    public static Optional<TotalsCursor> of(ParquetQuestion question, int threads, Optional<DoubleConsumer> progress) {
        try (ParquetSource source = ParquetSource.open(question)) {
            ParquetTotals totals = new ParquetTotals(source, new SlotLayout(question, source));
            return Optional.of(totals.layout.cursor(totals.run(threads, progress)));
        } catch (StoppedException e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            // the database reads it, or says what is wrong with it
            return Optional.empty();
        }
    }

    private long[] run(int threads, Optional<DoubleConsumer> progress) throws IOException {
        List<Reader> readers = new ArrayList<>();
        CountDownLatch running = new CountDownLatch(Math.max(1, Math.min(threads, rows.size())));
        for (long i = running.getCount(); i > 0; i--) {
            Reader reader = new Reader(running);
            readers.add(reader);
            Thread thread = new Thread(reader, "mile reads Parquet");
            thread.setDaemon(true);
            thread.start();
        }
        await(running, progress);
        PartialTotals all = readers.get(0).totals;
        for (Reader reader : readers) {
            if (reader.failure != null) {
                throw new UnreadParquetException(reader.failure.toString());
            }
            if (reader.totals != all) {
                all.add(reader.totals);
            }
        }
        return all.totals();
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

    /** Reads parts until there is none left. */
    private final class Reader implements Runnable {
        final PartialTotals totals = new PartialTotals(layout);
        private final CountDownLatch running;
        private Throwable failure;

        Reader(CountDownLatch running) {
            this.running = running;
        }

        @Override
        public void run() {
            try {
                for (int i = next.getAndIncrement(); i < rows.size() && !stopped; i = next.getAndIncrement()) {
                    totals.add(rows.get(i), () -> stopped);
                    finished.incrementAndGet();
                }
            } catch (IOException | RuntimeException | Error e) {
                failure = e;
                stopped = true;
            } finally {
                running.countDown();
            }
        }
    }
}
