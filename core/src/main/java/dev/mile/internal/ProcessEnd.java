package dev.mile.internal;

import dev.mile.StoppedException;

/** What is done at the end of the process, whether it comes by itself or by Ctrl-C. */
public final class ProcessEnd {
    private ProcessEnd() {}

    /**
     * Has a thread run at the end of the process.
     *
     * @throws StoppedException if the process is ending already
     */
    public static void run(Thread thread) {
        try {
            Runtime.getRuntime().addShutdownHook(thread);
        } catch (IllegalStateException e) {
            throw StoppedException.interrupted(e);
        }
    }
}
