package dev.mile;

import static java.util.Objects.requireNonNull;

import java.math.BigDecimal;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/**
 * A computation was stopped before its end: its thread was interrupted, or it took longer than it might. Nothing half done is left; the
 * session can be asked again. An interrupted thread stays marked as interrupted, as {@link Thread#isInterrupted} says.
 *
 * <p>It is no {@link MileException}, since nothing is wrong with the model or the data: what handles their faults lets it pass.
 */
public final class StoppedException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private StoppedException(String message, @Nullable Throwable cause) {
        super(message, cause);
    }

    /** {@return the error of a computation whose thread was interrupted} */
    public static StoppedException interrupted() {
        return interrupted(null);
    }

    /**
     * {@return the error of a computation whose thread was interrupted}
     *
     * @param cause how that came to light, null where it was looked for
     */
    public static StoppedException interrupted(@Nullable Throwable cause) {
        return new StoppedException("interrupted before the end", cause);
    }

    /**
     * {@return the error of a computation that took longer than it might}
     *
     * @param limit how long it might take
     * @param cause where it was stopped
     */
    public static StoppedException timedOut(Duration limit, Throwable cause) {
        requireNonNull(limit, "limit is null");
        requireNonNull(cause, "cause is null");
        String seconds =
                BigDecimal.valueOf(limit.toNanos(), 9).stripTrailingZeros().toPlainString();
        return new StoppedException("stopped after " + seconds + " seconds; allow more time, or ask for less", cause);
    }

    /**
     * Stops a computation whose thread was interrupted; engines call it in every long loop.
     *
     * @param thread the thread that asked for the computation
     * @throws StoppedException if it was interrupted
     */
    public static void throwIfInterrupted(Thread thread) {
        if (thread.isInterrupted()) {
            throw interrupted();
        }
    }
}
