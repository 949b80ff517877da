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
 * The parts of a document, computed on all processors from the beginning on, while the thread that asks for them in their order opens a
 * file and writes them.
 *
 * @param <T> what a part is
 */
final class PartsInOrder<T> implements Iterator<T>, AutoCloseable {
    /** Parts that are computed before anybody asks for them, for each processor: a file that replaces a large one takes long to open. */
    private static final int AHEAD = 16;

    private final int parts;
    private final IntFunction<T> compute;
    private final int most;
    private final ExecutorService threads;
    private final Queue<Future<T>> ahead = new ArrayDeque<>();
    private int next;

    /**
     * Begins to compute.
     *
     * @param parts how many
     * @param compute computes one by its number, from 0; on other threads
     */
    PartsInOrder(int parts, IntFunction<T> compute) {
        this.parts = parts;
        this.compute = compute;
        int processors = Runtime.getRuntime().availableProcessors();
        most = AHEAD * processors;
        threads = Executors.newFixedThreadPool(processors, work -> {
            Thread thread = new Thread(work, "mile computes parts");
            thread.setDaemon(true);
            return thread;
        });
        submit();
    }

    private void submit() {
        while (next < parts && ahead.size() < most) {
            int part = next++;
            ahead.add(threads.submit(() -> compute.apply(part)));
        }
    }

    @Override
    public boolean hasNext() {
        return !ahead.isEmpty();
    }

    /**
     * Waits for the next part.
     *
     * @throws StoppedException if the thread is interrupted
     */
    @Override
    public T next() {
        if (ahead.isEmpty()) {
            throw new NoSuchElementException();
        }
        Future<T> part = ahead.remove();
        submit();
        try {
            return part.get();
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
