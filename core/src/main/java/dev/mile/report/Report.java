package dev.mile.report;

import static java.util.Objects.requireNonNull;

import dev.mile.fact.Condition;
import dev.mile.span.Span;
import java.util.List;
import java.util.Optional;

/**
 * What a report shows; names are looked up when it is computed. Each method that takes a value returns another report: {@code
 * Report.of("trading", List.of("year", "month"), List.of("sales", "growth")).in("retail")}.
 *
 * <p>Immutable.
 */
public final class Report {
    private String name;
    private String title = "";
    private List<AxisSpec> rows = List.of();
    private List<AxisSpec> columns = List.of();
    private List<String> show = List.of();
    private Optional<Condition> where = Optional.empty();
    private Optional<When> when = Optional.empty();
    private String calendar = "";
    private boolean totals = true;
    private Optional<Sort> sort = Optional.empty();
    private Optional<Top> top = Optional.empty();
    private boolean keepEmpty;
    private List<String> bars = List.of();
    private Optional<Chart> chart = Optional.empty();
    private String place = "";

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
        place = from.place;
    }

    /** One part of an axis. */
    public sealed interface AxisSpec {}

    /** A level, a date attribute, a dimension or a period of the year, by name. */
    public record NamedAxis(String text) implements AxisSpec {}

    /** Recent periods, which may overlap. */
    public record RecentPeriods(List<Span> spans) implements AxisSpec {
        public RecentPeriods {
            spans = List.copyOf(spans);
        }
    }

    /** A sort order. */
    public record Sort(String measure, boolean descending) {}

    /** The first rows by a measure. */
    public record Top(int count, String measure) {}

    /** Returns a report of rows by name, coarsest first, that shows measures and targets by name. */
    public static Report of(String name, List<String> rows, List<String> show) {
        return new Report(name)
                .by(rows.stream().map(r -> (AxisSpec) new NamedAxis(r)).toList(), List.of())
                .withMeasures(show);
    }

    /** Returns its name. */
    public String name() {
        return name;
    }

    /** Returns how people read it; the name where empty. */
    public String title() {
        return title;
    }

    /** Returns the parts of the rows, coarsest first. */
    public List<AxisSpec> rows() {
        return rows;
    }

    /** Returns the parts of the columns. */
    public List<AxisSpec> columns() {
        return columns;
    }

    /** Returns the measures and targets. */
    public List<String> show() {
        return show;
    }

    /** Returns the rows of facts that count; empty for all. */
    public Optional<Condition> where() {
        return where;
    }

    /** Returns the days in which the cells shown begin; empty for all. */
    public Optional<When> when() {
        return when;
    }

    /** Returns the calendar of levels and steps that name none; empty for the model's first. */
    public String calendar() {
        return calendar;
    }

    /** Tells whether subtotals and a total are shown. */
    public boolean totals() {
        return totals;
    }

    /** Returns the order of rows within their parent; empty for time, then members by code point. */
    public Optional<Sort> sort() {
        return sort;
    }

    /** Returns how many rows of each parent are shown; empty for all. */
    public Optional<Top> top() {
        return top;
    }

    /** Tells whether rows for which nothing was found stay. */
    public boolean keepEmpty() {
        return keepEmpty;
    }

    /** Returns the measures with a bar in each cell. */
    public List<String> bars() {
        return bars;
    }

    /** Returns how it is drawn; empty where nobody asked. */
    public Optional<Chart> chart() {
        return chart;
    }

    /** Returns where it stands, for messages; may be empty. */
    public String place() {
        return place;
    }

    /** Returns the report with other rows and columns. */
    public Report by(List<AxisSpec> newRows, List<AxisSpec> newColumns) {
        Report changed = new Report(this);
        changed.rows = List.copyOf(newRows);
        changed.columns = List.copyOf(newColumns);
        return changed;
    }

    /** Returns the report with other measures and targets. */
    public Report withMeasures(List<String> measures) {
        Report changed = new Report(this);
        changed.show = List.copyOf(measures);
        return changed;
    }

    /** Returns the report of the rows of facts for which the condition holds. */
    public Report where(Optional<Condition> condition) {
        Report changed = new Report(this);
        changed.where = requireNonNull(condition, "condition is null");
        return changed;
    }

    /** Returns the report of the cells that begin in the days. */
    public Report when(Optional<When> days) {
        Report changed = new Report(this);
        changed.when = requireNonNull(days, "days is null");
        return changed;
    }

    /** Returns the report by a calendar of the project. */
    public Report withCalendar(String calendarName) {
        Report changed = new Report(this);
        changed.calendar = requireNonNull(calendarName, "calendarName is null");
        return changed;
    }

    /** Returns the report with subtotals and a total, or without. */
    public Report withTotals(boolean shown) {
        Report changed = new Report(this);
        changed.totals = shown;
        return changed;
    }

    /** Returns the report in an order, and of the first rows of it. */
    public Report sorted(Optional<Sort> order, Optional<Top> first) {
        Report changed = new Report(this);
        changed.sort = requireNonNull(order, "order is null");
        changed.top = requireNonNull(first, "first is null");
        return changed;
    }

    /** Returns the report with rows for which nothing was found, or without. */
    public Report withEmptyRows(boolean kept) {
        Report changed = new Report(this);
        changed.keepEmpty = kept;
        return changed;
    }

    /** Returns the report with a title. */
    public Report withTitle(String newTitle) {
        Report changed = new Report(this);
        changed.title = requireNonNull(newTitle, "newTitle is null");
        return changed;
    }

    /** Returns the report with bars in the cells of the measures. */
    public Report withBars(List<String> measures) {
        Report changed = new Report(this);
        changed.bars = List.copyOf(measures);
        return changed;
    }

    /** Returns the report with a chart. */
    public Report drawn(Optional<Chart> how) {
        Report changed = new Report(this);
        changed.chart = requireNonNull(how, "how is null");
        return changed;
    }

    /** Returns the report with the place where it stands. */
    public Report at(String newPlace) {
        Report changed = new Report(this);
        changed.place = requireNonNull(newPlace, "newPlace is null");
        return changed;
    }
}
