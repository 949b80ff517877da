package dev.mile.fact;

import org.jspecify.annotations.Nullable;

/** The values of a column of a {@link Table}, in primitive arrays. */
public sealed interface ColumnValues {
    /** Texts, coded by a dictionary; -1 is a blank. */
    record Texts(int[] codes, String[] dictionary) implements ColumnValues {}

    /** Exact decimals: unscaled values of one scale; {@code blank} is null where there are none. */
    record Decimals(long[] unscaled, int scale, boolean @Nullable [] blank) implements ColumnValues {}

    /** Binary floating numbers; NaN is a blank. */
    record Doubles(double[] values) implements ColumnValues {}

    /**
     * Epoch days.
     *
     * @param days the day of each row, {@link Table#NO_DATE} or {@link Table#UNREADABLE}
     * @param first the first day; after the last where no row has one
     * @param last the last day
     */
    record Dates(int[] days, int first, int last) implements ColumnValues {
        /** Returns a column of these days; the array is not copied. */
        static Dates of(int[] days) {
            int first = Integer.MAX_VALUE;
            int last = Table.UNREADABLE;
            for (int day : days) {
                if (day > Table.UNREADABLE) {
                    first = Math.min(first, day);
                    last = Math.max(last, day);
                }
            }
            return new Dates(days, first, last);
        }
    }

    /** Blanks only. */
    record Blanks() implements ColumnValues {}
}
