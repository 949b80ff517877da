package dev.mile.report.run;

import dev.mile.report.plan.CompiledReport;

/** How a report is run. */
enum ExecutionMode {
    /** The totals of all groups are held in memory. */
    HELD,
    /** Groups are evaluated while they come, one member at a time, in the order in which rows are shown. */
    STREAMED,
    /** Groups are evaluated while they come; rows are sorted before they are shown, in a file where they are many. */
    REORDERED;

    /**
     * Chooses the mode in which a report is run first.
     *
     * @param withWindows whether values are handed over with the days that they looked at, which rows in a file do not keep
     */
    static ExecutionMode choose(CompiledReport compiled, boolean withWindows, long maxHeldBytes) {
        boolean streams = compiled.streaming().isPresent();
        boolean reordered = streams && compiled.streaming().get().needsReordering();
        if (streams && !reordered) {
            return STREAMED;
        }
        return reordered && !withWindows && maxHeldBytes == 0 ? REORDERED : HELD;
    }

    /** Returns how many bytes the totals may take at once; what is over it can be run {@link #REORDERED}. */
    static long limit(CompiledReport compiled, boolean withWindows, long maxHeldBytes) {
        boolean mayReorder = compiled.streaming()
                .filter(streaming -> streaming.needsReordering() && !withWindows)
                .isPresent();
        return mayReorder ? maxHeldBytes : Long.MAX_VALUE;
    }
}
