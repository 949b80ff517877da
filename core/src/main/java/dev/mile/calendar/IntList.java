package dev.mile.calendar;

import java.util.Arrays;

/** First days in the order in which a rule finds them. */
final class IntList {
    private int[] values = new int[1024];
    private int size;

    void add(int value) {
        if (size == values.length) {
            values = Arrays.copyOf(values, size * 2);
        }
        values[size++] = value;
    }

    int get(int index) {
        return values[index];
    }

    int last() {
        return values[size - 1];
    }

    int size() {
        return size;
    }

    /** Returns every nth value from the first; the closing entry must fall on one. */
    int[] everyNth(int n) {
        if (n == 1) {
            return Arrays.copyOf(values, size);
        }
        int[] chunk = new int[(size - 1) / n + 1];
        for (int i = 0; i < chunk.length; i++) {
            chunk[i] = values[i * n];
        }
        return chunk;
    }
}
