package dev.mile.engine;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;

/**
 * The totals that an engine returns, group by group, so that memory does not grow with their number. Groups come by code point
 * (blank last), their days rising; days and groups without a row are not there.
 */
public interface TotalsCursor extends AutoCloseable {
    /**
     * {@return the next group; null after the last}
     *
     * @throws dev.mile.MileException if data cannot be read, or a sum is too large
     */
    GroupTotals next();

    /** {@return what became of the rows that the fact keeps, in the role asked for; whole only after the last group} */
    Map<RoleAccounts.RowOutcome, Long> rowOutcomes();

    /** {@return which share of the groups has been returned, from 0 to 1; NaN where their number is not known} */
    default double progress() {
        return Double.NaN;
    }

    @Override
    void close();

    /** {@return all groups; closes the cursor} */
    default List<GroupTotals> all() {
        try (this) {
            List<GroupTotals> groups = new ArrayList<>();
            for (GroupTotals group = next(); group != null; group = next()) {
                groups.add(group);
            }
            return groups;
        }
    }

    /**
     * {@return a cursor over groups in memory}
     *
     * @param groups the groups
     * @param rows what became of the rows
     */
    static TotalsCursor of(List<GroupTotals> groups, Map<RoleAccounts.RowOutcome, Long> rows) {
        Iterator<GroupTotals> rest = groups.iterator();
        Map<RoleAccounts.RowOutcome, Long> counted = new EnumMap<>(RoleAccounts.RowOutcome.class);
        counted.putAll(rows);
        return new TotalsCursor() {
            @Override
            public GroupTotals next() {
                return rest.hasNext() ? rest.next() : null;
            }

            @Override
            public Map<RoleAccounts.RowOutcome, Long> rowOutcomes() {
                return counted;
            }

            @Override
            public void close() {}
        };
    }
}
