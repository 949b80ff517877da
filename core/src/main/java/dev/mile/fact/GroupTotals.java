package dev.mile.fact;

import java.math.BigDecimal;

/**
 * The totals of one group, day by day.
 *
 * <p>{@code values[c][i]} is the total of column c on {@code days[i]}: a {@link BigDecimal} or, for floating columns, a {@link
 * Double}; an array of texts for {@link Column.Kind#DISTINCT}; null where there is no value.
 *
 * @param members the group's member in each grouping column, null for a blank
 * @param days the epoch days that have rows, rising
 * @param values by column, then by day
 */
public record GroupTotals(String[] members, int[] days, Object[][] values) {}
