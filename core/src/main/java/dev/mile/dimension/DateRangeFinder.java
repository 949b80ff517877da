package dev.mile.dimension;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.SupportedDates;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;

/**
 * Finds the range of the dates in facts: sentinels and lone outliers are left out, and told. Not for use by several threads.
 *
 * <p>A lone outlier is a group of dates more than 366 days from the rest with less than 1 % of the rows of the body, over all
 * facts and roles together.
 */
public final class DateRangeFinder {
    /** Dates that systems write for "none": the zero of spreadsheets, a database default, the end of time. */
    public static final Set<LocalDate> SENTINELS =
            Set.of(LocalDate.of(1899, 12, 30), LocalDate.of(1900, 1, 1), LocalDate.of(9999, 12, 31));

    private static final int OUTLIER_GAP_DAYS = 366;
    private static final int OUTLIER_ROW_RATIO = 100;

    /**
     * Dates left out of the range.
     *
     * @param source the fact and role: {@code sales.ordered}
     * @param sentinel whether it is a date that stands for none
     * @param first the first such date
     * @param last the last such date
     * @param rows how many rows
     */
    public record ExcludedDates(String source, boolean sentinel, LocalDate first, LocalDate last, long rows) {}

    /**
     * What the survey found.
     *
     * @param range the range of the body; empty where there are no dates
     * @param excluded what is not in it
     */
    public record Result(DateRange range, List<ExcludedDates> excluded) {}

    private final Map<String, TreeMap<Long, Long>> counts = new LinkedHashMap<>();

    /** Returns a survey that has seen nothing yet. */
    public DateRangeFinder() {}

    /** Adds the rows of a date of a fact's role. Days beyond the int range of the {@link SupportedDates} are welcome. */
    public void add(String source, long day, long rows) {
        counts.computeIfAbsent(source, s -> new TreeMap<>()).merge(day, rows, Long::sum);
    }

    /** Returns the range of what was added. */
    public Result result() {
        List<ExcludedDates> leftOut = new ArrayList<>();
        TreeMap<Long, Long> all = new TreeMap<>();
        counts.forEach((source, days) -> days.forEach((day, rows) -> {
            LocalDate date = LocalDate.ofEpochDay(day);
            if (SENTINELS.contains(date)) {
                leftOut.add(new ExcludedDates(source, true, date, date, rows));
            } else {
                all.merge(day, rows, Long::sum);
            }
        }));
        List<long[]> groups = groups(all);
        long body = groups.stream().mapToLong(g -> g[2]).max().orElse(0);
        DateRange range = DateRange.EMPTY;
        for (long[] group : groups) {
            boolean known =
                    group[0] >= SupportedDates.RANGE.firstEpochDay() && group[1] <= SupportedDates.RANGE.lastEpochDay();
            if (known && group[2] * OUTLIER_ROW_RATIO >= body) {
                range = range.hull(DateRange.ofEpochDays((int) group[0], (int) group[1]));
            } else {
                counts.forEach((source, days) -> exclude(source, days, group, leftOut));
            }
        }
        return new Result(range, leftOut);
    }

    private static void exclude(String source, TreeMap<Long, Long> days, long[] group, List<ExcludedDates> leftOut) {
        var part = days.subMap(group[0], true, group[1], true);
        if (!part.isEmpty()) {
            long rows = part.values().stream().mapToLong(Long::longValue).sum();
            leftOut.add(new ExcludedDates(
                    source, false, LocalDate.ofEpochDay(part.firstKey()), LocalDate.ofEpochDay(part.lastKey()), rows));
        }
    }

    /** Groups of dates without a gap of more than a year: first day, last day, rows. */
    private static List<long[]> groups(TreeMap<Long, Long> days) {
        List<long[]> groups = new ArrayList<>();
        long[] group = null;
        for (Map.Entry<Long, Long> day : days.entrySet()) {
            if (group == null || day.getKey() - group[1] > OUTLIER_GAP_DAYS) {
                group = new long[] {day.getKey(), day.getKey(), 0};
                groups.add(group);
            }
            group[1] = day.getKey();
            group[2] += day.getValue();
        }
        return groups;
    }
}
