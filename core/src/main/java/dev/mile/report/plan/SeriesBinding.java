package dev.mile.report.plan;

import java.io.Serializable;
import java.util.List;

/**
 * Whose totals an aggregate reads; aggregates over many windows read those of the same members.
 *
 * @param number its number among those of the report
 * @param series the number of the series
 * @param allMembers the number of the series over all members of the first grouping column, without that column, where groups come
 *     one member at a time; the same number if there is none
 * @param dimensions the dimension of each grouping column
 * @param scopes for each grouping column the loop whose member is read, or {@link PlanNode.MemberBinding#ROW}
 * @param missingDimensions the dimensions of the report that its fact lacks
 */
public record SeriesBinding(
        int number,
        int series,
        int allMembers,
        List<String> dimensions,
        List<Integer> scopes,
        List<String> missingDimensions)
        implements Serializable {
    /** Returns whether it reads only the row's own members. */
    public boolean readsRowOnly() {
        return scopes.stream().allMatch(scope -> scope == PlanNode.MemberBinding.ROW);
    }
}
