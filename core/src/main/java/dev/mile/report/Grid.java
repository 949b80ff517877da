package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.measure.Value;
import java.util.List;
import java.util.Locale;

/**
 * A computed report: labels, exact values, formats and notes, without layout.
 *
 * @param title what it is
 * @param keys the names of the row parts, as the report gives them
 * @param columns the columns of values
 * @param rows the rows in order, subtotals before their parts
 * @param notes what a reader must know, in sentences
 */
public record Grid(String title, List<String> keys, List<Column> columns, List<Row> rows, List<String> notes) {
    public Grid {
        keys = List.copyOf(keys);
        columns = List.copyOf(columns);
        rows = List.copyOf(rows);
        notes = List.copyOf(notes);
    }

    /** What a column of values is. */
    public enum Part {
        MEASURE,
        /** The value of a target. */
        VALUE,
        /** What a target is held against. */
        AGAINST,
        /** How a target stands: its values are the places of {@link dev.mile.measure.Target.Status}. */
        STATUS
    }

    /**
     * A column of values.
     *
     * @param name the measure or target
     * @param part which part of a target it is
     * @param label how people read it
     * @param format a decimal pattern; empty for the default
     * @param member the member of the column axis, empty for a blank one; null where the report has no column axis
     */
    public record Column(String name, Part part, String label, String format, String member) {
        /** Returns how people read the member; an empty text where there is none. */
        public String memberLabel() {
            return member == null ? "" : member.isEmpty() ? "(blank)" : member;
        }

        /** Returns the header in data files: {@code sales FY2026}, {@code growth_target_status}. */
        public String header() {
            String base = part == Part.MEASURE ? name : name + "_" + part.name().toLowerCase(Locale.ROOT);
            return member == null ? base : base + " " + member;
        }
    }

    /** What a row is. */
    public enum Kind {
        LEAF,
        SUBTOTAL,
        /** What `top` left out. */
        REST,
        TOTAL
    }

    /**
     * A row.
     *
     * @param kind what it is
     * @param labels one for each part that is fixed; an empty text for a blank member
     * @param days the first to the last day of its cells
     * @param values by column; the status of a target is 0 met, 1 near, 2 missed
     */
    public record Row(Kind kind, List<String> labels, DateRange days, List<Value> values) {
        public Row {
            labels = List.copyOf(labels);
            values = List.copyOf(values);
        }
    }
}
