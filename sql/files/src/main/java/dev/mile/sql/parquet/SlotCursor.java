package dev.mile.sql.parquet;

import dev.mile.StoppedException;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts.RowOutcome;
import dev.mile.engine.RowOutcomeCounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import java.util.Arrays;
import java.util.Map;
import java.util.function.IntToLongFunction;
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
        int[] filled = new int[layout.buckets()];
        int n = 0;
        for (int bucket = 0; bucket < filled.length; bucket++) {
            if (totals.rows(layout.slot(group, bucket)) > 0) {
                filled[n++] = bucket;
            }
        }
        return n == 0 ? null : group(group, Arrays.copyOf(filled, n));
    }

    private GroupTotals group(int group, int[] buckets) {
        int[] days = new int[buckets.length];
        for (int i = 0; i < days.length; i++) {
            days[i] = layout.firstDay(buckets[i]);
        }
        DailyTotals rows = DailyTotals.counts(pick(group, buckets, totals::rows));
        DailyTotals[] values = new DailyTotals[question.totalOf().size()];
        for (int c = 0; c < values.length; c++) {
            int total = question.totalOf().get(c);
            boolean countsAll = total < 0 || layout.isFull(total);
            long[] counts = countsAll ? null : pick(group, buckets, slot -> totals.count(total, slot));
            if (total < 0 || question.request().columns().get(c).kind() != TotalColumn.Kind.SUM) {
                values[c] = counts == null ? rows : DailyTotals.counts(counts);
            } else {
                values[c] = new DailyTotals.Longs(
                        pick(group, buckets, slot -> totals.sum(total, slot)),
                        layout.scale(total),
                        counts == null ? null : blanks(counts));
            }
        }
        return new GroupTotals(layout.members(group), days, values);
    }

    private long[] pick(int group, int[] buckets, IntToLongFunction ofSlot) {
        long[] picked = new long[buckets.length];
        for (int i = 0; i < picked.length; i++) {
            picked[i] = ofSlot.applyAsLong(layout.slot(group, buckets[i]));
        }
        return picked;
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
