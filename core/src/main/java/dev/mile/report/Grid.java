package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.internal.Labels;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/**
 * A computed report: labels, exact values, formats and notes, without layout.
 *
 * @param header what was known before the first row
 * @param rows the rows in order, subtotals before their parts
 * @param notes what a reader must know, in sentences
 */
public record Grid(Header header, List<Row> rows, List<String> notes) {
    public Grid {
        rows = List.copyOf(rows);
        notes = List.copyOf(notes);
    }

    /**
     * What is known of a report before its first row.
     *
     * @param project the name of the project
     * @param report the name of the report
     * @param title what it is
     * @param keys the parts of the rows
     * @param columns the columns of values
     * @param asOf the last day for which actuals count; empty if there is none
     * @param chart how it is drawn; empty where nobody asked
     * @param choice which days and rows of facts were chosen, in words; empty for all
     * @param cutPeriods the labels of periods of which only some of the days were chosen
     * @param locale the language in which people's outputs write numbers and dates
     */
    public record Header(
            String project,
            String report,
            String title,
            List<Key> keys,
            List<Column> columns,
            Optional<LocalDate> asOf,
            Optional<Chart> chart,
            Optional<String> choice,
            List<String> cutPeriods,
            Locale locale) {
        /**
         * Returns the header of a report of all days and rows, of no project.
         *
         * @param title what it is
         * @param keys the parts of the rows
         * @param columns the columns of values
         * @param asOf the last day for which actuals count
         * @param chart how it is drawn; empty where nobody asked
         */
        public Header(
                String title, List<Key> keys, List<Column> columns, Optional<LocalDate> asOf, Optional<Chart> chart) {
            this("", title, title, keys, columns, asOf, chart, Optional.empty(), List.of(), Locale.ENGLISH);
        }

        public Header {
            keys = List.copyOf(keys);
            columns = List.copyOf(columns);
        }
    }

    /**
     * A part of the rows.
     *
     * @param name its name, as the report gives it
     * @param kind what its labels are
     * @param label how people read its name
     */
    public record Key(String name, AxisKind kind, String label) {
        /**
         * A part that has no label: its name in words.
         *
         * @param name its name, as the report gives it
         * @param kind what its labels are
         */
        public Key(String name, AxisKind kind) {
            this(name, kind, Labels.of(name));
        }
    }

    /** What the labels of a part of the rows are. */
    public enum AxisKind {
        /** Periods of a calendar. */
        PERIOD,
        /** Places in the year: the same for every year. */
        OF_YEAR,
        /** Values of a date attribute. */
        ATTRIBUTE,
        /** Members of a dimension. */
        MEMBER,
        /** Recent periods, which may overlap. */
        RECENT
    }

    /** What a column of values is. */
    public enum ColumnRole {
        /** The values of a measure. */
        MEASURE,
        /** The value of a target. */
        VALUE,
        /** The goal of a target. */
        AGAINST,
        /** A target's status: its values are blank, and {@link Row#status} holds it. */
        STATUS
    }

    /**
     * A column of values.
     *
     * @param name the measure or target
     * @param role which part of a target it is
     * @param label how people read it
     * @param style how its numbers are written
     * @param member the label of the column's key, an empty text for a blank member; empty where the report has no columns
     * @param definition what it is, in the language
     * @param bars whether its cells hold bars
     * @param coveredFrom the first day on which the facts that it reads in its own cells are covered, so that a period that begins
     *     earlier is known in part; empty where no chart is asked for or nothing is read
     */
    public record Column(
            String name,
            ColumnRole role,
            String label,
            NumberStyle style,
            Optional<String> member,
            String definition,
            boolean bars,
            Optional<LocalDate> coveredFrom) {
        /**
         * Returns a column of facts that are covered from the first row on.
         *
         * @param name the name
         * @param role which part of a target it is
         * @param label how people read it
         * @param style how numbers are written
         * @param member the member of the columns; empty for none
         * @param definition what it is, in the language
         * @param bars whether bars are drawn beside the numbers
         */
        public Column(
                String name,
                ColumnRole role,
                String label,
                NumberStyle style,
                Optional<String> member,
                String definition,
                boolean bars) {
            this(name, role, label, style, member, definition, bars, Optional.empty());
        }

        /** {@return how people read the member; an empty text if there is none} */
        public String memberLabel() {
            return member.map(m -> m.isEmpty() ? "(blank)" : m).orElse("");
        }

        /** {@return the header in data files: {@code sales FY2026}, {@code growth_target_status}} */
        public String header() {
            String base =
                    role == ColumnRole.MEASURE ? name : name + "_" + role.name().toLowerCase(Locale.ROOT);
            return member.map(m -> base + " " + m).orElse(base);
        }
    }

    /** What a row is. */
    public enum RowKind {
        /** A row of the finest part. */
        LEAF,
        /** A row above leaves, computed on its own days and members. */
        SUBTOTAL,
        /** What `top` left out. */
        REST,
        /** The row above all. */
        TOTAL
    }

    /**
     * A row.
     *
     * @param kind what it is
     * @param labels one for each part that is fixed; an empty text for a blank member
     * @param days the first to the last day of its cells
     * @param cellDays by column, the first to the last day of the cell; empty where all cells have the days of the row
     * @param values by column; blank in columns of statuses
     * @param statuses the status of each target, by column; none if it is unknown
     * @param windows by column, the days that its aggregates looked at; empty where nobody asked for them
     */
    public record Row(
            RowKind kind,
            List<String> labels,
            DateRange days,
            List<DateRange> cellDays,
            List<Value> values,
            Map<Integer, TargetStatus> statuses,
            List<List<Window>> windows) {
        public Row {
            labels = List.copyOf(labels);
            cellDays = List.copyOf(cellDays);
            values = List.copyOf(values);
            statuses = Map.copyOf(statuses);
            windows = List.copyOf(windows);
        }

        /**
         * {@return the status of the target in a column; empty if its value or goal is blank}
         *
         * @param column the column
         */
        public Optional<TargetStatus> status(int column) {
            return Optional.ofNullable(statuses.get(column));
        }

        /**
         * {@return the first to the last day of the cell in a column}
         *
         * @param column the column
         */
        public DateRange cellDays(int column) {
            return cellDays.isEmpty() ? days : cellDays.get(column);
        }
    }

    /**
     * The days that a part of a measure looked at.
     *
     * @param expression the part, in the language
     * @param days its days
     */
    public record Window(String expression, DateRange days) {}

    /** {@return which days and rows of facts were chosen, in words; empty for all} */
    public Optional<String> choice() {
        return header.choice();
    }

    /** {@return what it is} */
    public String title() {
        return header.title();
    }

    /** {@return the names of the parts of the rows} */
    public List<String> keys() {
        return header.keys().stream().map(Key::name).toList();
    }

    /** {@return the columns of values} */
    public List<Column> columns() {
        return header.columns();
    }
}
