package dev.mile.calendar;

/** The periods of one level, as their first days in order and a closing entry: period i is [starts[i], starts[i + 1]). */
final class PeriodStarts {
    /** What {@link #find} answers for a day outside. */
    static final int NONE = -1;

    private final int[] starts;

    private final double perDay;

    PeriodStarts(int[] starts) {
        this.starts = starts;
        // a little less than the mean, so that the last day does not lead past the end
        this.perDay = (starts.length - 1) / (double) (starts[starts.length - 1] - starts[0] + 1);
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
        return DateRange.ofEpochDays(start(ordinal), end(ordinal));
    }

    /** Periods of a level are of nearly one length, so their mean length leads to the place or next to it. */
    int find(int day) {
        int last = starts.length - 1;
        if (day < starts[0] || day >= starts[last]) {
            return NONE;
        }
        int at = (int) ((day - starts[0]) * perDay);
        while (starts[at] > day) {
            at--;
        }
        while (starts[at + 1] <= day) {
            at++;
        }
        return at;
    }
}
