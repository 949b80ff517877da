package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.engine.RoleAccounts.RowOutcome;
import java.util.EnumMap;
import java.util.Map;

/** Counts rows by what became of them, fast enough to be asked for each row. Not for use by several threads. */
public final class RowOutcomeCounts {
    private final long[] rows = new long[RowOutcome.values().length];

    /** Returns counts of no rows. */
    public RowOutcomeCounts() {}

    /**
     * Adds rows.
     *
     * @param outcome what became of them
     * @param count how many
     */
    public void add(RowOutcome outcome, long count) {
        rows[outcome.ordinal()] += count;
    }

    /**
     * Adds the rows of others.
     *
     * @param others the others
     */
    public void add(RowOutcomeCounts others) {
        requireNonNull(others, "others is null");
        for (int i = 0; i < rows.length; i++) {
            rows[i] += others.rows[i];
        }
    }

    /** {@return how many rows each outcome has, of those that have any} */
    public Map<RowOutcome, Long> byOutcome() {
        Map<RowOutcome, Long> found = new EnumMap<>(RowOutcome.class);
        for (RowOutcome outcome : RowOutcome.values()) {
            if (rows[outcome.ordinal()] > 0) {
                found.put(outcome, rows[outcome.ordinal()]);
            }
        }
        return found;
    }
}
