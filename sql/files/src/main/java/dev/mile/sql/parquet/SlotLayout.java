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
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Where the totals of a question lie in an array: by members in the order of code points, a blank last, then by bucket of days, and
 * behind the buckets by outcome of the rows outside them. A slot holds the number of rows, then for each total its sum and, if some rows may
 * not count, how many do.
 */
final class SlotLayout {
    /** Larger arrays fit no cache of the processor, and take longer than the database. */
    private static final int MOST_LONGS = 1 << 21;

    private static final int OUTCOMES = RowOutcome.values().length;

    private final ParquetQuestion question;
    private final List<List<String>> members = new ArrayList<>();
    private final List<Map<String, Integer>> codes = new ArrayList<>();
    private final long[] strides;
    private final int[] cells;
    private final int[] firstDays;
    private final int[] scales;
    private final int[] sumAt;
    private final int[] countAt;
    private final int slot;
    private final int length;

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
        sumAt = new int[totals];
        countAt = new int[totals];
        int width = 1;
        for (int t = 0; t < totals; t++) {
            ParquetQuestion.Total total = question.totals().get(t);
            boolean isFull = total.where().isEmpty();
            if (total.number().isPresent()) {
                scales[t] = source.scale(total.number().get());
                sumAt[t] = width++;
                isFull &= source.isFull(total.number().get());
            }
            countAt[t] = isFull ? 0 : width++;
        }
        slot = width;
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
        long size = (long) slot * (firstDays.length + OUTCOMES);
        strides = new long[question.groups().size()];
        for (int c = strides.length - 1; c >= 0; c--) {
            strides[c] = size;
            TextValue value = question.groups().get(c);
            members.add(0, members(value, source.texts(value.column(), MOST_LONGS / (slot * OUTCOMES), threads)));
            codes.add(0, codes(members.get(0)));
            size = Math.min(size * (members.get(0).size() + 1), Integer.MAX_VALUE);
        }
        if (size > MOST_LONGS) {
            throw new UnsupportedParquetException("more totals than are added up here");
        }
        length = (int) size;
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

    /** Returns the length of the array, with a slot at the end for rows that the fact does not keep. */
    int length() {
        return length + slot;
    }

    /** Returns the place of that slot. */
    int ofRowsLeftOut() {
        return length;
    }

    /** Returns what a day adds to the place of a row's slot. */
    long ofDay(long day) {
        DateRange days = question.request().days();
        int cell = days.contains((int) day)
                ? cells[(int) day - days.firstEpochDay()]
                : firstDays.length + RowOutcome.of((int) day, question.placed()).ordinal();
        return (long) cell * slot;
    }

    long ofNoDate() {
        return ofDay(Table.NO_DATE);
    }

    /** Returns what a text of a group adds to the place of a row's slot. */
    long ofText(int group, String text) {
        String member = question.groups().get(group).of(text);
        return member == null
                ? ofBlank(group)
                : strides[group] * codes.get(group).get(member);
    }

    long ofBlank(int group) {
        return strides[group] * members.get(group).size();
    }

    /** Returns where in a slot a sum lies; 0, where rows are counted alone. */
    int sumAt(int total) {
        return sumAt[total];
    }

    /** Returns where in a slot lies what was counted for a total; 0, where all rows are, if all have a number and count. */
    int countAt(int total) {
        return countAt[total];
    }

    /** Returns what the array holds, which is not copied: groups are made as they are asked for. */
    TotalsCursor cursor(long[] totals) {
        Map<RowOutcome, Long> outcomes = outcomes(totals);
        return new TotalsCursor() {
            private int next;

            @Override
            public @Nullable GroupTotals next() {
                GroupTotals group = null;
                while (group == null && next < length) {
                    StoppedException.throwIfInterrupted(Thread.currentThread());
                    group = group(totals, next);
                    next += size();
                }
                return group;
            }

            @Override
            public Map<RowOutcome, Long> rowOutcomes() {
                return outcomes;
            }

            @Override
            public double progress() {
                return (double) next / length;
            }

            @Override
            public void close() {
                // holds nothing open
            }
        };
    }

    /** Returns how long the part of the array is that a group has. */
    private int size() {
        return slot * (firstDays.length + OUTCOMES);
    }

    private Map<RowOutcome, Long> outcomes(long[] totals) {
        RowOutcomeCounts rows = new RowOutcomeCounts();
        for (int from = 0; from < length; from += size()) {
            for (int bucket = 0; bucket < firstDays.length; bucket++) {
                rows.add(RowOutcome.PLACED, totals[from + bucket * slot]);
            }
            for (RowOutcome outcome : RowOutcome.values()) {
                rows.add(outcome, totals[from + (firstDays.length + outcome.ordinal()) * slot]);
            }
        }
        return rows.byOutcome();
    }

    /** Returns the group whose part begins there; null where it has no rows in the buckets. */
    private @Nullable GroupTotals group(long[] totals, int from) {
        int[] filled = new int[firstDays.length];
        int n = 0;
        for (int bucket = 0; bucket < firstDays.length; bucket++) {
            if (totals[from + bucket * slot] > 0) {
                filled[n++] = bucket;
            }
        }
        return n == 0 ? null : group(totals, from, Arrays.copyOf(filled, n));
    }

    private GroupTotals group(long[] totals, int from, int[] buckets) {
        String[] own = new String[strides.length];
        long rest = from;
        for (int c = 0; c < own.length; c++) {
            int code = (int) (rest / strides[c]);
            rest %= strides[c];
            own[c] = code < members.get(c).size() ? members.get(c).get(code) : null;
        }
        int[] days = new int[buckets.length];
        for (int i = 0; i < days.length; i++) {
            days[i] = firstDays[buckets[i]];
        }
        DailyTotals rows = DailyTotals.counts(pick(totals, from, buckets, 0));
        DailyTotals[] values = new DailyTotals[question.totalOf().size()];
        for (int c = 0; c < values.length; c++) {
            int total = question.totalOf().get(c);
            if (total < 0 || question.request().columns().get(c).kind() != TotalColumn.Kind.SUM) {
                values[c] = total < 0 || countAt[total] == 0
                        ? rows
                        : DailyTotals.counts(pick(totals, from, buckets, countAt[total]));
            } else {
                values[c] = new DailyTotals.Longs(
                        pick(totals, from, buckets, sumAt[total]),
                        scales[total],
                        blanks(pick(totals, from, buckets, countAt[total])));
            }
        }
        return new GroupTotals(own, days, values);
    }

    private long[] pick(long[] totals, int from, int[] buckets, int at) {
        long[] picked = new long[buckets.length];
        for (int i = 0; i < picked.length; i++) {
            picked[i] = totals[from + buckets[i] * slot + at];
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
