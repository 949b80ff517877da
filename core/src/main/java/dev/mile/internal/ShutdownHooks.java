package dev.mile.internal;

import dev.mile.StoppedException;

/** Threads that run when the process ends, by itself or by Ctrl-C. */
public final class ShutdownHooks {
    private ShutdownHooks() {}

    /**
     * Has a thread run when the process ends.
     *
     * @throws StoppedException if the process is ending already
     */
    public static void add(Thread thread) {
        try {
            Runtime.getRuntime().addShutdownHook(thread);
        } catch (IllegalStateException e) {
            throw StoppedException.interrupted(e);
        }
    }
}
