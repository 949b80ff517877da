package dev.mile.fact;

import dev.mile.calendar.DateRange;
import java.io.Serializable;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;

/**
 * Stretches of days that are only ever read together, since no window begins or ends inside: one total for each is enough. They
 * divide the days of a request without a gap; days outside stand for themselves.
 */
public final class Stretches implements Serializable {
    private static final long serialVersionUID = 1L;

    /** Every day stands for itself. */
    public static final Stretches DAYS = new Stretches(new int[0], 0);

    private final int[] firsts;
    private final int end;

    private Stretches(int[] firsts, int end) {
        this.firsts = firsts;
        this.end = end;
    }

    /** Returns the stretches of a range that begin on its first day and on each of the days that lie in it. */
    public static Stretches of(DateRange range, Collection<Integer> begins) {
        if (range.isEmpty()) {
            return DAYS;
        }
        int[] inside = begins.stream()
                .mapToInt(Integer::intValue)
                .filter(day -> day > range.firstDay() && day <= range.lastDay())
                .sorted()
                .distinct()
                .toArray();
        int[] firsts = new int[inside.length + 1];
        firsts[0] = range.firstDay();
        System.arraycopy(inside, 0, firsts, 1, inside.length);
        return new Stretches(firsts, range.lastDay() + 1);
    }

    /** Tells whether every day stands for itself. */
    public boolean daily() {
        return firsts.length == 0;
    }

    /** Returns the first epoch day of each stretch, rising; empty where every day stands for itself. */
    public int[] firsts() {
        return firsts.clone();
    }

    /** Tells whether a window may begin on the day: no stretch has days on both sides of its beginning. */
    public boolean mayBegin(int day) {
        return daily() || day <= firsts[0] || day >= end || Arrays.binarySearch(firsts, day) >= 0;
    }

    /** Returns where the day stands among the stretches, 0 before the first and their number behind the last; -1 for days. */
    public int place(int day) {
        return daily() ? -1 : day < firsts[0] ? 0 : day >= end ? firsts.length : number(day);
    }

    /** Returns the number of the stretch that the day lies in; -1 where it stands for itself. */
    public int number(int day) {
        if (daily() || day < firsts[0] || day >= end) {
            return -1;
        }
        int at = Arrays.binarySearch(firsts, day);
        return at >= 0 ? at : -at - 2;
    }

    /** Returns totals of days as totals of stretches, each on its first day. */
    GroupTotals of(GroupTotals totals, List<Column> columns) {
        int[] days = totals.days();
        int[] on = new int[days.length];
        int[] from = new int[days.length + 1];
        int n = 0;
        int stretch = -1;
        for (int i = 0; i < days.length; i++) {
            int day = days[i];
            boolean inside = day >= firsts[0] && day < end;
            int before = stretch;
            while (inside && stretch + 1 < firsts.length && firsts[stretch + 1] <= day) {
                stretch++;
            }
            if (!inside || stretch > before || i == 0) {
                on[n] = inside ? firsts[stretch] : day;
                from[n++] = i;
            }
        }
        from[n] = days.length;
        int[] parts = Arrays.copyOf(from, n + 1);
        DayValues[] values = new DayValues[columns.size()];
        for (int c = 0; c < values.length; c++) {
            Column.Kind kind = columns.get(c).kind();
            for (int other = 0; other < c && values[c] == null; other++) {
                boolean same = totals.values()[other] == totals.values()[c]
                        && (columns.get(other).kind() == kind
                                || isCount(columns.get(other)) && isCount(columns.get(c)));
                values[c] = same ? values[other] : null;
            }
            values[c] = values[c] == null ? totals.values()[c].together(kind, parts) : values[c];
        }
        return new GroupTotals(totals.members(), Arrays.copyOf(on, n), values);
    }

    private static boolean isCount(Column column) {
        return column.kind() == Column.Kind.ROWS || column.kind() == Column.Kind.COUNT;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Stretches o && end == o.end && Arrays.equals(firsts, o.firsts);
    }

    @Override
    public int hashCode() {
        return 31 * Arrays.hashCode(firsts) + end;
    }

    @Override
    public String toString() {
        return daily() ? "days" : firsts.length + " stretches up to " + (end - 1) + ": " + Arrays.toString(firsts);
    }
}
