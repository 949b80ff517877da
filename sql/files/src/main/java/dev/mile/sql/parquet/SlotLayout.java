package dev.mile.sql.parquet;

import dev.mile.calendar.DateRange;
import dev.mile.engine.Comparisons;
import dev.mile.engine.RoleAccounts.RowOutcome;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Table;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
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

    /** Returns how many buckets there are, and outcomes of rows outside them. */
    int cellCount() {
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

    /** Returns how many digits after the decimal point a total has. */
    int scale(int total) {
        return scales[total];
    }

    /** Returns how many groups there may be. */
    int groups() {
        return groups;
    }

    /** Returns the first days of the buckets. */
    int[] firstDays() {
        return firstDays;
    }

    /** Returns the slots of a group, by bucket. */
    int[] slots(int group) {
        int[] slots = new int[firstDays.length];
        for (int bucket = 0; bucket < slots.length; bucket++) {
            slots[bucket] = slot(group, bucket);
        }
        return slots;
    }

    /** Returns the slot of a group in a bucket, or in another cell. */
    int slot(int group, int cell) {
        return cell * groups + group;
    }

    /** Returns what became of the rows in a cell. */
    RowOutcome outcome(int cell) {
        return cell < firstDays.length ? RowOutcome.PLACED : OUTCOMES[cell - firstDays.length];
    }

    /** Returns the members of a group; null for a blank. */
    @Nullable
    String[] members(int group) {
        String[] own = new String[strides.length];
        long rest = group;
        for (int c = 0; c < own.length; c++) {
            int code = (int) (rest / strides[c]);
            rest %= strides[c];
            own[c] = code < members.get(c).size() ? members.get(c).get(code) : null;
        }
        return own;
    }
}
