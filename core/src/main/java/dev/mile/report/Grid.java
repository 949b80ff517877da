package dev.mile.report;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.internal.Labels;
import dev.mile.internal.Messages;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

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

        /**
         * {@return where a part of the rows stands among the keys, from 0}
         *
         * @param key the name of the part
         * @throws ModelException if there is none
         */
        public int keyIndex(String key) {
            requireNonNull(key, "key is null");
            List<String> names = keys.stream().map(Key::name).toList();
            if (!names.contains(key)) {
                throw ModelException.of(
                        "the report '%s' has no part '%s' in its rows%s", report, key, Messages.didYouMean(key, names));
            }
            return names.indexOf(key);
        }

        /**
         * {@return where the values of a measure, or of a target, stand among the columns, from 0}
         *
         * @param name the measure or target, or the header of the column in data files, such as {@code growth_target_against}
         * @throws ModelException if there is no such column, or one for each of several members
         */
        public int columnIndex(String name) {
            return index(name, ColumnRole.VALUE, Optional.empty());
        }

        /**
         * {@return where the values of a measure, or of a target, stand for a member of the columns, from 0}
         *
         * @param name the measure or target
         * @param member the label of the member, an empty text for the blank one
         * @throws ModelException if there is no such column
         */
        public int columnIndex(String name, String member) {
            requireNonNull(member, "member is null");
            return index(name, ColumnRole.VALUE, Optional.of(member));
        }

        /** Returns the column of a measure or, for a target, the one of a role; a name may be the header in data files as well. */
        private int index(String name, ColumnRole role, Optional<String> member) {
            requireNonNull(name, "name is null");
            List<Integer> found = new ArrayList<>();
            for (int c = 0; c < columns.size(); c++) {
                Column column = columns.get(c);
                boolean named = column.name().equals(name)
                        && (column.role() == role || role == ColumnRole.VALUE && column.role() == ColumnRole.MEASURE);
                boolean whole = role == ColumnRole.VALUE
                        && (column.baseHeader().equals(name) || column.header().equals(name));
                if ((named || whole) && (member.isEmpty() || column.member().equals(member))) {
                    found.add(c);
                }
            }
            if (found.size() == 1) {
                return found.get(0);
            }
            String wanted = member.map(m -> name + "' of '" + m).orElse(name);
            List<String> known = columns.stream().map(Column::header).toList();
            throw found.isEmpty()
                    ? ModelException.of(
                            "the report '%s' has no column '%s'%s", report, wanted, Messages.didYouMean(name, known))
                    : ModelException.of(
                            "the report '%s' has a column '%s' for each of %d members; say which, such as '%s'",
                            report,
                            name,
                            found.size(),
                            columns.get(found.get(0)).member().orElse(""));
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
            return member.map(m -> baseHeader() + " " + m).orElseGet(this::baseHeader);
        }

        private String baseHeader() {
            return role == ColumnRole.MEASURE ? name : name + "_" + role.name().toLowerCase(Locale.ROOT);
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

    /** A row by the names of its columns: what a program reads of a report. */
    public static final class Cells {
        private final Header header;
        private final Row row;

        private Cells(Header header, Row row) {
            this.header = header;
            this.row = row;
        }

        /** {@return the row itself} */
        public Row row() {
            return row;
        }

        /** {@return what the row is} */
        public RowKind kind() {
            return row.kind();
        }

        /** {@return the labels of the row, the coarsest first; fewer than keys above the leaves} */
        public List<String> labels() {
            return row.labels();
        }

        /**
         * {@return the label of a part of the rows; empty above the rows that have it}
         *
         * @param key the name of the part, as the report gives it
         * @throws ModelException if the report has no such part
         */
        public Optional<String> label(String key) {
            int at = header.keyIndex(key);
            return at < row.labels().size() ? Optional.of(row.labels().get(at)) : Optional.empty();
        }

        /**
         * {@return the value of a measure, or of a target; blank where there is none}
         *
         * @param name the measure or target, or the header of the column in data files, such as {@code growth_target_against}
         * @throws ModelException if the report has no such column, or one for each of several members
         */
        public Value value(String name) {
            return row.values().get(header.columnIndex(name));
        }

        /**
         * {@return the value of a measure, or of a target, for a member of the columns; blank where there is none}
         *
         * @param name the measure or target
         * @param member the label of the member, an empty text for the blank one
         * @throws ModelException if the report has no such column
         */
        public Value value(String name, String member) {
            return row.values().get(header.columnIndex(name, member));
        }

        /**
         * {@return the number of a measure, or of a target: exact, or the shortest decimal of a ratio, of at most 17 digits; empty
         * for a blank, of which {@link #value(String)} tells the kind}
         *
         * @param name the measure or target, or the header of the column in data files
         * @throws ModelException if the report has no such column, or one for each of several members
         */
        public Optional<BigDecimal> number(String name) {
            return Optional.ofNullable(value(name).decimal());
        }

        /**
         * {@return the number for a member of the columns, as {@link #number(String)}}
         *
         * @param name the measure or target
         * @param member the label of the member, an empty text for the blank one
         * @throws ModelException if the report has no such column
         */
        public Optional<BigDecimal> number(String name, String member) {
            return Optional.ofNullable(value(name, member).decimal());
        }

        /**
         * {@return the status of a target; empty if its value or goal is blank}
         *
         * @param target the target
         * @throws ModelException if the report has no such target, or one for each of several members
         */
        public Optional<TargetStatus> status(String target) {
            return row.status(header.index(target, ColumnRole.STATUS, Optional.empty()));
        }

        /**
         * {@return the status of a target for a member of the columns; empty if its value or goal is blank}
         *
         * @param target the target
         * @param member the label of the member, an empty text for the blank one
         * @throws ModelException if the report has no such target
         */
        public Optional<TargetStatus> status(String target, String member) {
            return row.status(header.index(target, ColumnRole.STATUS, Optional.of(member)));
        }

        /**
         * {@return the labels by their parts, then the cells by the headers of data files, in order: texts, {@link BigDecimal}s and
         * {@link TargetStatus}es; null for a blank, and for parts that the row is above}
         */
        public Map<String, @Nullable Object> toMap() {
            Map<String, @Nullable Object> cells = new LinkedHashMap<>();
            for (int k = 0; k < header.keys().size(); k++) {
                cells.put(
                        header.keys().get(k).name(),
                        k < row.labels().size() ? row.labels().get(k) : null);
            }
            for (int c = 0; c < header.columns().size(); c++) {
                Column column = header.columns().get(c);
                cells.put(
                        column.header(),
                        column.role() == ColumnRole.STATUS
                                ? row.status(c).orElse(null)
                                : row.values().get(c).decimal());
            }
            return Collections.unmodifiableMap(cells);
        }

        @Override
        public String toString() {
            return toMap().toString();
        }
    }

    /**
     * {@return the row that has these labels and no others: a leaf if there are as many as parts, else the row above}
     *
     * @param labels the labels, the coarsest first; an empty text for a blank member; none for the total
     * @throws ModelException if there is no such row, or several
     */
    public Cells row(String... labels) {
        List<String> wanted = List.of(labels);
        if (wanted.isEmpty()) {
            return total().orElseThrow(
                            () -> ModelException.of("the report has no total; ask for it: Report.withTotals(true)"));
        }
        List<Row> found = rows.stream()
                .filter(row -> row.kind() != RowKind.REST && row.labels().equals(wanted))
                .toList();
        if (found.size() != 1) {
            List<String> known = rows.stream()
                    .filter(row -> row.labels().size() == wanted.size())
                    .map(row -> String.join(" · ", row.labels()))
                    .distinct()
                    .toList();
            String label = String.join(" · ", wanted);
            throw ModelException.of(
                    found.isEmpty()
                            ? "the report '%s' has no row '%s'%s"
                            : "the report '%s' has several rows '%s'; choose among `rows()`%s",
                    header.report(),
                    label,
                    found.isEmpty() ? Messages.didYouMean(label, known) : "");
        }
        return new Cells(header, found.get(0));
    }

    /** {@return the row above all; empty if the report has none} */
    public Optional<Cells> total() {
        return stream(RowKind.TOTAL).findFirst();
    }

    /** {@return the rows of the finest part, in order} */
    public Stream<Cells> leaves() {
        return stream(RowKind.LEAF);
    }

    /**
     * {@return the rows of some kinds, in order}
     *
     * @param kinds the kinds
     */
    public Stream<Cells> stream(RowKind... kinds) {
        List<RowKind> wanted = List.of(kinds);
        return rows.stream().filter(row -> wanted.contains(row.kind())).map(row -> new Cells(header, row));
    }

    /** {@return the leaves as maps from the headers of data files to texts, numbers and statuses, as {@link Cells#toMap()}} */
    public List<Map<String, @Nullable Object>> toMaps() {
        return leaves().map(Cells::toMap).toList();
    }

    /** {@return the same report with each subtotal after its parts, and the total at the end} */
    public Grid withTotalsLast() {
        List<Row> ordered = new ArrayList<>();
        Deque<Row> above = new ArrayDeque<>();
        for (Row row : rows) {
            int depth = row.labels().size();
            // what is as coarse as this row, or finer, has all its parts behind it
            while (!above.isEmpty() && above.peek().labels().size() >= depth) {
                ordered.add(above.pop());
            }
            if (row.kind() == RowKind.SUBTOTAL || row.kind() == RowKind.TOTAL) {
                above.push(row);
            } else {
                ordered.add(row);
            }
        }
        ordered.addAll(above);
        return new Grid(header, ordered, notes);
    }

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
