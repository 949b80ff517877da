package dev.mile.model;

import dev.mile.MileException;
import java.lang.management.ManagementFactory;

/** What every reader does with every input: an answer or one of Mile's own exceptions, within a second of the processor's time. */
final class Fuzzing {
    private static final long SECOND = 1_000_000_000;

    private Fuzzing() {}

    /** Something that reads. */
    interface Reader {
        void read() throws Exception;
    }

    static void expectAnswerOrRefusal(Reader reader) throws Exception {
        // the first time classes are loaded too
        if (read(reader) > SECOND && read(reader) > SECOND) {
            throw new AssertionError("reading took more than a second of the processor's time");
        }
    }

    private static long read(Reader reader) throws Exception {
        long begun = ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime();
        try {
            reader.read();
        } catch (MileException e) {
            if (e.getMessage() == null || e.getMessage().isBlank()) {
                throw new AssertionError("a refusal without words", e);
            }
        }
        return ManagementFactory.getThreadMXBean().getCurrentThreadCpuTime() - begun;
    }
}
