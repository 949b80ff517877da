package dev.mile.engine;

import java.io.Serializable;

/**
 * The totals of one group, day by day, or bucket by bucket.
 *
 * @param members the group's member in each grouping column, null for a blank
 * @param days the epoch days that have rows, or the first days of the buckets that have, rising
 * @param values by column asked for, a total for each of them
 */
public record GroupTotals(String[] members, int[] days, DailyTotals[] values) implements Serializable {}
