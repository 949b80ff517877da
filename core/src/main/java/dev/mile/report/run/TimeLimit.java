package dev.mile.report.run;

import dev.mile.StoppedException;
import java.time.Duration;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;

/** Stops what takes longer than it may: interrupts its thread, which engines heed anyway. */
public final class TimeLimit {
    private TimeLimit() {}

    /**
     * Does something within a limit of time.
     *
     * @throws StoppedException if it took longer, or its thread was interrupted
     */
    public static <T> T within(Duration limit, Supplier<T> work) {
        Thread worker = Thread.currentThread();
        CompletableFuture<Boolean> ended = new CompletableFuture<>();
        CompletableFuture<Void> stop = ended.thenAccept(inTime -> {
            if (!inTime) {
                worker.interrupt();
            }
        });
        ended.completeOnTimeout(false, limit.toNanos(), TimeUnit.NANOSECONDS);
        try {
            return work.get();
        } catch (StoppedException e) {
            if (ended.complete(true) || ended.join()) {
                throw e;
            }
            throw StoppedException.timedOut(limit, e);
        } finally {
            if (!ended.complete(true) && !ended.join()) {
                // the mark is taken back once it is there: nobody else has interrupted the thread
                stop.join();
                Thread.interrupted();
            }
        }
    }
}
