package dev.mile.report;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.fact.Condition;
import dev.mile.span.Span;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;

/**
 * What a report shows; names are looked up when it is computed. Each {@code with} method returns a copy with a change: {@code
 * Report.of("trading", List.of("year", "month"), List.of("sales", "growth")).withCalendar("retail")}.
 *
 * <p>Immutable and safe for use by several threads.
 */
public final class Report {
    private final String name;
    private Optional<String> title = Optional.empty();
    private List<AxisSpec> rows = List.of();
    private List<AxisSpec> columns = List.of();
    private List<String> show = List.of();
    private Optional<Condition> where = Optional.empty();
    private Optional<When> when = Optional.empty();
    private Optional<String> calendar = Optional.empty();
    private boolean totals = true;
    private Optional<Sort> sort = Optional.empty();
    private Optional<Top> top = Optional.empty();
    private boolean keepEmpty;
    private List<String> bars = List.of();
    private Optional<Chart> chart = Optional.empty();

    private Report(String name) {
        this.name = requireNonNull(name, "name is null");
    }

    private Report(Report from) {
        name = from.name;
        title = from.title;
        rows = from.rows;
        columns = from.columns;
        show = from.show;
        where = from.where;
        when = from.when;
        calendar = from.calendar;
        totals = from.totals;
        sort = from.sort;
        top = from.top;
        keepEmpty = from.keepEmpty;
        bars = from.bars;
        chart = from.chart;
    }

    /** One axis of the rows or columns. */
    public sealed interface AxisSpec {}

    /** A level, a date attribute, a dimension or a period of the year, by name. */
    public record NamedAxis(String text) implements AxisSpec {
        public NamedAxis {
            requireNonNull(text, "text is null");
        }

        @Override
        public String toString() {
            return text;
        }
    }

    /** Recent periods, which may overlap. */
    public record RecentPeriods(List<Span> spans) implements AxisSpec {
        public RecentPeriods {
            spans = List.copyOf(spans);
        }

        @Override
        public String toString() {
            return "when " + spans;
        }
    }

    /** A sort order. */
    public record Sort(String measure, boolean descending) {
        public Sort {
            requireNonNull(measure, "measure is null");
        }
    }

    /** The first rows by a measure. */
    public record Top(int count, String measure) {
        public Top {
            requireNonNull(measure, "measure is null");
            if (count < 1) {
                throw ModelException.of(
                        "the first %d rows by %s cannot be shown; give a count of 1 or more", count, measure);
            }
        }
    }

    /**
     * {@return a report of rows by name, outermost first, that shows measures and targets by name}
     *
     * @param name the name
     * @param rows what its rows show
     * @param show the names of measures and targets
     */
    public static Report of(String name, List<String> rows, List<String> show) {
        requireNonNull(name, "name is null");
        requireNonNull(rows, "rows is null");
        requireNonNull(show, "show is null");
        return new Report(name).withRows(axes(rows)).withMeasures(show);
    }

    /**
     * {@return axes by their names}
     *
     * @param names the names
     */
    public static List<AxisSpec> axes(List<String> names) {
        requireNonNull(names, "names is null");
        return names.stream().<AxisSpec>map(NamedAxis::new).toList();
    }

    /**
     * {@return axes by their names}
     *
     * @param names the names
     */
    public static List<AxisSpec> axes(String... names) {
        requireNonNull(names, "names is null");
        return axes(Arrays.asList(names));
    }

    /** {@return its name} */
    public String name() {
        return name;
    }

    /** {@return how people read it; empty for its name} */
    public Optional<String> title() {
        return title;
    }

    /** {@return the axes of the rows, outermost first} */
    public List<AxisSpec> rows() {
        return rows;
    }

    /** {@return the axes of the columns, outermost first} */
    public List<AxisSpec> columns() {
        return columns;
    }

    /** {@return the measures and targets, by name} */
    public List<String> show() {
        return show;
    }

    /** {@return which rows of facts count; empty for all} */
    public Optional<Condition> where() {
        return where;
    }

    /** {@return the days that are shown, and no others; empty for all} */
    public Optional<When> when() {
        return when;
    }

    /** {@return the calendar of levels and steps that name none; empty for the first of the project} */
    public Optional<String> calendar() {
        return calendar;
    }

    /** {@return whether subtotals and a total are shown} */
    public boolean totals() {
        return totals;
    }

    /** {@return the order of rows within their parent; empty for time, then members by code point} */
    public Optional<Sort> sort() {
        return sort;
    }

    /** {@return how many rows of each parent are shown; empty for all} */
    public Optional<Top> top() {
        return top;
    }

    /** {@return whether rows for which nothing was found stay} */
    public boolean keepEmpty() {
        return keepEmpty;
    }

    /** {@return the measures with a bar in each cell} */
    public List<String> bars() {
        return bars;
    }

    /** {@return how it is drawn; empty where nobody asked} */
    public Optional<Chart> chart() {
        return chart;
    }

    /**
     * {@return the report with a title}
     *
     * @param newTitle the title
     */
    public Report withTitle(String newTitle) {
        Report changed = new Report(this);
        changed.title = Optional.of(requireNonNull(newTitle, "newTitle is null"));
        return changed;
    }

    /**
     * {@return the report with other rows, outermost first}
     *
     * @param newRows what its rows show
     */
    public Report withRows(List<AxisSpec> newRows) {
        requireNonNull(newRows, "newRows is null");
        Report changed = new Report(this);
        changed.rows = List.copyOf(newRows);
        return changed;
    }

    /**
     * {@return the report with other columns, outermost first}
     *
     * @param newColumns what its columns show
     */
    public Report withColumns(List<AxisSpec> newColumns) {
        requireNonNull(newColumns, "newColumns is null");
        Report changed = new Report(this);
        changed.columns = List.copyOf(newColumns);
        return changed;
    }

    /**
     * {@return the report of other measures and targets}
     *
     * @param measures the names of measures and targets
     */
    public Report withMeasures(List<String> measures) {
        requireNonNull(measures, "measures is null");
        Report changed = new Report(this);
        changed.show = List.copyOf(measures);
        return changed;
    }

    /**
     * {@return the report of only those rows of facts for which a condition holds}
     *
     * @param condition the condition
     */
    public Report withWhere(Condition condition) {
        Report changed = new Report(this);
        changed.where = Optional.of(requireNonNull(condition, "condition is null"));
        return changed;
    }

    /**
     * {@return the report of some days only}
     *
     * @param days the days
     */
    public Report withWhen(When days) {
        Report changed = new Report(this);
        changed.when = Optional.of(requireNonNull(days, "days is null"));
        return changed;
    }

    /**
     * {@return the report with another calendar for levels and steps that name none}
     *
     * @param calendarName the name of the calendar
     */
    public Report withCalendar(String calendarName) {
        Report changed = new Report(this);
        changed.calendar = Optional.of(requireNonNull(calendarName, "calendarName is null"));
        return changed;
    }

    /**
     * {@return the report with subtotals and a total, or without}
     *
     * @param shown whether they are shown
     */
    public Report withTotals(boolean shown) {
        Report changed = new Report(this);
        changed.totals = shown;
        return changed;
    }

    /**
     * {@return the report in another order}
     *
     * @param order how rows are sorted
     */
    public Report withSort(Sort order) {
        Report changed = new Report(this);
        changed.sort = Optional.of(requireNonNull(order, "order is null"));
        return changed;
    }

    /**
     * {@return the report of the first rows by a measure, and one row for the rest}
     *
     * @param first which rows come first
     */
    public Report withTop(Top first) {
        Report changed = new Report(this);
        changed.top = Optional.of(requireNonNull(first, "first is null"));
        return changed;
    }

    /**
     * {@return the report with rows for which nothing was found, or without}
     *
     * @param kept whether empty rows stay
     */
    public Report withEmptyRows(boolean kept) {
        Report changed = new Report(this);
        changed.keepEmpty = kept;
        return changed;
    }

    /**
     * {@return the report with bars in the cells of some measures}
     *
     * @param measures the names of measures and targets
     */
    public Report withBars(List<String> measures) {
        requireNonNull(measures, "measures is null");
        Report changed = new Report(this);
        changed.bars = List.copyOf(measures);
        return changed;
    }

    /**
     * {@return the report with a chart}
     *
     * @param newChart how it is drawn
     */
    public Report withChart(Chart newChart) {
        Report changed = new Report(this);
        changed.chart = Optional.of(requireNonNull(newChart, "newChart is null"));
        return changed;
    }

    private List<Object> state() {
        return Arrays.asList(
                name, title, rows, columns, show, where, when, calendar, totals, sort, top, keepEmpty, bars, chart);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Report report && report.state().equals(state());
    }

    @Override
    public int hashCode() {
        return state().hashCode();
    }

    /** Returns the name, and what is shown by what: {@code trading: sales, growth by year, month}. */
    @Override
    public String toString() {
        List<AxisSpec> axes = new ArrayList<>(rows);
        axes.addAll(columns);
        return name + ": " + String.join(", ", show)
                + (axes.isEmpty()
                        ? ""
                        : " by "
                                + String.join(
                                        ", ",
                                        axes.stream().map(Object::toString).toList()));
    }
}
