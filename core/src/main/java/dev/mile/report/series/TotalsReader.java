package dev.mile.report.series;

import dev.mile.StoppedException;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalsCursor;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Reads the groups of one request, and reports at the end what became of its rows. */
public final class TotalsReader implements AutoCloseable {
    /** Receives what a complete pass over a fact has seen. */
    @FunctionalInterface
    public interface OutcomeListener {
        /**
         * Takes what became of the rows.
         *
         * @param rows how many rows had each outcome
         * @param unknownKeys whether some row has a key that a lookup of the request lacks
         */
        void onComplete(Map<RoleAccounts.RowOutcome, Long> rows, boolean unknownKeys);
    }

    private final TotalsCursor cursor;
    private final int columns;
    private final int firstUnknownKeyColumn;
    private final OutcomeListener listener;
    private boolean unknownKeys;

    /**
     * Returns a reader.
     *
     * @param cursor the groups; closed with this reader
     * @param columns how many columns they have
     * @param firstUnknownKeyColumn the first of the columns that count rows with a key that a lookup lacks; the last ones
     */
    public TotalsReader(TotalsCursor cursor, int columns, int firstUnknownKeyColumn, OutcomeListener listener) {
        this.cursor = cursor;
        this.columns = columns;
        this.firstUnknownKeyColumn = firstUnknownKeyColumn;
        this.listener = listener;
    }

    /** Returns the next group; null after the last. */
    public @Nullable GroupTotals next() {
        StoppedException.throwIfInterrupted(Thread.currentThread());
        GroupTotals group = cursor.next();
        if (group == null) {
            listener.onComplete(cursor.rowOutcomes(), unknownKeys);
            return null;
        }
        for (int c = firstUnknownKeyColumn; c < columns && !unknownKeys; c++) {
            DailyTotals rows = group.values()[c];
            for (int i = 0; i < group.days().length; i++) {
                unknownKeys |= rows.amount(i).longValue() > 0;
            }
        }
        return group;
    }

    /** Returns the fraction of the groups that has been read, from 0 to 1; NaN where it is not known. */
    public double progress() {
        return cursor.progress();
    }

    @Override
    public void close() {
        cursor.close();
    }
}
