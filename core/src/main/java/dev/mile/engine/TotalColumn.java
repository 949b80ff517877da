package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.fact.Condition;
import dev.mile.fact.RowExpression;
import java.util.Optional;

/**
 * One total that is asked of an engine, per group and day.
 *
 * @param kind how values are taken together
 * @param value the value of a row; empty for {@link Kind#ROWS}
 * @param where the rows that count, all names looked up; empty for all
 */
public record TotalColumn(Kind kind, Optional<RowExpression> value, Optional<Condition> where) {
    /** How the values of a day's rows become one. */
    public enum Kind {
        /** How many rows. */
        ROWS,
        /** How many values are not blank. */
        COUNT,
        /** The sum of the values. */
        SUM,
        /** The smallest value. */
        MIN,
        /** The largest value. */
        MAX,
        /** The values themselves, each once, since their number cannot be added up by day. */
        DISTINCT
    }

    public TotalColumn {
        requireNonNull(kind, "kind is null");
        requireNonNull(value, "of is null");
        requireNonNull(where, "where is null");
    }
}
