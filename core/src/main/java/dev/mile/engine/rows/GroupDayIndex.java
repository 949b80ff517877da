package dev.mile.engine.rows;

import dev.mile.calendar.DateRange;
import dev.mile.engine.DayBuckets;
import dev.mile.fact.ColumnValues;
import java.util.ArrayList;
import java.util.List;
import java.util.function.IntToLongFunction;

/**
 * Numbers the pairs of group and day, or bucket of days, from 1. Where groups times days are few, the number is computed; else pairs
 * are numbered as they come, one column after the other.
 */
final class GroupDayIndex {
    /** The slot of places that do not count. */
    static final int NONE = 0;

    /** Less than any number that members can add to it. */
    private static final int OUTSIDE = -1 << 30;

    /** Slots that are always cheap enough to keep an array of. */
    private static final long FEW = 1L << 16;

    /** Slots beyond which arrays of all of them are too large, whatever the number of places. */
    private static final long MAX_DENSE_SLOTS = 1L << 26;

    private final List<ColumnValues.Texts> members;
    private final int firstDay;
    /** The bucket of each day, numbered from 1. */
    private final int[] numbers;

    private final int[] firsts;
    private final int width;
    private final int dense;
    private final boolean allHaveSlots;
    private final List<LongIndexer> ids = new ArrayList<>();

    /**
     * A group that has slots.
     *
     * @param codes its code in each column, -1 for a blank
     * @param days its days, or the first days of its buckets, rising
     * @param slots the slots of the days
     */
    record Group(int[] codes, int[] days, int[] slots) {}

    private GroupDayIndex(
            List<ColumnValues.Texts> members,
            DateRange days,
            DayBuckets buckets,
            int width,
            int dense,
            boolean allHaveSlots) {
        this.members = members;
        this.firstDay = days.firstEpochDay();
        this.numbers = new int[Math.max(days.length(), 0)];
        this.firsts = new int[width];
        for (int i = 0; i < numbers.length; i++) {
            numbers[i] = 1 + (buckets.isDaily() ? i : buckets.bucketOf(firstDay + i));
        }
        for (int i = numbers.length - 1; i >= 0; i--) {
            firsts[numbers[i] - 1] = firstDay + i;
        }
        this.width = width;
        this.dense = dense;
        this.allHaveSlots = allHaveSlots;
        for (int c = 0; dense < 0 && c <= members.size(); c++) {
            ids.add(new LongIndexer());
        }
    }

    /**
     * Returns the slots of the days.
     *
     * @param buckets the buckets of these days, all inside
     * @param places how many places there are
     * @param allHaveSlots whether each of them lies on one of the days
     */
    static GroupDayIndex of(
            List<ColumnValues.Texts> members, DateRange days, DayBuckets buckets, int places, boolean allHaveSlots) {
        int width = buckets.isDaily() ? Math.max(days.length(), 0) : buckets.firstEpochDays().length;
        long size = width;
        for (ColumnValues.Texts column : members) {
            size = Math.min(size * (column.dictionary().length + 1L), Long.MAX_VALUE >> 32);
        }
        boolean few = size <= FEW || size <= Math.min(MAX_DENSE_SLOTS, 2L * places);
        return new GroupDayIndex(members, days, buckets, width, few ? (int) size : -1, allHaveSlots);
    }

    boolean dense() {
        return dense >= 0;
    }

    /** Returns the number of slots so far, {@link #NONE} among them. */
    int size() {
        return 1 + (dense() ? dense : ids.get(members.size()).size());
    }

    /** Returns whether the day has slots. */
    boolean contains(int day) {
        // negative as well where it is before the first
        return Integer.compareUnsigned(day - firstDay, numbers.length) < 0;
    }

    /**
     * Finds the slots of places that follow one another; {@link #NONE} where a day has none.
     *
     * @param days the days of the places; changed to something else
     */
    void find(int from, int n, int[] days, RowDays places, int[] slotOf) {
        int[] read = numbers;
        for (int i = 0; i < n && allHaveSlots; i++) {
            slotOf[i] = read[days[i] - firstDay];
        }
        for (int i = 0; i < n && !allHaveSlots; i++) {
            slotOf[i] = contains(days[i]) ? read[days[i] - firstDay] : OUTSIDE;
        }
        if (!dense()) {
            number(from, n, places, slotOf);
            return;
        }
        addMembers(from, n, places.rows(), days, slotOf);
        for (int i = 0; i < n && !allHaveSlots; i++) {
            slotOf[i] = Math.max(slotOf[i], NONE);
        }
    }

    private void addMembers(int from, int n, int[] rows, int[] codes, int[] slotOf) {
        // the last column's members are next to each other
        int step = width;
        for (int c = members.size() - 1; c >= 0; c--) {
            ColumnValues.Texts column = members.get(c);
            if (rows == null) {
                column.codes().read(from, n, codes);
            }
            for (int i = 0; i < n && rows != null; i++) {
                codes[i] = column.code(rows[from + i]);
            }
            for (int i = 0; i < n; i++) {
                slotOf[i] += (codes[i] + 1) * step;
            }
            step *= column.dictionary().length + 1;
        }
    }

    private void number(int from, int n, RowDays places, int[] slotOf) {
        for (int i = 0; i < n; i++) {
            if (slotOf[i] == OUTSIDE) {
                slotOf[i] = NONE;
                continue;
            }
            int row = places.row(from + i);
            long group = 0;
            for (int c = 0; c < members.size(); c++) {
                ColumnValues.Texts column = members.get(c);
                group = ids.get(c).of(group * (column.dictionary().length + 1L) + column.code(row) + 1);
            }
            slotOf[i] = 1 + ids.get(members.size()).of(group * width + slotOf[i] - 1);
        }
    }

    /** Returns the groups that have places, with the days on which they have them. */
    List<Group> groups(IntToLongFunction placesOf) {
        return dense() ? denseGroups(placesOf) : hashedGroups();
    }

    private List<Group> denseGroups(IntToLongFunction placesOf) {
        List<Group> groups = new ArrayList<>();
        int count = width == 0 ? 0 : dense / width;
        for (int g = 0; g < count; g++) {
            int n = 0;
            for (int d = 0; d < width; d++) {
                n += placesOf.applyAsLong(1 + g * width + d) > 0 ? 1 : 0;
            }
            if (n == 0) {
                continue;
            }
            int[] days = new int[n];
            int[] slots = new int[n];
            n = 0;
            for (int d = 0; d < width; d++) {
                if (placesOf.applyAsLong(1 + g * width + d) > 0) {
                    days[n] = firsts[d];
                    slots[n++] = 1 + g * width + d;
                }
            }
            int[] codes = new int[members.size()];
            int rest = g;
            for (int c = codes.length - 1; c >= 0; c--) {
                int choices = members.get(c).dictionary().length + 1;
                codes[c] = rest % choices - 1;
                rest /= choices;
            }
            groups.add(new Group(codes, days, slots));
        }
        return groups;
    }

    private List<Group> hashedGroups() {
        LongIndexer last = ids.get(members.size());
        List<Integer> order = new ArrayList<>();
        for (int slot = 0; slot < last.size(); slot++) {
            order.add(slot);
        }
        // keys sort by group, then by day
        order.sort((a, b) -> Long.compare(last.key(a), last.key(b)));
        List<Group> groups = new ArrayList<>();
        int from = 0;
        while (from < order.size()) {
            long group = last.key(order.get(from)) / width;
            int to = from;
            while (to < order.size() && last.key(order.get(to)) / width == group) {
                to++;
            }
            int[] slots = new int[to - from];
            int[] days = new int[slots.length];
            for (int i = 0; i < days.length; i++) {
                int number = order.get(from + i);
                slots[i] = 1 + number;
                days[i] = firsts[(int) (last.key(number) % width)];
            }
            groups.add(new Group(codes(group), days, slots));
            from = to;
        }
        return groups;
    }

    private int[] codes(long group) {
        int[] codes = new int[members.size()];
        long id = group;
        for (int c = codes.length - 1; c >= 0; c--) {
            long key = ids.get(c).key((int) id);
            int choices = members.get(c).dictionary().length + 1;
            codes[c] = (int) (key % choices) - 1;
            id = key / choices;
        }
        return codes;
    }
}
