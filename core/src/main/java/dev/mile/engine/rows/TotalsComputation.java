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
import dev.mile.fact.Table;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * Adds up the places of one fact by group and day. A slot is one group on one day; places are taken in batches, first their
 * slots, then column after column, so that each loop runs over plain arrays.
 */
public final class TotalsComputation {
    /** Places added up at a time: their numbers stay in the first cache of a processor. */
    private static final int BATCH = 1024;

    /** Places that a thread takes for itself. */
    private static final int AT_ONCE = 64 * BATCH;

    /** Places from which on several threads pay. */
    private static final int MANY = 200_000;

    private final int mostThreads;
    private final JoinedRows rows;
    private final RowDays places;
    private final TotalsRequest request;
    private final DayContext days;
    private final Fact fact;
    private final List<ColumnValues.Texts> members;
    /** Whether the fact keeps all rows, and all lie on days that are asked for. */
    private final boolean allPlaced;

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
        ColumnValues.Dates on = places.days();
        this.allPlaced = fact.resolveFilter(rows.table().types()).isEmpty()
                && on.isFull()
                && request.days().contains(on.first())
                && request.days().contains(on.last());
        this.slots = GroupDayIndex.of(members, request.days(), request.buckets(), places.size(), allPlaced);
    }

    /** What one thread has added up. */
    private final class ThreadShare {
        private final int[] on = new int[BATCH];
        private final int[] slotOf = new int[BATCH];

        /** By column of the request; null where it counts all rows. */
        private final List<@Nullable ColumnAccumulator> columns = new ArrayList<>();

        /** Counts all rows, and may add up one of the columns. */
        private final ColumnAccumulator rowCounts;

        private final RowOutcomeCounts counted = new RowOutcomeCounts();
        private final @Nullable RowPredicate keep = fact.resolveFilter(
                        rows.table().types())
                .map(condition -> rows.test(condition, places, days))
                .orElse(null);

        ThreadShare() {
            for (TotalColumn column : request.columns()) {
                ColumnAccumulator of = ColumnAccumulator.of(column, rows, places, days);
                columns.add(of instanceof ColumnAccumulator.Counts && of.countsAll() ? null : of);
            }
            rowCounts = columns.stream()
                    .filter(column -> column != null && column.countsAll())
                    .findFirst()
                    .orElseGet(ColumnAccumulator.Counts::ofAll);
        }

        void add(int from, int to, Thread caller) {
            for (int start = from; start < to; start += BATCH) {
                StoppedException.throwIfInterrupted(caller);
                int n = Math.min(BATCH, to - start);
                places.days().read(start, n, on);
                count(start, n, on);
                slots.find(start, n, on, places, slotOf);
                add(rowCounts, start, n, slotOf);
                for (ColumnAccumulator column : columns) {
                    if (column != null && column != rowCounts) {
                        add(column, start, n, slotOf);
                    }
                }
            }
        }

        private void add(ColumnAccumulator column, int from, int n, int[] slotOf) {
            column.ensureSlots(slots.size());
            column.add(from, n, slotOf);
        }

        /** Counts the outcomes of the kept rows, and takes the days of the others away. */
        private void count(int from, int n, int[] on) {
            if (allPlaced) {
                // days that count are in the dimension
                counted.add(RoleAccounts.RowOutcome.PLACED, n);
                return;
            }
            DateRange dimension = days.dimensionRange();
            for (int i = 0; i < n; i++) {
                if (keep != null && keep.test(from + i) != TruthValue.TRUE) {
                    on[i] = Table.NO_DATE;
                } else {
                    boolean isPlaced = slots.contains(on[i]);
                    counted.add(
                            isPlaced ? RoleAccounts.RowOutcome.PLACED : RoleAccounts.RowOutcome.of(on[i], dimension),
                            1);
                }
            }
        }

        void add(ThreadShare other) {
            rowCounts.add(other.rowCounts);
            for (int c = 0; c < columns.size(); c++) {
                ColumnAccumulator column = columns.get(c);
                if (column != null && column != rowCounts) {
                    column.add(other.columns.get(c));
                }
            }
            counted.add(other.counted);
        }

        DailyTotals values(int column, int[] slots) {
            ColumnAccumulator of = columns.get(column);
            return of == null ? rowCounts.counts(slots) : of.values(slots);
        }
    }

    public TotalsCursor run() {
        int threads = places.size() < MANY || !slots.dense() || places.weights() != null || anyInOrder()
                ? 1
                : Math.min(mostThreads, 1 + places.size() / MANY);
        AtomicLong next = new AtomicLong();
        Thread caller = Thread.currentThread();
        List<ThreadShare> shares = IntStream.range(0, threads).boxed().toList().parallelStream()
                .map(t -> share(next, caller))
                .toList();
        ThreadShare all = shares.get(0);
        shares.subList(1, shares.size()).forEach(all::add);
        return TotalsCursor.of(groups(all), all.counted.byOutcome());
    }

    /** Floating sums depend on their order in the last digit, and sets of texts are not shared out. */
    private boolean anyInOrder() {
        return request.columns().stream()
                .map(column -> ColumnAccumulator.of(column, rows, places, days))
                .anyMatch(ColumnAccumulator::needsRowOrder);
    }

    /** Adds up what no other thread has taken yet, some places at a time. */
    private ThreadShare share(AtomicLong next, Thread caller) {
        ThreadShare share = new ThreadShare();
        long from = next.getAndAdd(AT_ONCE);
        while (from < places.size()) {
            share.add((int) from, (int) Math.min(from + AT_ONCE, places.size()), caller);
            from = next.getAndAdd(AT_ONCE);
        }
        return share;
    }

    private List<GroupTotals> groups(ThreadShare all) {
        List<GroupTotals> totals = new ArrayList<>();
        for (GroupDayIndex.Group group : slots.groups(all.rowCounts::count)) {
            String[] names = new String[members.size()];
            for (int c = 0; c < names.length; c++) {
                int code = group.codes()[c];
                names[c] = code < 0 ? null : members.get(c).dictionary()[code];
            }
            DailyTotals[] values = new DailyTotals[request.columns().size()];
            for (int c = 0; c < values.length; c++) {
                values[c] = all.values(c, group.slots());
            }
            totals.add(new GroupTotals(names, group.days(), values));
        }
        totals.sort(Comparator.comparing(GroupTotals::members, Comparisons.BY_MEMBERS));
        return totals;
    }
}
