package dev.mile.report.run;

import dev.mile.report.plan.CompiledMeasure;
import dev.mile.report.plan.PlanNode;
import dev.mile.report.plan.SeriesBinding;
import dev.mile.report.series.DailySeries;
import dev.mile.report.series.MemberFilter;
import dev.mile.report.series.SeriesStore;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import org.jspecify.annotations.Nullable;

/** The series that are read for some members of a report's dimensions; looked up once, for all cells in time. */
public final class MemberTotals {
    private final SeriesStore store;
    private final Map<String, MemberFilter> members;
    private final boolean streamed;
    private @Nullable DailySeries[] cached = new DailySeries[4];

    /**
     * @param members the members by dimension; a dimension that is not there is taken with all its members
     * @param streamed whether the store holds the groups of one member at a time
     */
    MemberTotals(SeriesStore store, Map<String, MemberFilter> members, boolean streamed) {
        this.store = store;
        this.members = members;
        this.streamed = streamed;
    }

    /** Returns which members of the dimension are taken; null for all. */
    @Nullable
    MemberFilter members(String dimension) {
        return members.get(dimension);
    }

    /** Returns whether the series over all members of the first grouping column is read. */
    boolean readsAllMembers(SeriesBinding binding) {
        return streamed
                && binding.allMembers() != binding.series()
                && !members.containsKey(binding.dimensions().get(0));
    }

    /** Returns the members of the groups that are read. */
    List<String[]> groups(SeriesBinding binding) {
        return store.members(readsAllMembers(binding) ? binding.allMembers() : binding.series());
    }

    /** Returns whether rows that the aggregate finds count as the row's own. */
    boolean countsAsOwn(CompiledMeasure.Aggregate aggregate) {
        return aggregate.across().isEmpty() || Collections.disjoint(aggregate.across(), members.keySet());
    }

    /**
     * Returns the series that is read; null where its fact lacks a dimension of the row.
     *
     * @param days the days that count; null for all
     * @param loops the members of the loops around, by loop
     */
    @Nullable
    DailySeries series(SeriesBinding binding, @Nullable IntPredicate days, Map<Integer, String> loops) {
        if (days != null || !loops.isEmpty() && !binding.readsRowOnly()) {
            return lookUp(binding, days, loops);
        }
        if (binding.number() >= cached.length) {
            cached = Arrays.copyOf(cached, binding.number() * 2);
        }
        DailySeries series = cached[binding.number()];
        if (series == null) {
            series = lookUp(binding, days, loops);
            cached[binding.number()] = series;
        }
        return series;
    }

    private @Nullable DailySeries lookUp(
            SeriesBinding binding, @Nullable IntPredicate days, Map<Integer, String> loops) {
        if (!Collections.disjoint(binding.missingDimensions(), members.keySet())) {
            return null;
        }
        List<@Nullable MemberFilter> taken = new ArrayList<>();
        for (int i = 0; i < binding.dimensions().size(); i++) {
            int scope = binding.scopes().get(i);
            taken.add(
                    scope == PlanNode.MemberBinding.ROW
                            ? members.get(binding.dimensions().get(i))
                            : loops.containsKey(scope) ? MemberFilter.only(loops.get(scope)) : null);
        }
        return readsAllMembers(binding)
                ? store.slice(binding.allMembers(), taken.subList(1, taken.size()), days)
                : store.slice(binding.series(), taken, days);
    }
}
