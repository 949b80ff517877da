package dev.mile.render.text;

import dev.mile.StoppedException;
import java.util.ArrayDeque;
import java.util.Iterator;
import java.util.NoSuchElementException;
import java.util.Queue;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.IntFunction;

/**
 * The chunks of a document, computed on all processors from the beginning on, while the thread that asks for them in their order opens a
 * file and writes them.
 *
 * @param <T> what a chunk is
 */
final class ChunksInOrder<T> implements Iterator<T>, AutoCloseable {
    /** Chunks that are computed before anybody asks for them, for each processor: a file that replaces a large one takes long to open. */
    private static final int AHEAD = 16;

    private final int chunks;
    private final IntFunction<T> compute;
    private final int most;
    private final ExecutorService threads;
    private final Queue<Future<T>> ahead = new ArrayDeque<>();
    private int next;

    /**
     * Begins to compute.
     *
     * @param chunks how many
     * @param compute computes one by its number, from 0; on other threads
     */
    ChunksInOrder(int chunks, IntFunction<T> compute) {
        this.chunks = chunks;
        this.compute = compute;
        int processors = Runtime.getRuntime().availableProcessors();
        most = AHEAD * processors;
        threads = Executors.newFixedThreadPool(processors, work -> {
            Thread thread = new Thread(work, "mile computes chunks");
            thread.setDaemon(true);
            return thread;
        });
        submit();
    }

    private void submit() {
        while (next < chunks && ahead.size() < most) {
            int chunk = next++;
            ahead.add(threads.submit(() -> compute.apply(chunk)));
        }
    }

    @Override
    public boolean hasNext() {
        return !ahead.isEmpty();
    }

    /**
     * Waits for the next chunk.
     *
     * @throws StoppedException if the thread is interrupted
     */
    @Override
    public T next() {
        if (ahead.isEmpty()) {
            throw new NoSuchElementException();
        }
        Future<T> chunk = ahead.remove();
        submit();
        try {
            return chunk.get();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw StoppedException.interrupted(e);
        } catch (ExecutionException e) {
            if (e.getCause() instanceof Error error) {
                throw error;
            }
            throw e.getCause() instanceof RuntimeException failure ? failure : new IllegalStateException(e.getCause());
        }
    }

    /** Stops what is not asked for any more. */
    @Override
    public void close() {
        threads.shutdownNow();
    }
}
