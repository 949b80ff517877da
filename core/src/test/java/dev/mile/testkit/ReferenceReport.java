package dev.mile.testkit;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.engine.Comparisons;
import dev.mile.fact.Fact;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.When;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.IntPredicate;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * Predicts the rows of a report that leaves empty rows out: which there are and in which order, found by walking through the days,
 * through every combination of members of the rows, and through every cell.
 */
final class ReferenceReport {
    private static final List<String> WEEKDAYS =
            List.of("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday");

    private final Project project;
    private final Report report;
    private final ReferenceRows rows;
    private final ReferenceEvaluator evaluator;
    private final ReferenceDays days;
    private final List<String> rowAxes;
    private final List<String> axes;

    ReferenceReport(
            Project project, Report report, ReferenceRows rows, ReferenceEvaluator evaluator, ReferenceDays days) {
        this.project = project;
        this.report = report;
        this.rows = rows;
        this.evaluator = evaluator;
        this.days = days;
        this.rowAxes = names(report.rows());
        this.axes = Stream.concat(rowAxes.stream(), names(report.columns()).stream())
                .toList();
    }

    private static List<String> names(List<Report.AxisSpec> axes) {
        return axes.stream().map(axis -> ((Report.NamedAxis) axis).text()).toList();
    }

    /** Returns the labels of the leaf rows and of the rows of the rest, from top to bottom. */
    List<List<String>> labels() {
        Set<List<String>> found = new LinkedHashSet<>();
        fullKeys().forEach(key -> {
            List<String> row = key.subList(0, rowAxes.size());
            if (!found.contains(row) && found(key)) {
                found.add(row);
            }
        });
        List<List<String>> ordered = new ArrayList<>();
        add(List.of(), found, ordered);
        return ordered;
    }

    /** Returns every combination that a leaf row may have, found or not. */
    Set<List<String>> rowKeys() {
        Set<List<String>> keys = new LinkedHashSet<>();
        fullKeys().forEach(key -> keys.add(key.subList(0, rowAxes.size())));
        return keys;
    }

    private List<List<String>> full = List.of();

    /** Returns every combination of periods that share a day with members and weekdays that occur. */
    private List<List<String>> fullKeys() {
        if (!full.isEmpty()) {
            return full;
        }
        Set<List<String>> periods = new LinkedHashSet<>();
        Set<List<String>> weekdays = new LinkedHashSet<>();
        for (int day = days.dimension().firstEpochDay(); day <= days.dimension().lastEpochDay(); day++) {
            int on = day;
            periods.add(axes.stream()
                    .map(axis -> Level.parse(axis)
                            .map(l -> days.calendar().label(l, on))
                            .orElse(""))
                    .toList());
            if (report.when().isPresent()
                    && !((When.Dates) report.when().get()).range().contains(on)) {
                continue;
            }
            weekdays.add(axes.stream()
                    .map(axis -> axis.equals("weekday_name") ? ReferenceEvaluator.weekday(on) : "")
                    .toList());
        }
        Set<List<String>> members = new LinkedHashSet<>();
        for (Fact fact : project.facts().values()) {
            if (axes.stream().filter(this::isDimension).allMatch(axis -> rows.has(fact, axis))) {
                rows.of(fact)
                        .forEach(row -> members.add(axes.stream()
                                .map(axis -> isDimension(axis) ? rows.member(row, axis) : "")
                                .toList()));
            }
        }
        List<List<String>> all = new ArrayList<>();
        for (List<String> period : periods) {
            for (List<String> weekday : weekdays) {
                for (List<String> member : members) {
                    List<String> key = IntStream.range(0, axes.size())
                            .mapToObj(i -> period.get(i) + weekday.get(i) + member.get(i))
                            .toList();
                    if (place(key).isPresent()) {
                        all.add(key);
                    }
                }
            }
        }
        full = all;
        return all;
    }

    private boolean isDimension(String axis) {
        return Level.parse(axis).isEmpty() && !axis.equals("weekday_name");
    }

    /** Returns the cell of the keys of the first axes; empty where its periods have no day in common. */
    Optional<ReferenceEvaluator.Place> place(List<String> key) {
        Map<String, String> labels = new LinkedHashMap<>();
        for (int i = 0; i < key.size(); i++) {
            labels.put(axes.get(i), key.get(i));
        }
        return place(labels);
    }

    /** Returns the cell of the labels by axis; empty where its periods have no day in common. */
    Optional<ReferenceEvaluator.Place> place(Map<String, String> labels) {
        DateRange range = null;
        Level finest = null;
        Map<String, IntPredicate> kept = new HashMap<>();
        Map<String, String> members = new HashMap<>();
        for (Map.Entry<String, String> label : labels.entrySet()) {
            Optional<Level> level = Level.parse(label.getKey());
            if (level.isPresent()) {
                DateRange period = days.calendar().parse(label.getValue(), level.get());
                range = range == null ? period : range.intersect(period);
                finest = finest == null || finest.isCoarserThan(level.get()) ? level.get() : finest;
            } else if (label.getKey().equals("weekday_name")) {
                kept.put(label.getKey(), day -> ReferenceEvaluator.weekday(day).equals(label.getValue()));
            } else {
                members.put(label.getKey(), label.getValue());
            }
        }
        range = range == null ? days.dimension() : range;
        Optional<DateRange> when = report.when().map(w -> ((When.Dates) w).range());
        range = when.isPresent() ? range.intersect(when.get()) : range;
        return range.isEmpty()
                ? Optional.empty()
                : Optional.of(new ReferenceEvaluator.Place(range, kept, members, finest));
    }

    private boolean found(List<String> key) {
        ReferenceEvaluator.Place cell = place(key).orElseThrow();
        return report.show().stream().anyMatch(name -> evaluator.findsRows(expression(name), cell, report.where()));
    }

    private Measure expression(String name) {
        return project.measures().get(name).expression();
    }

    // ---- order

    /** Adds the rows below some keys in order, and the row of the rest. */
    private void add(List<String> above, Set<List<String>> found, List<List<String>> ordered) {
        int depth = above.size();
        if (depth == rowAxes.size()) {
            ordered.add(above);
            return;
        }
        Set<String> keys = new TreeSet<>(byKey(rowAxes.get(depth)));
        found.stream().filter(row -> row.subList(0, depth).equals(above)).forEach(row -> keys.add(row.get(depth)));
        List<String> children = new ArrayList<>(keys);
        int rest = 0;
        if (depth == rowAxes.size() - 1 && report.top().isPresent()) {
            int count = report.top().get().count();
            List<String> ranked = new ArrayList<>(children);
            ranked.sort(byValue(above, report.top().get().measure(), true));
            rest = Math.max(0, ranked.size() - count);
            children.retainAll(ranked.subList(0, Math.min(count, ranked.size())));
        }
        Optional<String> measure =
                report.sort().map(Report.Sort::measure).or(() -> report.top().map(Report.Top::measure));
        if (measure.isPresent() && (depth == rowAxes.size() - 1 || isDimension(rowAxes.get(depth)))) {
            children.sort(byValue(
                    above,
                    measure.get(),
                    report.sort().map(Report.Sort::descending).orElse(true)));
        }
        for (String child : children) {
            List<String> longer = new ArrayList<>(above);
            longer.add(child);
            add(longer, found, ordered);
        }
        if (rest > 0) {
            List<String> labels = new ArrayList<>(above);
            labels.add(rest == 1 ? "1 other" : rest + " others");
            ordered.add(labels);
        }
    }

    private Comparator<String> byKey(String axis) {
        Optional<Level> level = Level.parse(axis);
        if (level.isPresent()) {
            return Comparator.comparingInt(
                    label -> days.calendar().parse(label, level.get()).firstEpochDay());
        }
        if (axis.equals("weekday_name")) {
            return Comparator.comparingInt(WEEKDAYS::indexOf);
        }
        return Comparator.comparing(String::isEmpty).thenComparing(Comparisons.BY_CODE_POINT);
    }

    /** Returns the order by a measure, blanks last; a list that is sorted by it keeps the order of its keys among equals. */
    private Comparator<String> byValue(List<String> above, String measure, boolean descending) {
        Map<String, Value> known = new HashMap<>();
        return (a, b) -> {
            Value x = known.computeIfAbsent(a, key -> value(above, key, measure));
            Value y = known.computeIfAbsent(b, key -> value(above, key, measure));
            x = x.isNothing() ? Value.ZERO : x;
            y = y.isNothing() ? Value.ZERO : y;
            if (x.isBlank() || y.isBlank()) {
                return Boolean.compare(x.isBlank(), y.isBlank());
            }
            return descending ? y.compareTo(x) : x.compareTo(y);
        };
    }

    private Value value(List<String> above, String key, String measure) {
        List<String> keys = new ArrayList<>(above);
        keys.add(key);
        return evaluator.value(expression(measure), place(keys).orElseThrow(), report.where());
    }
}
