package dev.mile.internal;

import dev.mile.StoppedException;
import java.util.concurrent.locks.ReentrantLock;
import java.util.function.Supplier;

/**
 * Lets one thread at a time find out what all of them need. A thread that waits for another's answer can be interrupted meanwhile, as
 * one that waits for a monitor cannot.
 */
public final class InterruptibleLock {
    private final ReentrantLock lock = new ReentrantLock();

    /**
     * Does something that no other thread does meanwhile; a thread that is at it already may do more of it.
     *
     * @throws StoppedException if the thread is interrupted while it waits
     */
    public <T> T during(Supplier<T> work) {
        try {
            lock.lockInterruptibly();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            throw StoppedException.interrupted(e);
        }
        try {
            return work.get();
        } finally {
            lock.unlock();
        }
    }
}
