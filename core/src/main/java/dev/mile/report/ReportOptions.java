package dev.mile.report;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import java.time.Duration;
import java.util.Optional;

/** How a report is computed, its content aside. Immutable and safe for use by several threads. */
public final class ReportOptions {
    /** Nothing special: as long as it takes, without windows. */
    public static final ReportOptions DEFAULT = new ReportOptions(false, Optional.empty());

    private final boolean windows;
    private final Optional<Duration> timeout;

    private ReportOptions(boolean windows, Optional<Duration> timeout) {
        this.windows = windows;
        this.timeout = timeout;
    }

    /** {@return the same options for a report whose rows say with each value which days it looked at} */
    public ReportOptions withWindows() {
        return new ReportOptions(true, timeout);
    }

    /**
     * {@return the same options for a report that is stopped where it takes longer}
     *
     * @param limit how long it may take; longer than none
     * @throws ModelException if it is none
     */
    public ReportOptions withTimeout(Duration limit) {
        requireNonNull(limit, "limit is null");
        if (limit.isZero() || limit.isNegative()) {
            throw ModelException.of("a report cannot be computed within %s; allow more time than none", limit);
        }
        return new ReportOptions(windows, Optional.of(limit));
    }

    /** {@return whether rows say with each value which days it looked at} */
    public boolean windows() {
        return windows;
    }

    /** {@return how long a report may take; empty for as long as it takes} */
    public Optional<Duration> timeout() {
        return timeout;
    }
}
