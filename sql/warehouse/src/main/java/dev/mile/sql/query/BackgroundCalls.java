package dev.mile.sql.query;

import dev.mile.MileException;
import dev.mile.StoppedException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * Calls of one database, each on a thread of its own: drivers end some calls long after they were cancelled. A caller that is interrupted
 * waits a moment for its call, then leaves it to end in the background.
 */
public final class BackgroundCalls {
    private static final int PATIENCE_MILLIS = 60;

    private static final ExecutorService THREADS = Executors.newCachedThreadPool(work -> {
        Thread thread = new Thread(work, "mile calls a database");
        thread.setDaemon(true);
        return thread;
    });

    /** The calls that their callers have left. */
    private final Set<CompletableFuture<Void>> left = ConcurrentHashMap.newKeySet();

    /** One call, which tells how it ended only after its thread has forgotten it. */
    private static final class Call<T> implements Runnable {
        final CompletableFuture<T> result = new CompletableFuture<>();
        private final StatementCall<T> work;
        private final ClassLoader loader = Thread.currentThread().getContextClassLoader();
        private @Nullable Thread running;
        private boolean cancelled;

        Call(StatementCall<T> work) {
            this.work = work;
        }

        @Override
        public void run() {
            try {
                T value = begin() ? work.get() : null;
                end();
                result.complete(value);
            } catch (SQLException | RuntimeException | Error e) {
                end();
                result.completeExceptionally(e);
            }
        }

        private synchronized boolean begin() {
            running = Thread.currentThread();
            // drivers may be known to the caller's loader alone
            running.setContextClassLoader(loader);
            return !cancelled;
        }

        private synchronized void end() {
            running = null;
            Thread.currentThread().setContextClassLoader(null);
            // the mark was for this call, not for the next one of the thread
            Thread.interrupted();
        }

        synchronized void cancel() {
            cancelled = true;
            if (running != null) {
                running.interrupt();
            }
        }
    }

    /**
     * Returns what the call returns.
     *
     * @param close closes what it returns after its caller has left
     * @throws StoppedException if the thread is interrupted while it waits
     */
    public <T> T call(StatementCall<T> work, Consumer<T> close) throws SQLException {
        StoppedException.throwIfInterrupted(Thread.currentThread());
        Call<T> call = new Call<>(work);
        THREADS.execute(call);
        try {
            return call.result.get();
        } catch (InterruptedException e) {
            call.cancel();
            leave(call.result, close);
            Thread.currentThread().interrupt();
            throw StoppedException.interrupted(e);
        } catch (ExecutionException e) {
            if (e.getCause() instanceof SQLException failure) {
                throw failure;
            }
            if (e.getCause() instanceof Error failure) {
                throw failure;
            }
            throw (RuntimeException) e.getCause();
        }
    }

    /**
     * Returns rows, which come on the thread that reads them.
     *
     * @throws StoppedException if the thread is interrupted while it waits for the first
     */
    public Cursor open(StatementCall<Cursor> work) throws SQLException {
        Cursor cursor = call(work, Cursor::close);
        return new Cursor() {
            @Override
            public ResultSet rows() {
                return cursor.rows();
            }

            @Override
            public MileException failed(SQLException e) {
                return cursor.failed(e);
            }

            @Override
            public void close() {
                end(cursor::close);
            }
        };
    }

    private <T> void leave(CompletableFuture<T> result, Consumer<T> close) {
        CompletableFuture<Void> ended = result.handle((value, failure) -> {
            if (value != null) {
                close.accept(value);
            }
            return null;
        });
        left.add(ended);
        ended.whenComplete((nothing, failure) -> left.remove(ended));
        try {
            ended.get(PATIENCE_MILLIS, TimeUnit.MILLISECONDS);
        } catch (TimeoutException | ExecutionException e) {
            // it ends in the background, where nobody waits for what it says
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /**
     * Ends something that calls may still use: in the background and after them where some were left, or where the thread is interrupted,
     * since who is interrupted does not wait.
     */
    public void end(Runnable work) {
        CompletableFuture<?>[] running = left.toArray(CompletableFuture<?>[]::new);
        if (running.length == 0 && !Thread.currentThread().isInterrupted()) {
            work.run();
            return;
        }
        CompletableFuture<Void> ended = new CompletableFuture<>();
        left.add(ended);
        CompletableFuture.allOf(running)
                .whenCompleteAsync(
                        (nothing, failure) -> {
                            try {
                                work.run();
                            } finally {
                                left.remove(ended);
                                ended.complete(null);
                            }
                        },
                        THREADS);
    }

    /**
     * Waits until no call that was left still runs.
     *
     * @throws StoppedException if the thread is interrupted while it waits
     */
    public void awaitLeftCalls() {
        for (CompletableFuture<Void> running : left) {
            try {
                running.get();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
                throw StoppedException.interrupted(e);
            } catch (ExecutionException e) {
                // its caller has gone
            }
        }
    }
}
