package dev.mile.calendar;

import java.util.Arrays;

/** The periods of one level, as their first days in order and a closing entry: period i is [starts[i], starts[i + 1]). */
final class Timeline {
    /** What {@link #find} answers for a day outside. */
    static final int NONE = -1;

    private final int[] starts;

    Timeline(int[] starts) {
        this.starts = starts;
    }

    int size() {
        return starts.length - 1;
    }

    boolean has(int ordinal) {
        return ordinal >= 0 && ordinal < size();
    }

    int start(int ordinal) {
        return starts[ordinal];
    }

    int end(int ordinal) {
        return starts[ordinal + 1] - 1;
    }

    DateRange range(int ordinal) {
        return DateRange.ofDays(start(ordinal), end(ordinal));
    }

    int find(int day) {
        if (day < starts[0] || day >= starts[starts.length - 1]) {
            return NONE;
        }
        int at = Arrays.binarySearch(starts, day);
        return at >= 0 ? at : -at - 2;
    }
}
