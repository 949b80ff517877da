package dev.mile.sql;

import dev.mile.calendar.DateRange;
import dev.mile.fact.DayValues;
import dev.mile.fact.GroupTotals;
import dev.mile.fact.RoleAccounts;
import dev.mile.fact.TotalsCursor;
import java.util.Arrays;
import java.util.Map;

/** Totals cut at a last day. */
final class CutTotals implements TotalsCursor {
    private final TotalsCursor whole;
    private final DateRange days;

    CutTotals(TotalsCursor whole, DateRange days) {
        this.whole = whole;
        this.days = days;
    }

    @Override
    public GroupTotals next() {
        for (GroupTotals group = whole.next(); group != null; group = whole.next()) {
            int size = 0;
            while (size < group.days().length && group.days()[size] <= days.lastDay()) {
                size++;
            }
            if (size == group.days().length) {
                return group;
            }
            if (size > 0) {
                int kept = size;
                return new GroupTotals(
                        group.members(),
                        Arrays.copyOf(group.days(), size),
                        Arrays.stream(group.values()).map(v -> v.first(kept)).toArray(DayValues[]::new));
            }
        }
        return null;
    }

    @Override
    public Map<RoleAccounts.Part, Long> rows() {
        return whole.rows();
    }

    @Override
    public void close() {
        whole.close();
    }
}
