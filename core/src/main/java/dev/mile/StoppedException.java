package dev.mile;

import static java.util.Objects.requireNonNull;

import java.math.BigDecimal;
import java.time.Duration;

/**
 * A computation was stopped before its end: its thread was interrupted, or it took longer than it might. Nothing half done is left; the
 * session can be asked again. The thread stays marked as interrupted where it was, as {@link Thread#isInterrupted} says.
 */
public final class StoppedException extends MileException {
    private static final long serialVersionUID = 1L;

    StoppedException(Details details) {
        super(details);
    }

    /** {@return the error of a computation whose thread was interrupted} */
    public static StoppedException interrupted() {
        return new StoppedException(Details.of(ErrorCode.STOPPED, "interrupted before the end"));
    }

    /**
     * {@return the error of a computation that took longer than it might}
     *
     * @param limit how long it might take
     */
    public static StoppedException timedOut(Duration limit) {
        requireNonNull(limit, "limit is null");
        return new StoppedException(Details.of(
                ErrorCode.STOPPED, "stopped after %s seconds; allow more time, or ask for less", seconds(limit)));
    }

    private static String seconds(Duration limit) {
        return BigDecimal.valueOf(limit.toNanos(), 9).stripTrailingZeros().toPlainString();
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

    @Override
    MileException with(Details details) {
        return new StoppedException(details);
    }
}
