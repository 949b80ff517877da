package dev.mile.report.run;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.engine.Comparisons;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import dev.mile.report.plan.CellWindows;
import dev.mile.report.plan.CompiledMeasure;
import dev.mile.report.plan.CompiledMeasure.EvaluationContext;
import dev.mile.report.plan.MemberLimit;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.plan.ResolvedWindow;
import dev.mile.report.series.DailySeries;
import dev.mile.report.series.MemberFilter;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/** A cell in which measures are evaluated: its windows, the totals of its members, and the members of the loops around. */
final class CellContext implements EvaluationContext {
    private final CellWindows windows;
    private final MemberTotals totals;
    private final Map<Integer, String> loops;
    private final @Nullable CellContext outermost;
    private final boolean ownRows;
    /** By number; null until one is evaluated. */
    private @Nullable Value @Nullable [] shared;

    private boolean foundRows;

    CellContext(CellWindows windows, MemberTotals totals) {
        this(windows, totals, Map.of(), null, true);
    }

    private CellContext(
            CellWindows windows,
            MemberTotals totals,
            Map<Integer, String> loops,
            @Nullable CellContext outermost,
            boolean ownRows) {
        this.windows = windows;
        this.totals = totals;
        this.loops = loops;
        this.outermost = outermost;
        this.ownRows = ownRows;
    }

    @Override
    public Value aggregate(CompiledMeasure.Aggregate aggregate) {
        ResolvedWindow window = window(aggregate);
        if (window == null) {
            return Value.UNKNOWN;
        }
        DailySeries series = totals.series(aggregate.binding(), window.filter(), loops);
        if (series == null) {
            return Value.UNKNOWN;
        }
        int from = series.indexOfFirstFrom(window.first(), window.fromIndex());
        int to = series.indexAfter(window.last(), window.toIndex());
        Value value = series.value(aggregate.aggregation(), aggregate.countsRows(), from, to);
        CellContext whole = outermost == null ? this : outermost;
        if (!whole.foundRows && ownRows && window.countsAsOwn() && hasRows(aggregate, value, series, from, to)) {
            whole.foundRows = totals.countsAsOwn(aggregate);
        }
        return window.divisor() == null ? value : value.dividedBy(window.divisor());
    }

    private static boolean hasRows(
            CompiledMeasure.Aggregate aggregate, Value value, DailySeries series, int from, int to) {
        // a sum is nothing without a row, so most need not look
        boolean hasSum = aggregate.aggregation() == Measure.Aggregation.SUM && !value.isNothing();
        return hasSum || series.rowsBetween(from, to) > 0;
    }

    @Override
    public Value shared(CompiledMeasure.Shared measure) {
        int number = measure.number();
        if (shared == null || number >= shared.length) {
            shared = shared == null ? new Value[number + 1] : Arrays.copyOf(shared, 2 * number);
        }
        Value known = shared[number];
        if (known == null) {
            known = measure.operand().evaluate(this);
            // the operand may be made of shared measures, which replace the array where it is too short
            shared[number] = known;
        }
        return known;
    }

    private @Nullable ResolvedWindow window(CompiledMeasure.Aggregate aggregate) {
        if (aggregate.limits().isEmpty()) {
            return windows.window(aggregate.number());
        }
        DateRange limit = null;
        for (MemberLimit member : aggregate.limits()) {
            DateRange days = days(member);
            limit = days == null ? limit : limit == null ? days : limit.intersect(days);
        }
        return limit == null ? windows.window(aggregate.number()) : windows.window(aggregate.number(), limit);
    }

    /** Returns the days on which the member of the cell or of a loop could have rows; null where it always could. */
    private @Nullable DateRange days(MemberLimit limit) {
        String member = limit.scope() == PlanNode.MemberBinding.ROW
                ? totals.members(limit.dimension()) instanceof MemberFilter.Only only ? only.member() : null
                : loops.get(limit.scope());
        return member == null ? null : limit.daysByMember().get(member);
    }

    @Override
    public Value dayCount(int number) {
        return windows.dayCount(number);
    }

    @Override
    public Optional<Level> finestLevel() {
        return windows.finestLevel();
    }

    @Override
    public CellContext withMember(int loop, String member) {
        Map<Integer, String> inner = new HashMap<>(loops);
        inner.put(loop, member);
        return new CellContext(windows, totals, inner, outermost == null ? this : outermost, ownRows);
    }

    @Override
    public CellContext withoutOwnRows() {
        return new CellContext(windows, totals, loops, outermost == null ? this : outermost, false);
    }

    @Override
    public Set<String> members(CompiledMeasure.Each loop) {
        MemberFilter taken = loop.within() == PlanNode.MemberBinding.ROW
                ? totals.members(loop.dimension())
                : loop.within() == PlanNode.Each.ALL ? null : MemberFilter.only(loops.get(loop.within()));
        Set<String> members = new TreeSet<>(Comparisons.BY_CODE_POINT);
        for (CompiledMeasure.LoopMembers source : loop.sources()) {
            int column = totals.readsAllMembers(source.binding()) ? source.column() - 1 : source.column();
            for (String[] group : totals.groups(source.binding())) {
                if (taken == null || taken.accepts(group[column])) {
                    members.add(group[column]);
                }
            }
        }
        return members;
    }

    /** Returns how many rows of the aggregate's fact lie between the days, whatever its filters of days. */
    long rowsBetween(CompiledMeasure.Aggregate aggregate, int first, int last) {
        DailySeries series = totals.series(aggregate.binding(), null, loops);
        return series == null ? 0 : series.rows(first, last);
    }

    /** Returns whether an aggregate evaluated here found rows that count as the row's own. */
    boolean foundRows() {
        return foundRows;
    }
}
