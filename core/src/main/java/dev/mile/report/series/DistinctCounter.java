package dev.mile.report.series;

import java.util.Arrays;

/**
 * Counts the different values of any days of a series. A value counts on the first of the days that has it, so a day adds as many
 * values as were last seen before the window begins: one search a day, however many values it has.
 */
final class DistinctCounter {
    /** A place in a table costs about a thirtieth of what it costs to sort a number. */
    private static final int TABLE_RATIO = 32;

    /** For each index, where its values were seen last before it, -1 for never; rising. */
    private final int[][] previousIndex;

    /**
     * Returns a counter.
     *
     * @param values the numbers of the different values at each index
     */
    DistinctCounter(int[][] values) {
        long size = 0;
        int largest = 0;
        for (int[] ofDay : values) {
            size += ofDay.length;
            for (int value : ofDay) {
                largest = Math.max(largest, value);
            }
        }
        previousIndex = new int[values.length][];
        for (int index = 0; index < values.length; index++) {
            previousIndex[index] = new int[values[index].length];
        }
        if (largest < size * TABLE_RATIO) {
            lookUpPrevious(values, largest);
        } else {
            sortPrevious(values, Math.toIntExact(size));
        }
        for (int[] before : previousIndex) {
            Arrays.sort(before);
        }
    }

    /** Finds the indexes by a table of all numbers, which pays where most of them are there. */
    private void lookUpPrevious(int[][] values, int largest) {
        int[] seen = new int[largest + 1];
        Arrays.fill(seen, -1);
        for (int index = 0; index < values.length; index++) {
            for (int i = 0; i < values[index].length; i++) {
                int value = values[index][i];
                previousIndex[index][i] = seen[value];
                seen[value] = index;
            }
        }
    }

    /** Finds the indexes by order, for a few of many numbers. */
    private void sortPrevious(int[][] values, int size) {
        // by value, then by index: the same value at an earlier index comes just before
        long[] all = new long[size];
        int n = 0;
        for (int index = 0; index < values.length; index++) {
            for (int value : values[index]) {
                all[n++] = (long) value << Integer.SIZE | index;
            }
        }
        Arrays.sort(all);
        int[] filled = new int[values.length];
        for (int i = 0; i < size; i++) {
            int index = (int) all[i];
            boolean again = i > 0 && all[i - 1] >> Integer.SIZE == all[i] >> Integer.SIZE;
            previousIndex[index][filled[index]++] = again ? (int) all[i - 1] : -1;
        }
    }

    /** Returns how many different values there are from an index up to before another. */
    long between(int from, int to) {
        long count = 0;
        for (int index = from; index < to; index++) {
            count += before(previousIndex[index], from);
        }
        return count;
    }

    /** Returns how many of the rising numbers are less than the limit. */
    private static int before(int[] rising, int limit) {
        int low = 0;
        int high = rising.length;
        while (low < high) {
            int middle = (low + high) >>> 1;
            if (rising[middle] < limit) {
                low = middle + 1;
            } else {
                high = middle;
            }
        }
        return low;
    }
}
