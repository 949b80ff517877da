package dev.mile.sql.parquet;

import dev.mile.StoppedException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.Comparisons;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts.RowOutcome;
import dev.mile.engine.RowOutcomeCounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Table;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.IntToLongFunction;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * The slots of a question: by bucket of days, and behind the buckets by outcome of the rows outside them, then by members in the order of
 * code points, a blank last. So what rows of one day are added to lies close together. Each total has a sum and a count for each slot.
 */
final class SlotLayout {
    /** The totals of more slots fit no cache of the processor, and take longer than the database. */
    private static final int MOST_TOTALS = 1 << 21;

    private static final RowOutcome[] OUTCOMES = RowOutcome.values();

    private final ParquetQuestion question;
    private final List<List<String>> members = new ArrayList<>();
    private final List<Map<String, Integer>> codes = new ArrayList<>();
    private final long[] strides;
    private final int[] cells;
    private final int[] firstDays;
    private final int[] scales;
    private final boolean[] isFull;
    private final int groups;

    /**
     * Lays out the totals.
     *
     * @param threads how many may read
     * @throws UnsupportedParquetException if there are too many
     */
    SlotLayout(ParquetQuestion question, ParquetSource source, int threads) throws UnsupportedParquetException {
        this.question = question;
        int totals = question.totals().size();
        scales = new int[totals];
        isFull = new boolean[totals];
        for (int t = 0; t < totals; t++) {
            ParquetQuestion.Total total = question.totals().get(t);
            isFull[t] = total.where().isEmpty();
            if (total.number().isPresent()) {
                scales[t] = source.scale(total.number().get());
                isFull[t] &= source.isFull(total.number().get());
            }
        }
        int mostSlots = MOST_TOTALS / Math.max(totals, 1);
        TotalsRequest request = question.request();
        DateRange days = request.days();
        cells = new int[days.isEmpty() ? 0 : days.length()];
        for (int i = 0; i < cells.length; i++) {
            cells[i] = request.buckets().isDaily() ? i : request.buckets().bucketOf(days.firstEpochDay() + i);
        }
        firstDays = request.buckets().isDaily()
                ? days.isEmpty()
                        ? new int[0]
                        : IntStream.rangeClosed(days.firstEpochDay(), days.lastEpochDay())
                                .toArray()
                : request.buckets().firstEpochDays();
        long size = 1;
        strides = new long[question.groups().size()];
        for (int c = strides.length - 1; c >= 0; c--) {
            strides[c] = size;
            TextValue value = question.groups().get(c);
            members.add(0, members(value, source.texts(value.column(), mostSlots / OUTCOMES.length, threads)));
            codes.add(0, codes(members.get(0)));
            size = Math.min(size * (members.get(0).size() + 1), Integer.MAX_VALUE);
        }
        if (size * cellCount() > mostSlots) {
            throw new UnsupportedParquetException("more totals than are added up here");
        }
        groups = (int) size;
    }

    private static List<String> members(TextValue value, List<String> texts) {
        return texts.stream()
                .map(value::of)
                .filter(Objects::nonNull)
                .distinct()
                .sorted(Comparisons.BY_CODE_POINT)
                .toList();
    }

    private static Map<String, Integer> codes(List<String> members) {
        Map<String, Integer> codes = new HashMap<>();
        members.forEach(member -> codes.put(member, codes.size()));
        return codes;
    }

    /** Returns how many slots there are, with one at the end for rows that do not count. */
    int length() {
        return ofRowsLeftOut() + 1;
    }

    /** Returns how many totals all slots have. */
    int totals() {
        return length() * Math.max(question.totals().size(), 1);
    }

    /** Returns that slot. */
    int ofRowsLeftOut() {
        return groups * cellCount();
    }

    private int cellCount() {
        return firstDays.length + OUTCOMES.length;
    }

    /** Returns what a day adds to the slot of a row. */
    long ofDay(long day) {
        DateRange days = question.request().days();
        int cell = days.contains((int) day)
                ? cells[(int) day - days.firstEpochDay()]
                : firstDays.length + RowOutcome.of((int) day, question.placed()).ordinal();
        return (long) cell * groups;
    }

    long ofNoDate() {
        return ofDay(Table.NO_DATE);
    }

    /** Returns what a text of a group adds to the slot of a row. */
    long ofText(int group, String text) {
        String member = question.groups().get(group).of(text);
        return member == null
                ? ofBlank(group)
                : strides[group] * codes.get(group).get(member);
    }

    long ofBlank(int group) {
        return strides[group] * members.get(group).size();
    }

    /** Returns whether all rows count for a total: each has a number, or none is asked for, and there is no condition. */
    boolean isFull(int total) {
        return isFull[total];
    }

    /** Returns the totals, which are not copied: groups are made as they are asked for. */
    TotalsCursor cursor(PartialTotals totals) {
        Map<RowOutcome, Long> outcomes = outcomes(totals);
        return new TotalsCursor() {
            private int next;

            @Override
            public @Nullable GroupTotals next() {
                GroupTotals group = null;
                while (group == null && next < groups) {
                    StoppedException.throwIfInterrupted(Thread.currentThread());
                    group = group(totals, next++);
                }
                return group;
            }

            @Override
            public Map<RowOutcome, Long> rowOutcomes() {
                return outcomes;
            }

            @Override
            public double progress() {
                return (double) next / groups;
            }

            @Override
            public void close() {
                // holds nothing open
            }
        };
    }

    private Map<RowOutcome, Long> outcomes(PartialTotals totals) {
        RowOutcomeCounts rows = new RowOutcomeCounts();
        for (int slot = 0; slot < ofRowsLeftOut(); slot++) {
            int outcome = slot / groups - firstDays.length;
            rows.add(outcome < 0 ? RowOutcome.PLACED : OUTCOMES[outcome], totals.rows(slot));
        }
        return rows.byOutcome();
    }

    /** Returns the totals of a group; null where it has no rows in the buckets. */
    private @Nullable GroupTotals group(PartialTotals totals, int group) {
        int[] filled = new int[firstDays.length];
        int n = 0;
        for (int bucket = 0; bucket < firstDays.length; bucket++) {
            if (totals.rows(bucket * groups + group) > 0) {
                filled[n++] = bucket;
            }
        }
        return n == 0 ? null : group(totals, group, Arrays.copyOf(filled, n));
    }

    private GroupTotals group(PartialTotals totals, int group, int[] buckets) {
        String[] own = new String[strides.length];
        long rest = group;
        for (int c = 0; c < own.length; c++) {
            int code = (int) (rest / strides[c]);
            rest %= strides[c];
            own[c] = code < members.get(c).size() ? members.get(c).get(code) : null;
        }
        int[] days = new int[buckets.length];
        for (int i = 0; i < days.length; i++) {
            days[i] = firstDays[buckets[i]];
        }
        DailyTotals rows = DailyTotals.counts(pick(group, buckets, totals::rows));
        DailyTotals[] values = new DailyTotals[question.totalOf().size()];
        for (int c = 0; c < values.length; c++) {
            int total = question.totalOf().get(c);
            if (total < 0 || question.request().columns().get(c).kind() != TotalColumn.Kind.SUM) {
                values[c] = total < 0 || isFull[total]
                        ? rows
                        : DailyTotals.counts(pick(group, buckets, slot -> totals.count(total, slot)));
            } else {
                values[c] = new DailyTotals.Longs(
                        pick(group, buckets, slot -> totals.sum(total, slot)),
                        scales[total],
                        isFull[total] ? null : blanks(pick(group, buckets, slot -> totals.count(total, slot))));
            }
        }
        return new GroupTotals(own, days, values);
    }

    private long[] pick(int group, int[] buckets, IntToLongFunction ofSlot) {
        long[] picked = new long[buckets.length];
        for (int i = 0; i < picked.length; i++) {
            picked[i] = ofSlot.applyAsLong(buckets[i] * groups + group);
        }
        return picked;
    }

    /** Returns the days without a number; null if each has one. */
    private static boolean[] blanks(long[] counts) {
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
