package dev.mile.report.run;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.SupportedDates;
import dev.mile.dimension.ExcludedDates;
import dev.mile.engine.DateCount;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Finds the range of the dates in facts; sentinels and outliers are excluded, and reported. Not for use by several threads.
 *
 * <p>An outlier is a group of dates more than 366 days from the rest with less than 1 % of the rows of the largest group, over all
 * facts and roles together.
 */
final class DateRangeFinder {
    private static final int OUTLIER_GAP_DAYS = 366;
    private static final int OUTLIER_ROW_RATIO = 100;

    /**
     * What was found.
     *
     * @param range the range; empty where there are no dates
     * @param excluded what is not in it
     */
    record Result(DateRange range, List<ExcludedDates> excluded) {}

    /** Dates without a gap of more than a year. */
    private record Group(long first, long last, long rows) {}

    /** By fact and role. */
    private final Map<String, Map<String, TreeMap<Long, Long>>> rowsByDay = new LinkedHashMap<>();

    private interface DaysOfRole {
        void take(String fact, String role, TreeMap<Long, Long> days);
    }

    /** Adds the rows of a date of a fact. Days beyond those that Mile knows are welcome. */
    void add(String fact, DateCount date) {
        rowsByDay
                .computeIfAbsent(fact, f -> new LinkedHashMap<>())
                .computeIfAbsent(date.role(), r -> new TreeMap<>())
                .merge(date.day(), date.rows(), Long::sum);
    }

    private void forEachRole(DaysOfRole each) {
        rowsByDay.forEach((fact, roles) -> roles.forEach((role, days) -> each.take(fact, role, days)));
    }

    /** Returns the range of what was added. */
    Result result() {
        List<ExcludedDates> excluded = new ArrayList<>();
        TreeMap<Long, Long> all = new TreeMap<>();
        forEachRole((fact, role, days) -> days.forEach((day, rows) -> {
            LocalDate date = LocalDate.ofEpochDay(day);
            if (SupportedDates.SENTINELS.contains(date)) {
                excluded.add(new ExcludedDates(fact, role, true, date, date, rows));
            } else {
                all.merge(day, rows, Long::sum);
            }
        }));
        List<Group> groups = groups(all);
        long largest = groups.stream().mapToLong(Group::rows).max().orElse(0);
        DateRange range = DateRange.EMPTY;
        for (Group group : groups) {
            boolean supported = group.first() >= SupportedDates.RANGE.firstEpochDay()
                    && group.last() <= SupportedDates.RANGE.lastEpochDay();
            if (supported && group.rows() * OUTLIER_ROW_RATIO >= largest) {
                range = range.hull(DateRange.ofEpochDays((int) group.first(), (int) group.last()));
            } else {
                exclude(group, excluded);
            }
        }
        return new Result(range, excluded);
    }

    private void exclude(Group group, List<ExcludedDates> into) {
        forEachRole((fact, role, days) -> {
            var inside = days.subMap(group.first(), true, group.last(), true);
            // sentinels may lie between other dates, and are recognised by their value
            inside = new TreeMap<>(inside);
            inside.keySet().removeIf(day -> SupportedDates.SENTINELS.contains(LocalDate.ofEpochDay(day)));
            if (!inside.isEmpty()) {
                long rows = inside.values().stream().mapToLong(Long::longValue).sum();
                into.add(new ExcludedDates(
                        fact,
                        role,
                        false,
                        LocalDate.ofEpochDay(inside.firstKey()),
                        LocalDate.ofEpochDay(inside.lastKey()),
                        rows));
            }
        });
    }

    private static List<Group> groups(TreeMap<Long, Long> days) {
        List<Group> groups = new ArrayList<>();
        Group group = null;
        for (Map.Entry<Long, Long> day : days.entrySet()) {
            if (group != null && day.getKey() - group.last() > OUTLIER_GAP_DAYS) {
                groups.add(group);
                group = null;
            }
            group = group == null
                    ? new Group(day.getKey(), day.getKey(), day.getValue())
                    : new Group(group.first(), day.getKey(), group.rows() + day.getValue());
        }
        if (group != null) {
            groups.add(group);
        }
        return groups;
    }
}
