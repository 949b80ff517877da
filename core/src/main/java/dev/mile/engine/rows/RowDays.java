package dev.mile.engine.rows;

import dev.mile.fact.ColumnValues;
import dev.mile.fact.Table;
import java.math.BigDecimal;

/**
 * The days on which rows are placed. Place i is row {@code row(i)} on {@code days[i]}; a row of a plan over a period has a place on each
 * day that gets a part of it, with {@code weights}; else weights are null.
 *
 * @param rows the row of each place; null where places are the rows themselves
 * @param days the epoch day of each place, {@link Table#NO_DATE} or {@link Table#UNREADABLE}
 * @param weights the weight of each place within its row
 */
public record RowDays(int[] rows, ColumnValues.Dates days, BigDecimal[] weights) {
    public int size() {
        return days.size();
    }

    public int day(int place) {
        return days.day(place);
    }

    public int row(int place) {
        return rows == null ? place : rows[place];
    }
}
