package dev.mile.spark;

import dev.mile.StoppedException;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Supplier;
import org.apache.spark.SparkContext;

/** Runs jobs that end when the thread that waits for them is interrupted. */
final class SparkJobs {
    private static final AtomicLong COUNT = new AtomicLong();

    private SparkJobs() {}

    /**
     * Runs jobs.
     *
     * @throws StoppedException if the thread is interrupted; the jobs are cancelled then
     */
    static <T> T run(SparkContext spark, Supplier<T> work) {
        StoppedException.throwIfInterrupted(Thread.currentThread());
        String tag = "mile-" + COUNT.incrementAndGet();
        spark.addJobTag(tag);
        try {
            return work.get();
        } catch (Exception e) {
            // Scala declares no exceptions: an interrupt may come through as it is, its mark taken off the thread
            if (e instanceof InterruptedException || Thread.currentThread().isInterrupted()) {
                spark.cancelJobsWithTag(tag);
                Thread.currentThread().interrupt();
                throw StoppedException.interrupted(e);
            }
            throw e;
        } finally {
            spark.removeJobTag(tag);
        }
    }
}
