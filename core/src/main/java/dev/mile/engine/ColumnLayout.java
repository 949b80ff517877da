package dev.mile.engine;

import java.io.Serializable;

/**
 * Which columns of a request hold the totals of one value; -1 for a total that was not asked for.
 *
 * @param request the number of the request
 * @param rows how many rows
 * @param count how many values are not blank
 * @param sum the sum of the values
 * @param min the smallest value
 * @param max the largest value
 * @param distinct the values themselves
 */
public record ColumnLayout(int request, int rows, int count, int sum, int min, int max, int distinct)
        implements Serializable {}
