package dev.mile.sql.cache;

import dev.mile.engine.Comparisons;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.Map;
import java.util.TreeSet;

/** The totals of two sets of rows together, read side by side. */
final class MergingCursor implements TotalsCursor {
    private final TotalsCursor left;
    private final TotalsCursor right;
    private final TotalsRequest request;
    private final Runnable closed;
    private GroupTotals nextLeft;
    private GroupTotals nextRight;
    private boolean begun;

    /**
     * Returns a cursor.
     *
     * @param closed runs when it is closed
     */
    MergingCursor(TotalsCursor left, TotalsCursor right, TotalsRequest request, Runnable closed) {
        this.left = left;
        this.right = right;
        this.request = request;
        this.closed = closed;
    }

    @Override
    public GroupTotals next() {
        if (!begun) {
            begun = true;
            nextLeft = left.next();
            nextRight = right.next();
        }
        int order = nextLeft == null
                ? nextRight == null ? 0 : 1
                : nextRight == null ? -1 : Comparisons.BY_MEMBERS.compare(nextLeft.members(), nextRight.members());
        GroupTotals group = order <= 0 ? nextLeft : nextRight;
        if (order == 0 && group != null) {
            group = added(nextLeft, nextRight);
        }
        nextLeft = order <= 0 && nextLeft != null ? left.next() : nextLeft;
        nextRight = order >= 0 && nextRight != null ? right.next() : nextRight;
        return group;
    }

    private GroupTotals added(GroupTotals a, GroupTotals b) {
        TreeSet<Integer> all = new TreeSet<>();
        Arrays.stream(a.days()).forEach(all::add);
        Arrays.stream(b.days()).forEach(all::add);
        int[] days = all.stream().mapToInt(Integer::intValue).toArray();
        DailyTotals[] values = new DailyTotals[request.columns().size()];
        for (int c = 0; c < values.length; c++) {
            values[c] = added(request.columns().get(c).kind(), days, a, b, c);
        }
        return new GroupTotals(a.members(), days, values);
    }

    private static DailyTotals added(TotalColumn.Kind kind, int[] days, GroupTotals a, GroupTotals b, int column) {
        DailyTotals one = a.values()[column];
        DailyTotals two = b.values()[column];
        String[][] texts = new String[days.length][];
        BigDecimal[] exact = new BigDecimal[days.length];
        double[] floating = new double[days.length];
        boolean counts = kind == TotalColumn.Kind.ROWS || kind == TotalColumn.Kind.COUNT;
        for (int i = 0; i < days.length; i++) {
            int at = Arrays.binarySearch(a.days(), days[i]);
            int other = Arrays.binarySearch(b.days(), days[i]);
            if (kind == TotalColumn.Kind.DISTINCT) {
                texts[i] = together(texts(one, at), texts(two, other));
                continue;
            }
            Number sum = taken(kind, amount(one, at), amount(two, other));
            exact[i] = sum instanceof BigDecimal decimal ? decimal : sum == null && counts ? BigDecimal.ZERO : null;
            floating[i] = sum == null ? Double.NaN : sum.doubleValue();
        }
        if (kind == TotalColumn.Kind.DISTINCT) {
            return new DailyTotals.StringSets(texts);
        }
        return one instanceof DailyTotals.Doubles || two instanceof DailyTotals.Doubles
                ? new DailyTotals.Doubles(floating)
                : DailyTotals.of(exact);
    }

    private static String[] texts(DailyTotals values, int at) {
        return at < 0
                ? null
                : ((DailyTotals.DistinctTexts) values.slice(at, at + 1))
                        .toStringSets()
                        .values()[0];
    }

    private static String[] together(String[] a, String[] b) {
        if (a == null || b == null) {
            return a == null ? b : a;
        }
        TreeSet<String> all = new TreeSet<>(Arrays.asList(a));
        all.addAll(Arrays.asList(b));
        return all.toArray(String[]::new);
    }

    private static Number amount(DailyTotals values, int at) {
        return at < 0 ? null : values.amount(at);
    }

    private static Number taken(TotalColumn.Kind kind, Number a, Number b) {
        if (a == null || b == null) {
            return a == null ? b : a;
        }
        if (a instanceof BigDecimal x && b instanceof BigDecimal y) {
            return kind == TotalColumn.Kind.MIN ? x.min(y) : kind == TotalColumn.Kind.MAX ? x.max(y) : x.add(y);
        }
        double x = a.doubleValue();
        double y = b.doubleValue();
        return kind == TotalColumn.Kind.MIN ? Math.min(x, y) : kind == TotalColumn.Kind.MAX ? Math.max(x, y) : x + y;
    }

    @Override
    public Map<RoleAccounts.RowOutcome, Long> rowOutcomes() {
        Map<RoleAccounts.RowOutcome, Long> rows = new EnumMap<>(RoleAccounts.RowOutcome.class);
        rows.putAll(left.rowOutcomes());
        right.rowOutcomes().forEach((part, count) -> rows.merge(part, count, Long::sum));
        return rows;
    }

    @Override
    public double progress() {
        return (left.progress() + right.progress()) / 2;
    }

    @Override
    public void close() {
        try {
            left.close();
            right.close();
        } finally {
            closed.run();
        }
    }
}
