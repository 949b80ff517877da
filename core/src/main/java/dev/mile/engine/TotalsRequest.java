package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import java.util.List;
import java.util.stream.Stream;

/**
 * What an engine is asked: one pass over a fact.
 *
 * @param fact the fact
 * @param role the role whose date places rows in time
 * @param days the days whose rows count
 * @param buckets the days that share one total, which is that of the first of them
 * @param groups the columns to group by; date attributes are not among them
 * @param columns the totals
 */
public record TotalsRequest(
        String fact,
        String role,
        DateRange days,
        DayBuckets buckets,
        List<Operand.Field> groups,
        List<TotalColumn> columns) {
    public TotalsRequest {
        groups = List.copyOf(groups);
        columns = List.copyOf(columns);
    }

    /**
     * {@return a request of totals of every day of some days}
     *
     * @param fact the fact
     * @param role the date role
     * @param days the days of which totals are asked
     * @param groups the groups
     * @param columns the totals
     */
    public static TotalsRequest daily(
            String fact, String role, DateRange days, List<Operand.Field> groups, List<TotalColumn> columns) {
        requireNonNull(fact, "fact is null");
        requireNonNull(role, "role is null");
        requireNonNull(days, "days is null");
        requireNonNull(groups, "groups is null");
        requireNonNull(columns, "columns is null");
        return new TotalsRequest(fact, role, days, DayBuckets.DAILY, groups, columns);
    }

    /** {@return every count of time between two dates of a row that the request needs} */
    public Stream<RowExpression.Elapsed> elapsed() {
        return Stream.concat(
                groups.stream().flatMap(Operand::elapsed),
                columns.stream()
                        .flatMap(column -> Stream.concat(
                                column.value().stream().flatMap(TotalsRequest::elapsed),
                                column.where().stream().flatMap(Condition::elapsed))));
    }

    private static Stream<RowExpression.Elapsed> elapsed(RowExpression value) {
        // a named column may be counted as it is
        return value instanceof RowExpression.Value plain ? plain.operand().elapsed() : value.elapsed();
    }
}
