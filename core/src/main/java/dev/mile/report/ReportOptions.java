package dev.mile.report;

/** How a report is computed, its content aside. Immutable and safe for use by several threads. */
public final class ReportOptions {
    /** Nothing special. */
    public static final ReportOptions DEFAULT = new ReportOptions(false);

    private final boolean windows;

    private ReportOptions(boolean windows) {
        this.windows = windows;
    }

    /** {@return the options of a report whose rows say with each value which days it looked at} */
    public static ReportOptions withWindows() {
        return new ReportOptions(true);
    }

    /** {@return whether rows say with each value which days it looked at} */
    public boolean windows() {
        return windows;
    }
}
