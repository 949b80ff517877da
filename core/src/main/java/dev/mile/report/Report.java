package dev.mile.report;

import dev.mile.fact.Condition;
import dev.mile.span.Span;
import java.util.List;
import java.util.Optional;

/**
 * What a report shows; names are looked up when it is computed.
 *
 * @param name its name
 * @param title how people read it; the name where empty
 * @param rows the parts of the rows, coarsest first
 * @param columns the parts of the columns
 * @param show measures and targets
 * @param where the rows of facts that count
 * @param when the cells that are shown
 * @param calendar for levels and steps that name none; empty for the model's first
 * @param totals whether subtotals and a total are shown
 * @param sort by which measure the rows are sorted within their parent
 * @param top how many are shown
 * @param keepEmpty whether rows for which nothing was found stay
 * @param place where it stands, for messages; may be empty
 */
public record Report(
        String name,
        String title,
        List<Part> rows,
        List<Part> columns,
        List<String> show,
        Optional<Condition> where,
        Optional<When> when,
        String calendar,
        boolean totals,
        Optional<Sort> sort,
        Optional<Top> top,
        boolean keepEmpty,
        String place) {

    public Report {
        rows = List.copyOf(rows);
        columns = List.copyOf(columns);
        show = List.copyOf(show);
    }

    /** One part of an axis. */
    public sealed interface Part {}

    /** A level, a date attribute, a dimension or a period of the year, by name. */
    public record Name(String text) implements Part {}

    /** Recent periods, which may overlap. */
    public record Recent(List<Span> spans) implements Part {
        public Recent {
            spans = List.copyOf(spans);
        }
    }

    /** A sort order. */
    public record Sort(String measure, boolean descending) {}

    /** The first rows by a measure. */
    public record Top(int count, String measure) {}

    /** Returns a report of rows by name. */
    public static Report of(String name, List<String> rows, List<String> show) {
        return new Report(
                name,
                "",
                rows.stream().map(r -> (Part) new Name(r)).toList(),
                List.of(),
                show,
                Optional.empty(),
                Optional.empty(),
                "",
                true,
                Optional.empty(),
                Optional.empty(),
                false,
                "");
    }

    public Report by(List<Part> newRows, List<Part> newColumns) {
        return new Report(
                name, title, newRows, newColumns, show, where, when, calendar, totals, sort, top, keepEmpty, place);
    }

    public Report where(Optional<Condition> condition) {
        return new Report(
                name, title, rows, columns, show, condition, when, calendar, totals, sort, top, keepEmpty, place);
    }

    public Report when(Optional<When> days) {
        return new Report(name, title, rows, columns, show, where, days, calendar, totals, sort, top, keepEmpty, place);
    }

    public Report showing(List<String> measures) {
        return new Report(
                name, title, rows, columns, measures, where, when, calendar, totals, sort, top, keepEmpty, place);
    }

    public Report in(String calendarName) {
        return new Report(
                name, title, rows, columns, show, where, when, calendarName, totals, sort, top, keepEmpty, place);
    }

    public Report sorted(Optional<Sort> order, Optional<Top> first) {
        return new Report(
                name, title, rows, columns, show, where, when, calendar, totals, order, first, keepEmpty, place);
    }

    /** Returns the report with rows for which nothing was found. */
    public Report keepingEmpty() {
        return new Report(name, title, rows, columns, show, where, when, calendar, totals, sort, top, true, place);
    }

    public Report titled(String newTitle) {
        return new Report(
                name, newTitle, rows, columns, show, where, when, calendar, totals, sort, top, keepEmpty, place);
    }
}
