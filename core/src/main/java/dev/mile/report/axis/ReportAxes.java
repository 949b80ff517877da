package dev.mile.report.axis;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.dimension.DateDimension;
import dev.mile.report.Report;
import dev.mile.report.ReportExplanation;
import dev.mile.span.SpanContext;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * The rows and columns of a report, looked up: their axes, the keys in time that occur, and the cell in time of every combination.
 * Immutable. Which members occur is known only when totals have come.
 *
 * <p>A key of all axes is a list with an entry for each axis, those of the rows first; it is null at the axes that it says nothing
 * of: a time key at members, a member key at axes of time.
 */
public final class ReportAxes implements Serializable {
    private static final long serialVersionUID = 1L;

    private final List<Axis> rows;
    private final List<Axis> columns;
    private final boolean memberColumns;
    private final boolean timeColumns;
    private final @Nullable DateRange when;
    private final List<List<Object>> timeKeys;
    private final KeyTree timeTree;
    private final Map<List<Object>, TimeCell> cells;

    /**
     * Looks the names up and enumerates the keys in time.
     *
     * @throws MileException if nothing has a name, or a name is given twice
     */
    public static ReportAxes of(Report report, SpanContext context, DateDimension dimension, AxisNames names) {
        AxisResolver resolver = new AxisResolver(context, dimension, names);
        List<Axis> rows = report.rows().stream().map(resolver::resolve).toList();
        List<Axis> columns = report.columns().stream().map(resolver::resolve).toList();
        Set<String> seen = new LinkedHashSet<>();
        for (Axis axis : joined(rows, columns)) {
            if (!seen.add(axis.name())) {
                throw ModelException.of("'%s' is named twice in rows and columns; name it once", axis.name());
            }
        }
        DateRange when = report.when().map(w -> w.resolve(context)).orElse(null);
        return new ReportAxes(rows, columns, when, dimension.range());
    }

    private ReportAxes(List<Axis> rows, List<Axis> columns, @Nullable DateRange when, DateRange dimension) {
        this.rows = rows;
        this.columns = columns;
        this.memberColumns = columns.stream().anyMatch(MemberAxis.class::isInstance);
        this.timeColumns = columns.stream().anyMatch(TimeAxis.class::isInstance);
        this.when = when;
        // subtotals are of the days of the dimension, and of `when`
        DateRange shown = when == null ? dimension : dimension.intersect(when);
        Set<List<Object>> keys = new TimeKeys(all(), dimension, shown).enumerate();
        if (when != null) {
            keys.removeIf(key -> days(all(), key, shown).isEmpty());
        }
        this.timeKeys = List.copyOf(keys);
        List<Integer> rowTimes = new ArrayList<>();
        for (int i = 0; i < rows.size(); i++) {
            if (!(rows.get(i) instanceof MemberAxis)) {
                rowTimes.add(i);
            }
        }
        this.timeTree = KeyTree.of(
                rowTimes.stream().map(rows::get).toList(),
                timeKeys.stream()
                        .map(key -> rowTimes.stream().map(key::get).toList())
                        .toList());
        this.cells = Collections.unmodifiableMap(cells(shown));
    }

    private static List<Axis> joined(List<Axis> rows, List<Axis> columns) {
        List<Axis> all = new ArrayList<>(rows);
        all.addAll(columns);
        return all;
    }

    /** Returns the axes of the rows, outermost first. */
    public List<Axis> rows() {
        return rows;
    }

    /** Returns the axes of the columns, outermost first. */
    public List<Axis> columns() {
        return columns;
    }

    /** Returns the axes of the rows, then those of the columns. */
    public List<Axis> all() {
        return joined(rows, columns);
    }

    /** Returns the names of dimensions and date attributes, which measures may ignore. */
    public List<String> dimensions() {
        return all().stream()
                .filter(a -> a instanceof MemberAxis || a instanceof AttributeAxis)
                .map(Axis::name)
                .toList();
    }

    /** Returns whether an axis of the columns shows members. */
    public boolean hasMemberColumns() {
        return memberColumns;
    }

    /** Returns whether an axis of the columns shows time. */
    public boolean hasTimeColumns() {
        return timeColumns;
    }

    /** Returns the axis of the finest level of time; empty where the report has none. */
    public Optional<LevelAxis> finestLevel() {
        return all().stream()
                .filter(LevelAxis.class::isInstance)
                .map(LevelAxis.class::cast)
                .max(Comparator.comparing(LevelAxis::level));
    }

    /** Returns the axis of the coarsest level of time; empty if the report has none. */
    public Optional<LevelAxis> coarsestLevel() {
        return all().stream()
                .filter(LevelAxis.class::isInstance)
                .map(LevelAxis.class::cast)
                .min(Comparator.comparing(LevelAxis::level));
    }

    /** Returns the keys in time that occur. */
    public List<List<Object>> timeKeys() {
        return timeKeys;
    }

    /** Returns the keys of the rows in time, axis below axis. */
    public KeyTree timeTree() {
        return timeTree;
    }

    /** Returns the cells in time of all rows, of the rows above them, and of all columns together, by their index. */
    public List<TimeCell> timeCells() {
        return cells.values().stream()
                .sorted(Comparator.comparingInt(TimeCell::index))
                .toList();
    }

    /** Returns the key of members of a report without dimensions. */
    public List<Object> noMembers() {
        return Collections.nCopies(all().size(), null);
    }

    /** Returns the keys of the columns in order; one without entries where the report has no columns. */
    public List<List<Object>> columnKeys(Collection<List<Object>> memberKeys) {
        if (columns.isEmpty()) {
            return List.of(List.of());
        }
        Set<List<Object>> keys = new TreeSet<>(columnOrder());
        Set<List<Object>> members = columnParts(memberKeys);
        for (List<Object> time : columnParts(timeKeys)) {
            members.forEach(one -> keys.add(columnKey(time, one)));
        }
        return List.copyOf(keys);
    }

    /** Returns the different parts of keys that are about columns: few, however many rows there are. */
    private Set<List<Object>> columnParts(Collection<List<Object>> keys) {
        Set<List<Object>> parts = new LinkedHashSet<>();
        keys.forEach(key -> parts.add(key.subList(rows.size(), key.size())));
        return parts;
    }

    private Comparator<List<Object>> columnOrder() {
        return (a, b) -> {
            for (int i = 0; i < Math.min(a.size(), b.size()); i++) {
                int c = columns.get(i).order().compare(a.get(i), b.get(i));
                if (c != 0) {
                    return c;
                }
            }
            return Integer.compare(a.size(), b.size());
        };
    }

    /** Returns the different keys of the columns in time, whatever their members. */
    private Set<List<Object>> columnTimes() {
        List<Object> anyMembers = Collections.nCopies(columns.size(), BlankKey.BLANK);
        Set<List<Object>> keys = new LinkedHashSet<>();
        columnParts(timeKeys).forEach(time -> keys.add(columnKey(time, anyMembers)));
        return keys;
    }

    private List<Object> columnKey(List<Object> time, List<Object> members) {
        List<Object> key = new ArrayList<>();
        for (int i = 0; i < columns.size(); i++) {
            key.add((columns.get(i) instanceof MemberAxis ? members : time).get(i));
        }
        return key;
    }

    /** Returns whether the cell has days: week 53 of a short year has none, nor has a period outside `when`. */
    public boolean cellExists(TimeCell cell) {
        return !cell.days().isEmpty();
    }

    /** Returns the days that `when` keeps, if the report has one. */
    public Optional<DateRange> when() {
        return Optional.ofNullable(when);
    }

    /** Returns the labels of the periods at the finest level of which `when` keeps only some days. */
    public List<String> cutPeriods() {
        Optional<LevelAxis> finest = finestLevel();
        if (when == null || when.isEmpty() || finest.isEmpty()) {
            return List.of();
        }
        return IntStream.of(when.firstEpochDay(), when.lastEpochDay())
                .mapToObj(day -> finest.get().calendar().period(finest.get().level(), day))
                .flatMap(Optional::stream)
                .filter(period -> !when.encloses(period.range()))
                .map(CalendarPeriod::label)
                .distinct()
                .toList();
    }

    /** Returns the labels of the first axes of the rows. */
    public List<String> rowLabels(List<Object> keys) {
        return labels(rows, keys);
    }

    /**
     * Returns what is known of cells in time, by the labels of the periods of their rows and columns.
     *
     * @param byCell what is known
     */
    public <T> Map<ReportExplanation.Place, T> timesOfRows(Map<TimeCell, T> byCell) {
        Map<ReportExplanation.Place, T> byPlace = new HashMap<>();
        if (!memberColumns) {
            addPlaces(timeTree, List.of(), columnTimes(), byCell, byPlace);
        }
        return byPlace;
    }

    private <T> void addPlaces(
            KeyTree node,
            List<Object> row,
            Set<List<Object>> columnKeys,
            Map<TimeCell, T> byCell,
            Map<ReportExplanation.Place, T> into) {
        List<String> labels = IntStream.range(0, row.size())
                .filter(i -> !(rows.get(i) instanceof MemberAxis))
                .mapToObj(i -> rows.get(i).label(row.get(i)))
                .toList();
        for (List<Object> column : columnKeys) {
            T known = byCell.get(cell(row, column));
            if (known != null) {
                into.put(new ReportExplanation.Place(labels, columnLabel(column)), known);
            }
        }
        if (row.size() == rows.size()) {
            return;
        }
        if (rows.get(row.size()) instanceof MemberAxis) {
            addPlaces(node, KeyTree.append(row, BlankKey.BLANK), columnKeys, byCell, into);
        } else {
            node.children()
                    .forEach((key, child) -> addPlaces(child, KeyTree.append(row, key), columnKeys, byCell, into));
        }
    }

    /** Returns the label of a column; an empty text for no axis or a blank member. */
    public String columnLabel(List<Object> keys) {
        return String.join(" ", labels(columns, keys));
    }

    private static List<String> labels(List<Axis> axes, List<Object> keys) {
        String[] labels = new String[keys.size()];
        for (int i = 0; i < labels.length; i++) {
            labels[i] = axes.get(i).label(keys.get(i));
        }
        return List.of(labels);
    }

    // ---- cells

    /** Returns the cell where the first axes of the rows and of the columns have these keys; those of members do not matter. */
    public TimeCell cell(List<Object> row, List<Object> column) {
        TimeCell cell = cells.get(cellKey(row, column));
        if (cell == null) {
            throw new IllegalStateException("no cell of row " + row + " and column " + column + " was enumerated");
        }
        return cell;
    }

    private List<Object> cellKey(List<Object> row, List<Object> column) {
        List<Object> key = new ArrayList<>(row.size() + column.size() + 1);
        // the number of axes of the row distinguishes a key of a column from the same key of a row
        key.add(row.size());
        addTimes(rows, row, key);
        addTimes(columns, column, key);
        return key;
    }

    private static void addTimes(List<Axis> axes, List<Object> keys, List<Object> into) {
        for (int i = 0; i < keys.size(); i++) {
            into.add(axes.get(i) instanceof MemberAxis ? null : keys.get(i));
        }
    }

    private Map<List<Object>, TimeCell> cells(DateRange shown) {
        Set<List<Object>> columnKeys = new LinkedHashSet<>(Set.of(List.of()));
        columnKeys.addAll(columnTimes());
        Map<List<Object>, TimeCell> all = new HashMap<>();
        addCells(timeTree, List.of(), columnKeys, shown, all);
        return all;
    }

    private void addCells(
            KeyTree node,
            List<Object> row,
            Set<List<Object>> columnKeys,
            DateRange shown,
            Map<List<Object>, TimeCell> into) {
        for (List<Object> column : columnKeys) {
            into.computeIfAbsent(cellKey(row, column), key -> cell(into.size(), row, column, shown));
        }
        if (row.size() == rows.size()) {
            return;
        }
        if (rows.get(row.size()) instanceof MemberAxis) {
            addCells(node, KeyTree.append(row, BlankKey.BLANK), columnKeys, shown, into);
        } else {
            node.children().forEach((key, child) -> addCells(child, KeyTree.append(row, key), columnKeys, shown, into));
        }
    }

    private TimeCell cell(int index, List<Object> row, List<Object> column, DateRange shown) {
        List<Axis> axes = new ArrayList<>(rows.subList(0, row.size()));
        axes.addAll(columns.subList(0, column.size()));
        List<Object> keys = new ArrayList<>();
        addTimes(rows, row, keys);
        addTimes(columns, column, keys);
        List<DayFilter> filters = new ArrayList<>();
        Level finest = null;
        for (int i = 0; i < keys.size(); i++) {
            Object key = keys.get(i);
            if (key == null) {
                continue;
            }
            if (axes.get(i) instanceof LevelAxis level) {
                finest = finer(finest, level.level());
            } else if (axes.get(i) instanceof PeriodOfYearAxis period) {
                finest = finer(finest, period.level());
                if (fixedYear(axes, keys, period).isEmpty()) {
                    filters.add(dayFilter(period, key));
                }
            } else if (axes.get(i) instanceof AttributeAxis attribute) {
                filters.add(dayFilter(attribute, key));
            }
        }
        return new TimeCell(index, days(axes, keys, shown), filters, finest);
    }

    private static DayFilter dayFilter(DayAxis axis, Object key) {
        return new DayFilter(axis.name(), key, day -> axis.key(day).equals(Optional.of(key)));
    }

    private static Level finer(@Nullable Level a, Level b) {
        return a == null || a.isCoarserThan(b) ? b : a;
    }

    /**
     * Returns the days that the keys have in common.
     *
     * @param shown the days of a cell without keys in time
     */
    private DateRange days(List<Axis> axes, List<Object> keys, DateRange shown) {
        DateRange days = null;
        for (int i = 0; i < keys.size(); i++) {
            DateRange range = keys.get(i) == null ? null : range(axes, keys, i);
            days = range == null ? days : days == null ? range : days.intersect(range);
        }
        if (days == null) {
            return shown;
        }
        return when == null ? days : days.intersect(when);
    }

    private static @Nullable DateRange range(List<Axis> axes, List<Object> keys, int i) {
        Object key = keys.get(i);
        if (axes.get(i) instanceof LevelAxis level) {
            return level.range(key);
        }
        if (axes.get(i) instanceof RecentAxis recent) {
            return recent.ranges().get((Integer) key);
        }
        return axes.get(i) instanceof PeriodOfYearAxis period
                ? fixedYear(axes, keys, period)
                        .map(year -> period.range(key, year))
                        .orElse(null)
                : null;
    }

    /** Returns the ordinal of the year that a level of the same calendar fixes. */
    private static Optional<Integer> fixedYear(List<Axis> axes, List<Object> keys, PeriodOfYearAxis period) {
        for (int i = 0; i < keys.size(); i++) {
            if (keys.get(i) != null
                    && axes.get(i) instanceof LevelAxis level
                    && level.level() == Level.YEAR
                    && level.calendar().equals(period.calendar())) {
                return Optional.of((Integer) keys.get(i));
            }
        }
        return Optional.empty();
    }
}
