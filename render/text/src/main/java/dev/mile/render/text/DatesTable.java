package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import dev.mile.dimension.DateColumn;
import dev.mile.dimension.DateDimension;
import java.math.BigDecimal;
import java.util.List;

/**
 * The part of a date dimension that is written.
 *
 * @param dimension the dimension
 * @param columns the columns, in order
 * @param days the days
 */
public record DatesTable(DateDimension dimension, List<DateColumn> columns, DateRange days) {
    public DatesTable {
        columns = List.copyOf(columns);
    }

    /**
     * {@return all of the dimension}
     *
     * @param dimension the date dimension
     */
    public static DatesTable all(DateDimension dimension) {
        requireNonNull(dimension, "dimension is null");
        return new DatesTable(dimension, dimension.columns(), dimension.range());
    }

    /** Returns the value as a text: dates in ISO 8601, numbers in plain digits, blanks empty. */
    static String text(Object value) {
        return value == null ? "" : value instanceof BigDecimal n ? n.toPlainString() : value.toString();
    }
}
