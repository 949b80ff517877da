package dev.mile.report;

import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;

/** Reads the totals of one pass, and tells the session at the end what became of its rows. */
final class PassReader implements AutoCloseable {
    private final Session session;
    private final TotalsRequest request;
    private final int firstUnknown;
    private final TotalsCursor cursor;
    private boolean unknownKeys;

    PassReader(Session session, SeriesPlan plan, int pass) {
        this.session = session;
        this.request = plan.request(pass);
        this.firstUnknown = plan.firstUnknown(pass);
        this.cursor = session.engine().totals(request, session.dayContext());
    }

    /** Returns the next group; null after the last. */
    GroupTotals next() {
        GroupTotals group = cursor.next();
        if (group == null) {
            session.counted(request.fact(), request.role(), cursor.rowOutcomes(), unknownKeys);
            return null;
        }
        for (int c = firstUnknown; c < request.columns().size() && !unknownKeys; c++) {
            DailyTotals rows = group.values()[c];
            for (int i = 0; i < group.days().length; i++) {
                unknownKeys |= rows.amount(i).longValue() > 0;
            }
        }
        return group;
    }

    /** Returns which share of the groups has been read; NaN where that is not known. */
    double share() {
        return cursor.progress();
    }

    @Override
    public void close() {
        cursor.close();
    }
}
