package dev.mile.fact;

import dev.mile.calendar.DateRange;
import java.util.List;

/**
 * What an engine is asked: one pass over a fact.
 *
 * @param fact the fact
 * @param role the role whose date places rows in time
 * @param days the days whose rows count
 * @param groups the columns to group by; date attributes are not among them
 * @param columns the totals
 */
public record TotalsRequest(
        String fact, String role, DateRange days, List<Operand.Field> groups, List<Column> columns) {
    public TotalsRequest {
        groups = List.copyOf(groups);
        columns = List.copyOf(columns);
    }
}
