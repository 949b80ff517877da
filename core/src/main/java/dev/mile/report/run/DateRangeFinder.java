package dev.mile.report.run;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.SupportedDates;
import dev.mile.dimension.ExcludedDates;
import dev.mile.engine.DateCount;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

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

    private static final Set<Long> SENTINELS =
            SupportedDates.SENTINELS.stream().map(LocalDate::toEpochDay).collect(Collectors.toUnmodifiableSet());

    /** Dates of one fact and role without a gap of more than a year. */
    private record Stretch(String fact, String role, long first, long last, long rows) {
        boolean isNear(long day) {
            return day - last <= OUTLIER_GAP_DAYS;
        }

        Stretch upTo(long day, long more) {
            return new Stretch(fact, role, first, day, rows + more);
        }
    }

    /** Dates of any facts and roles without a gap of more than a year. */
    private record Group(List<Stretch> stretches, long first, long last, long rows) {
        static Group of(List<Stretch> stretches) {
            long first = Long.MAX_VALUE;
            long last = Long.MIN_VALUE;
            long rows = 0;
            for (Stretch stretch : stretches) {
                first = Math.min(first, stretch.first());
                last = Math.max(last, stretch.last());
                rows += stretch.rows();
            }
            return new Group(stretches, first, last, rows);
        }
    }

    /** By fact and role. */
    private final Map<String, Map<String, List<DateCount>>> datesByRole = new LinkedHashMap<>();

    /** Adds the rows of a date of a fact. Days beyond those that Mile knows are welcome. */
    void add(String fact, DateCount date) {
        datesByRole
                .computeIfAbsent(fact, f -> new LinkedHashMap<>())
                .computeIfAbsent(date.role(), r -> new ArrayList<>())
                .add(date);
    }

    /** Returns the range of what was added. */
    Result result() {
        List<ExcludedDates> excluded = new ArrayList<>();
        List<Stretch> stretches = new ArrayList<>();
        datesByRole.forEach(
                (fact, roles) -> roles.forEach((role, dates) -> split(fact, role, dates, stretches, excluded)));
        List<Group> groups = groups(stretches);
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

    /** Splits the dates of a role where a year has none; sentinels are recognised by their value, since they may lie between others. */
    private static void split(
            String fact, String role, List<DateCount> dates, List<Stretch> into, List<ExcludedDates> sentinels) {
        dates.sort(Comparator.comparingLong(DateCount::day));
        Stretch stretch = null;
        for (DateCount date : dates) {
            if (SENTINELS.contains(date.day())) {
                LocalDate day = LocalDate.ofEpochDay(date.day());
                sentinels.add(new ExcludedDates(fact, role, true, day, day, date.rows()));
            } else if (stretch != null && stretch.isNear(date.day())) {
                stretch = stretch.upTo(date.day(), date.rows());
            } else {
                if (stretch != null) {
                    into.add(stretch);
                }
                stretch = new Stretch(fact, role, date.day(), date.day(), date.rows());
            }
        }
        if (stretch != null) {
            into.add(stretch);
        }
    }

    private static List<Group> groups(List<Stretch> stretches) {
        stretches.sort(Comparator.comparingLong(Stretch::first));
        List<Group> groups = new ArrayList<>();
        List<Stretch> near = new ArrayList<>();
        long last = 0;
        for (Stretch stretch : stretches) {
            if (!near.isEmpty() && stretch.first() - last > OUTLIER_GAP_DAYS) {
                groups.add(Group.of(near));
                near = new ArrayList<>();
            }
            last = near.isEmpty() ? stretch.last() : Math.max(last, stretch.last());
            near.add(stretch);
        }
        if (!near.isEmpty()) {
            groups.add(Group.of(near));
        }
        return groups;
    }

    private void exclude(Group group, List<ExcludedDates> into) {
        datesByRole.forEach((fact, roles) -> roles.keySet().forEach(role -> {
            Group own = Group.of(group.stretches().stream()
                    .filter(s -> s.fact().equals(fact) && s.role().equals(role))
                    .toList());
            if (!own.stretches().isEmpty()) {
                into.add(new ExcludedDates(
                        fact,
                        role,
                        false,
                        LocalDate.ofEpochDay(own.first()),
                        LocalDate.ofEpochDay(own.last()),
                        own.rows()));
            }
        }));
    }
}
