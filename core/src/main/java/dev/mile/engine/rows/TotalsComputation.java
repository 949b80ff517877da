package dev.mile.engine.rows;

import dev.mile.StoppedException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.Comparisons;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.DayContext;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.RowOutcomeCounts;
import dev.mile.engine.RowPredicate;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.TruthValue;
import dev.mile.fact.ColumnValues;
import dev.mile.fact.Fact;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;

/**
 * Adds up the places of one fact by group and day. A slot is one group on one day; places are taken in batches, first their
 * slots, then column after column, so that each loop runs over plain arrays.
 */
public final class TotalsComputation {
    /** Places taken at a time: their numbers stay in the processor's cache. */
    private static final int BATCH = 4096;

    /** Places from which on several threads pay. */
    private static final int MANY = 200_000;

    private final int mostThreads;
    private final JoinedRows rows;
    private final RowDays places;
    private final TotalsRequest request;
    private final DayContext days;
    private final Fact fact;
    private final List<ColumnValues.Texts> members;
    private final GroupDayIndex slots;

    /**
     * Returns a computation.
     *
     * @param mostThreads how many threads may add up at once
     */
    public TotalsComputation(
            JoinedRows rows, RowDays places, Fact fact, TotalsRequest request, DayContext days, int mostThreads) {
        this.mostThreads = mostThreads;
        this.rows = rows;
        this.places = places;
        this.request = request;
        this.days = days;
        this.fact = fact;
        this.members =
                request.groups().stream().map(group -> rows.coded(group, days)).toList();
        this.slots = GroupDayIndex.of(members, request.days(), request.buckets(), places.size());
    }

    /** What one thread has added up. */
    private final class ThreadShare {
        final List<ColumnAccumulator> columns = new ArrayList<>();
        final ColumnAccumulator.Counts found = new ColumnAccumulator.Counts(null, null);
        final RowOutcomeCounts counted = new RowOutcomeCounts();
        private final RowPredicate keep = fact.resolveFilter(rows.table().types())
                .map(condition -> rows.test(condition, places, days))
                .orElse(null);

        ThreadShare() {
            for (TotalColumn column : request.columns()) {
                ColumnAccumulator tally = ColumnAccumulator.of(column, rows, places, days);
                columns.add(tally.countsAllRows() ? found : tally);
            }
        }

        void add(int from, int to, Thread caller) {
            int[] slotOf = new int[BATCH];
            int[] at = new int[BATCH];
            for (int start = from; start < to; start += BATCH) {
                StoppedException.throwIfInterrupted(caller);
                int n = place(start, Math.min(start + BATCH, to), at);
                slots.of(at, n, places, slotOf);
                found.add(at, slotOf, n, slots.size());
                for (int c = 0; c < columns.size(); c++) {
                    if (columns.get(c) != found) {
                        add(c, at, slotOf, n);
                    }
                }
            }
        }

        private void add(int column, int[] at, int[] slotOf, int n) {
            columns.get(column).add(at, slotOf, n, slots.size());
        }

        /** Lists the places of kept rows on requested days, and counts the outcomes of all kept rows. */
        private int place(int from, int to, int[] at) {
            int first = request.days().firstEpochDay();
            int last = request.days().lastEpochDay();
            DateRange dimension = days.dimensionRange();
            int[] on = places.days();
            int n = 0;
            for (int i = from; i < to; i++) {
                if (keep != null && keep.test(i) != TruthValue.TRUE) {
                    continue;
                }
                if (on[i] >= first && on[i] <= last) {
                    at[n++] = i;
                } else {
                    counted.add(RoleAccounts.RowOutcome.of(on[i], dimension), 1);
                }
            }
            // days that count are in the dimension
            counted.add(RoleAccounts.RowOutcome.PLACED, n);
            return n;
        }
    }

    public TotalsCursor run() {
        int threads = places.size() < MANY || !slots.dense() || places.weights() != null || anyInOrder()
                ? 1
                : Math.min(mostThreads, 1 + places.size() / MANY);
        int size = Math.max(1, (places.size() + threads - 1) / threads);
        Thread caller = Thread.currentThread();
        List<ThreadShare> shares = IntStream.range(0, threads).mapToObj(t -> t).toList().parallelStream()
                .map(t -> share(t * size, (int) Math.min((t + 1L) * size, places.size()), caller))
                .toList();
        ThreadShare all = shares.get(0);
        for (ThreadShare other : shares.subList(1, shares.size())) {
            for (int c = 0; c < all.columns.size(); c++) {
                if (all.columns.get(c) != all.found) {
                    all.columns.get(c).add(other.columns.get(c));
                }
            }
            all.found.add(other.found);
            all.counted.add(other.counted);
        }
        return TotalsCursor.of(groups(all), all.counted.byOutcome());
    }

    /** Floating sums depend on their order in the last digit, and sets of texts are not shared out. */
    private boolean anyInOrder() {
        return request.columns().stream()
                .map(column -> ColumnAccumulator.of(column, rows, places, days))
                .anyMatch(ColumnAccumulator::needsRowOrder);
    }

    private ThreadShare share(int from, int to, Thread caller) {
        ThreadShare share = new ThreadShare();
        share.add(from, Math.max(from, to), caller);
        return share;
    }

    private List<GroupTotals> groups(ThreadShare all) {
        all.found.ensureCapacity(slots.size());
        List<GroupTotals> totals = new ArrayList<>();
        for (GroupDayIndex.Group group : slots.groups(all.found.counts())) {
            String[] names = new String[members.size()];
            for (int c = 0; c < names.length; c++) {
                int code = group.codes()[c];
                names[c] = code < 0 ? null : members.get(c).dictionary()[code];
            }
            DailyTotals[] values = new DailyTotals[all.columns.size()];
            for (int c = 0; c < values.length; c++) {
                values[c] = all.columns.get(c).values(group.slots());
            }
            totals.add(new GroupTotals(names, group.days(), values));
        }
        totals.sort(Comparator.comparing(GroupTotals::members, Comparisons.BY_MEMBERS));
        return totals;
    }
}
