package dev.mile.report.run;

import java.util.Optional;
import java.util.TreeMap;

/**
 * A last group of dates that is too small, and too far behind all others, to set the as-of date: one row or less than 1 % of the rows,
 * behind a gap of more than 31 days that is also more than twice any earlier gap.
 *
 * @param lastDayBefore the last epoch day before the gap
 * @param firstDay the first epoch day of the group
 * @param rows how many rows the group has
 */
record StrayDates(int lastDayBefore, int firstDay, long rows) {
    private static final int LEAST_GAP_DAYS = 31;

    /** Returns the group of the dates, if there is one. */
    static Optional<StrayDates> behind(TreeMap<Integer, Long> rowsByDay) {
        long all = rowsByDay.values().stream().mapToLong(Long::longValue).sum();
        long before = 0;
        int widest = 0;
        Integer last = null;
        for (var day : rowsByDay.entrySet()) {
            if (last != null) {
                int gap = day.getKey() - last;
                long rows = all - before;
                if (gap > LEAST_GAP_DAYS && gap > 2 * widest && (rows == 1 || rows * 100 < all)) {
                    return Optional.of(new StrayDates(last, day.getKey(), rows));
                }
                widest = Math.max(widest, gap);
            }
            before += day.getValue();
            last = day.getKey();
        }
        return Optional.empty();
    }
}
