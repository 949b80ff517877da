package dev.mile.sources;

import dev.mile.StoppedException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ArrayBlockingQueue;
import java.util.concurrent.BlockingQueue;
import java.util.function.Consumer;

/** Reads rows on a thread of its own, a little ahead of the sink, which is called on the thread of the caller. */
final class ReadAhead {
    private static final int ROWS = 1_024;
    private static final int CALLS = 8;
    private static final Consumer<RowSink> END = sink -> {};

    private ReadAhead() {}

    static void read(RowReader rows, RowSink sink) {
        BlockingQueue<Consumer<RowSink>> calls = new ArrayBlockingQueue<>(CALLS);
        Thread reader = new Thread(() -> readInto(calls, rows), "mile reads " + rows.name());
        reader.setDaemon(true);
        reader.start();
        try {
            for (Consumer<RowSink> call = calls.take(); call != END; call = calls.take()) {
                call.accept(sink);
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw StoppedException.interrupted(e);
        } finally {
            reader.interrupt();
            join(reader);
        }
    }

    /** Waits for the thread to end, which it does as soon as it has its next rows: what it reads from is free then. */
    private static void join(Thread reader) {
        boolean interrupted = false;
        while (reader.isAlive()) {
            try {
                reader.join();
            } catch (InterruptedException e) {
                interrupted = true;
            }
        }
        if (interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    private static void readInto(BlockingQueue<Consumer<RowSink>> calls, RowReader rows) {
        Batches batches = new Batches(calls);
        try {
            rows.read(batches);
            batches.call(END);
        } catch (Abandoned e) {
            // the caller has gone on
        } catch (RuntimeException | Error e) {
            batches.call(sink -> {
                throw e;
            });
        }
    }

    /** Ends a reading thread that nobody waits for any longer. */
    private static final class Abandoned extends RuntimeException {
        private static final long serialVersionUID = 1L;

        Abandoned(InterruptedException e) {
            super(e);
        }
    }

    /** Hands calls over, many rows at a time. */
    private static final class Batches implements RowSink {
        private final BlockingQueue<Consumer<RowSink>> calls;
        private List<SourceRow> rows = new ArrayList<>(ROWS);

        Batches(BlockingQueue<Consumer<RowSink>> calls) {
            this.calls = calls;
        }

        private void put(Consumer<RowSink> call) {
            try {
                calls.put(call);
            } catch (InterruptedException e) {
                throw new Abandoned(e);
            }
        }

        void call(Consumer<RowSink> call) {
            flush();
            put(call);
        }

        private void flush() {
            List<SourceRow> batch = rows;
            if (!batch.isEmpty()) {
                rows = new ArrayList<>(ROWS);
                put(sink -> batch.forEach(sink::row));
            }
        }

        @Override
        public void columns(List<String> names) {
            call(sink -> sink.columns(names));
        }

        @Override
        public void row(SourceRow row) {
            rows.add(row);
            if (rows.size() == ROWS) {
                flush();
            }
        }

        @Override
        public void rejected(String place, String why) {
            call(sink -> sink.rejected(place, why));
        }

        @Override
        public void afterEnd(long count) {
            call(sink -> sink.afterEnd(count));
        }
    }
}
