package dev.mile.sql.parquet;

import dev.mile.StoppedException;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts.RowOutcome;
import dev.mile.engine.RowOutcomeCounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The groups of a question with the totals that were added up, which are not copied: groups are made as they are asked for. */
final class SlotCursor implements TotalsCursor {
    private final ParquetQuestion question;
    private final SlotLayout layout;
    private final PartialTotals totals;
    private final Map<RowOutcome, Long> outcomes;
    private int next;

    /** @param totals those of all threads */
    SlotCursor(ParquetQuestion question, SlotLayout layout, PartialTotals totals) {
        this.question = question;
        this.layout = layout;
        this.totals = totals;
        RowOutcomeCounts rows = new RowOutcomeCounts();
        for (int cell = 0; cell < layout.cellCount(); cell++) {
            long ofCell = 0;
            for (int group = 0; group < layout.groups(); group++) {
                ofCell += totals.rows(layout.slot(group, cell));
            }
            rows.add(layout.outcome(cell), ofCell);
        }
        outcomes = rows.byOutcome();
    }

    @Override
    public @Nullable GroupTotals next() {
        GroupTotals group = null;
        while (group == null && next < layout.groups()) {
            StoppedException.throwIfInterrupted(Thread.currentThread());
            group = group(next++);
        }
        return group;
    }

    @Override
    public Map<RowOutcome, Long> rowOutcomes() {
        return outcomes;
    }

    @Override
    public double progress() {
        return (double) next / layout.groups();
    }

    @Override
    public void close() {
        // holds nothing open
    }

    /** Returns the totals of a group; null where it has no rows in the buckets. */
    private @Nullable GroupTotals group(int group) {
        int[] slots = layout.slots(group);
        int[] days = layout.firstDays();
        long[] rows = totals.rows(slots);
        int filled = 0;
        for (long inBucket : rows) {
            filled += inBucket > 0 ? 1 : 0;
        }
        if (filled == 0) {
            return null;
        }
        if (filled < rows.length) {
            slots = ofFilled(slots, rows, filled);
            days = ofFilled(days, rows, filled);
            rows = totals.rows(slots);
        }
        return new GroupTotals(layout.members(group), days, values(slots, DailyTotals.counts(rows)));
    }

    /** Returns what stands for the buckets with rows. */
    private static int[] ofFilled(int[] all, long[] rows, int filled) {
        int[] some = new int[filled];
        int n = 0;
        for (int bucket = 0; bucket < all.length; bucket++) {
            if (rows[bucket] > 0) {
                some[n++] = all[bucket];
            }
        }
        return some;
    }

    private DailyTotals[] values(int[] slots, DailyTotals rows) {
        DailyTotals[] values = new DailyTotals[question.totalOf().size()];
        for (int c = 0; c < values.length; c++) {
            int total = question.totalOf().get(c);
            long[] counts = total < 0 || layout.isFull(total) ? null : totals.counts(total, slots);
            if (total < 0 || question.request().columns().get(c).kind() != TotalColumn.Kind.SUM) {
                values[c] = counts == null ? rows : DailyTotals.counts(counts);
            } else {
                values[c] = new DailyTotals.Longs(
                        totals.sums(total, slots), layout.scale(total), counts == null ? null : blanks(counts));
            }
        }
        return values;
    }

    /** Returns the days without a number; null if each has one. */
    private static boolean @Nullable [] blanks(long[] counts) {
        boolean[] blanks = null;
        for (int i = 0; i < counts.length; i++) {
            if (counts[i] == 0) {
                blanks = blanks == null ? new boolean[counts.length] : blanks;
                blanks[i] = true;
            }
        }
        return blanks;
    }
}
