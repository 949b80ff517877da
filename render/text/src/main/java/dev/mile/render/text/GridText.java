package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.render.layout.ColumnLimit;
import dev.mile.render.layout.NumberFormatter;
import dev.mile.render.layout.ReadLabels;
import dev.mile.render.layout.ShownColumns;
import dev.mile.render.layout.StatusText;
import dev.mile.render.layout.TextWidth;
import dev.mile.report.Grid;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** Writes a grid for a terminal: rows indented by level, numbers aligned on the decimal point, notes below. */
public final class GridText {
    private static final int LONGEST_LABEL = 200;

    /** With fewer, it would take longer to hand them to another processor. */
    private static final int MANY_ROWS = 2_000;

    private static final String GAP = "  ";

    private final AnsiStyle style;
    private final int width;

    /**
     * Returns a writer.
     *
     * @param colour whether the terminal shows colours
     * @param width how many characters a line has; columns that do not fit stand in a further table, with a note
     */
    public GridText(boolean colour, int width) {
        this.style = new AnsiStyle(colour);
        this.width = width;
    }

    /**
     * {@return the grid as lines}
     *
     * @param grid the report that was computed; a label of more than 200 characters is cut
     * @throws dev.mile.MileException if it has more than 1,000 columns
     */
    public String write(Grid grid) {
        requireNonNull(grid, "grid is null");
        ColumnLimit.require(grid.columns().size(), ColumnLimit.SHOWN, "a terminal");
        List<Grid.Row> rows = withHeadings(ordered(grid));
        ReadLabels read = ReadLabels.of(grid.header());
        List<String> labels = rows.stream().map(row -> cut(label(row, read))).toList();
        int first = Math.max(1, labels.stream().mapToInt(TextWidth::of).max().orElse(1));
        List<Integer> shown = ShownColumns.of(grid.header());
        Optional<String> onlyMeasure = onlyMeasure(grid, shown);
        StringBuilder out = new StringBuilder();
        out.append(style.bold(TextWidth.sanitizeControls(grid.title()))).append('\n');
        Stream.of(onlyMeasure, grid.choice()).flatMap(Optional::stream).forEach(line -> out.append(
                        style.dim(wrapped(TextWidth.sanitizeControls(line))))
                .append('\n'));
        List<List<Column>> parts = folded(grid, shown, rows, first, onlyMeasure.isPresent());
        for (List<Column> part : parts) {
            out.append('\n');
            table(grid, rows, labels, first, part, out);
        }
        if (rows.isEmpty()) {
            out.append("no rows\n");
        }
        notes(grid, parts.size(), out);
        return out.toString();
    }

    /** All rows are as wide as the longest label. */
    private static String cut(String label) {
        return label.length() <= LONGEST_LABEL ? label : label.substring(0, LONGEST_LABEL) + "…";
    }

    /** Returns the measure of a report that shows a single one side by side, which need not be named in every column. */
    private static Optional<String> onlyMeasure(Grid grid, List<Integer> shown) {
        List<Grid.Column> columns = shown.stream().map(grid.columns()::get).toList();
        boolean one = columns.size() > 1
                && columns.stream()
                        .allMatch(column -> column.member().isPresent()
                                && column.name().equals(columns.get(0).name())
                                && column.role() == Grid.ColumnRole.MEASURE);
        if (!one) {
            return Optional.empty();
        }
        String unit = columns.get(0).style().describe();
        return Optional.of(columns.get(0).label() + (unit.isEmpty() ? "" : ", " + unit));
    }

    /** Returns the columns in as many parts as the width of a line asks for. */
    private List<List<Column>> folded(
            Grid grid, List<Integer> shown, List<Grid.Row> rows, int first, boolean withoutLabel) {
        List<Lines> values = values(grid, shown, rows);
        List<List<Column>> parts = new ArrayList<>();
        List<Column> part = new ArrayList<>();
        int used = first;
        for (int i = 0; i < shown.size(); i++) {
            int c = shown.get(i);
            boolean sameMember = !part.isEmpty()
                    && grid.columns()
                            .get(part.get(part.size() - 1).at())
                            .member()
                            .equals(grid.columns().get(c).member());
            Column column = new Column(c, column(grid, c, values.get(i), sameMember, withoutLabel));
            int needed = GAP.length() + column.lines().width();
            if (!part.isEmpty() && used + needed > width) {
                parts.add(part);
                part = new ArrayList<>();
                used = first;
                column = new Column(c, column(grid, c, values.get(i), false, withoutLabel));
            }
            used += needed;
            part.add(column);
        }
        parts.add(part);
        return parts;
    }

    /** Returns the values of each column as they read; those of long reports on all processors, a column each. */
    private static List<Lines> values(Grid grid, List<Integer> shown, List<Grid.Row> rows) {
        Stream<Integer> columns = rows.size() < MANY_ROWS ? shown.stream() : shown.parallelStream();
        return columns.map(c -> Lines.of(texts(grid, c, rows))).toList();
    }

    private void table(
            Grid grid, List<Grid.Row> rows, List<String> labels, int first, List<Column> columns, StringBuilder out) {
        head(grid, columns.stream().map(Column::lines).toList(), first, out);
        int used = first
                + columns.stream()
                        .mapToInt(column -> GAP.length() + column.lines().width())
                        .sum();
        IntFunction<StringBuilder> linesFrom = from -> {
            StringBuilder lines = new StringBuilder();
            for (int r = from; r < Math.min(from + MANY_ROWS, rows.size()); r++) {
                if (rows.get(r).kind() == Grid.RowKind.TOTAL && r > 0) {
                    lines.append(style.dim("─".repeat(used))).append('\n');
                }
                line(grid, rows.get(r), labels.get(r), first, columns, r, lines);
            }
            return lines;
        };
        IntStream starts =
                IntStream.range(0, (rows.size() + MANY_ROWS - 1) / MANY_ROWS).map(chunk -> chunk * MANY_ROWS);
        (rows.size() < MANY_ROWS ? starts : starts.parallel())
                .mapToObj(linesFrom)
                .toList()
                .forEach(out::append);
    }

    /**
     * A column that is shown.
     *
     * @param at the column of the grid
     * @param lines its header and values
     */
    private record Column(int at, Lines lines) {}

    private static String labels(Grid grid) {
        return grid.header().keys().stream().map(Grid.Key::label).collect(Collectors.joining(" / "));
    }

    /** The total comes at the end, where readers look for it. */
    private static List<Grid.Row> ordered(Grid grid) {
        List<Grid.Row> rows = new ArrayList<>(grid.rows());
        if (!rows.isEmpty() && rows.get(0).kind() == Grid.RowKind.TOTAL) {
            Collections.rotate(rows, -1);
        }
        return rows;
    }

    /** Puts a row without values above rows whose parent has no row of its own, so that the parent is named anyway. */
    private static List<Grid.Row> withHeadings(List<Grid.Row> rows) {
        List<Grid.Row> all = new ArrayList<>();
        List<String> shown = List.of();
        for (Grid.Row row : rows) {
            for (int depth = 1; depth < row.labels().size(); depth++) {
                List<String> parent = row.labels().subList(0, depth);
                if (shown.size() < depth || !shown.subList(0, depth).equals(parent)) {
                    List<Value> blanks = Collections.nCopies(row.values().size(), Value.UNKNOWN);
                    all.add(new Grid.Row(
                            Grid.RowKind.SUBTOTAL, parent, DateRange.EMPTY, List.of(), blanks, Map.of(), List.of()));
                }
            }
            all.add(row);
            shown = row.labels();
        }
        return all;
    }

    private static String label(Grid.Row row, ReadLabels read) {
        if (row.kind() == Grid.RowKind.TOTAL || row.labels().isEmpty()) {
            return "Total";
        }
        return "  ".repeat(row.labels().size() - 1) + read.last(row);
    }

    /** Texts below each other, right-aligned: the values of a column, or its header and then those. */
    private record Lines(List<String> texts, int width) {
        static Lines of(List<String> texts) {
            return new Lines(texts, widest(texts));
        }

        String at(int line) {
            return TextWidth.right(texts.get(line), width);
        }
    }

    /** Returns the header words of the column and then its values. */
    private static Lines column(Grid grid, int c, Lines values, boolean sameMember, boolean withoutLabel) {
        Grid.Column column = grid.columns().get(c);
        List<String> heads =
                heads(column, sameMember ? "" : ReadLabels.of(grid.header()).member(column), withoutLabel);
        List<String> all = new ArrayList<>(heads);
        all.addAll(values.texts());
        return new Lines(all, Math.max(widest(heads), values.width()));
    }

    private static List<String> texts(Grid grid, int c, List<Grid.Row> rows) {
        Grid.Column column = grid.columns().get(c);
        List<Value> values = rows.stream().map(row -> row.values().get(c)).toList();
        NumberFormatter numbers =
                NumberFormatter.of(column, values, grid.header().locale());
        List<String> texts = new ArrayList<>(rows.size());
        for (Grid.Row row : rows) {
            String text = column.role() == Grid.ColumnRole.STATUS
                    ? row.status(c).map(StatusText::of).orElse("")
                    : numbers.of(row.values().get(c));
            // a closing bracket hangs out, so that points stay under points
            texts.add(column.role() != Grid.ColumnRole.STATUS && !text.endsWith(")") ? text + " " : text);
        }
        if (column.bars()) {
            bars(rows, values, texts);
        }
        return texts;
    }

    private static final int BAR = 12;
    private static final String EIGHTHS = " ▏▎▍▌▋▊▉";
    private static final String BARS = "█▒" + EIGHTHS.strip();

    /** Puts a bar behind the number of each leaf row, as long as its size; a negative one is shaded. */
    private static void bars(List<Grid.Row> rows, List<Value> values, List<String> texts) {
        int widest = widest(texts);
        double most = 0;
        for (int r = 0; r < rows.size(); r++) {
            if (rows.get(r).kind() == Grid.RowKind.LEAF && !values.get(r).isBlank()) {
                most = Math.max(most, Math.abs(values.get(r).toDouble()));
            }
        }
        for (int r = 0; r < rows.size(); r++) {
            boolean drawn =
                    rows.get(r).kind() == Grid.RowKind.LEAF && !values.get(r).isBlank() && most > 0;
            String bar = drawn ? bar(values.get(r).toDouble() / most) : "";
            texts.set(r, TextWidth.right(texts.get(r), widest) + " " + TextWidth.left(bar, BAR));
        }
    }

    private static String bar(double share) {
        int eighths = (int) Math.round(Math.abs(share) * BAR * 8);
        String full = (share < 0 ? "▒" : "█").repeat(eighths / 8);
        return eighths % 8 == 0 || share < 0 ? full : full + EIGHTHS.charAt(eighths % 8);
    }

    private static final int HEADS = 4;

    /** Returns the header in four lines, filled from the last; unit and scale come last. */
    private static List<String> heads(Grid.Column column, String member, boolean withoutLabel) {
        List<String> words = new ArrayList<>(List.of(
                TextWidth.sanitizeControls(withoutLabel ? "" : column.label()).split(" ")));
        List<String> lines = new ArrayList<>();
        String unit = withoutLabel || column.role() == Grid.ColumnRole.STATUS
                ? ""
                : column.style().describe();
        int room = HEADS - 1 - (member.isEmpty() ? 0 : 1);
        int target = Math.max(9, (TextWidth.of(String.join(" ", words)) + room - 1) / room);
        StringBuilder line = new StringBuilder();
        for (String word : words) {
            if (line.length() > 0 && TextWidth.of(line + " " + word) > target && lines.size() < room - 1) {
                lines.add(line.toString());
                line.setLength(0);
            }
            line.append(line.length() > 0 ? " " : "").append(word);
        }
        if (!line.isEmpty()) {
            lines.add(line.toString());
        }
        if (!member.isEmpty()) {
            lines.add(0, member);
        }
        if (!unit.isEmpty()) {
            lines.add(TextWidth.sanitizeControls(unit));
        }
        while (lines.size() < HEADS) {
            lines.add(0, "");
        }
        String bar = column.bars() ? " ".repeat(BAR + 1) : "";
        return lines.stream().map(l -> l + " " + bar).toList();
    }

    private static int widest(List<String> texts) {
        return texts.stream().mapToInt(TextWidth::of).max().orElse(0);
    }

    private void head(Grid grid, List<Lines> columns, int first, StringBuilder out) {
        for (int line = 0; line < HEADS; line++) {
            int at = line;
            if (columns.stream().allMatch(c -> c.texts().get(at).isBlank())) {
                continue;
            }
            StringBuilder text = new StringBuilder(TextWidth.left(line == HEADS - 1 ? labels(grid) : "", first));
            if (TextWidth.of(text.toString()) > first) {
                text = new StringBuilder(" ".repeat(first));
            }
            for (Lines column : columns) {
                text.append(GAP).append(column.at(line));
            }
            out.append(style.dim(text.toString().stripTrailing())).append('\n');
        }
    }

    private void line(
            Grid grid, Grid.Row row, String label, int first, List<Column> columns, int r, StringBuilder out) {
        StringBuilder text = new StringBuilder(TextWidth.left(label, first));
        for (Column column : columns) {
            String cell = column.lines().at(HEADS + r);
            text.append(GAP).append(coloured(grid.columns().get(column.at()), row.status(column.at()), cell));
        }
        String line = text.toString().stripTrailing();
        out.append(row.kind() == Grid.RowKind.LEAF ? line : style.bold(line)).append('\n');
    }

    private String coloured(Grid.Column column, Optional<TargetStatus> status, String cell) {
        if (status.isEmpty()) {
            int bar = column.bars() ? firstOf(cell, BARS) : -1;
            return bar < 0 ? cell : cell.substring(0, bar) + style.colour(36, cell.substring(bar));
        }
        // colour-blind people can tell cyan, yellow and magenta apart, and words and signs are always shown
        return switch (status.get()) {
            case MET -> style.colour(96, cell);
            case NEAR -> style.colour(93, cell);
            case MISSED -> style.colour(95, cell);
        };
    }

    private static int firstOf(String text, String signs) {
        for (int i = 0; i < text.length(); i++) {
            if (signs.indexOf(text.charAt(i)) >= 0) {
                return i;
            }
        }
        return -1;
    }

    private void notes(Grid grid, int parts, StringBuilder out) {
        List<String> notes = new ArrayList<>(grid.notes());
        if (parts > 1) {
            notes.add(
                    0,
                    "The line is too short for all columns: they stand in " + parts
                            + " tables, one below the other. Widen the window, or write a file with -o.");
        }
        if (!notes.isEmpty()) {
            out.append('\n');
        }
        for (String note : notes) {
            out.append(style.dim(wrapped(TextWidth.sanitizeControls(note)))).append('\n');
        }
    }

    private String wrapped(String note) {
        StringBuilder out = new StringBuilder();
        int at = 0;
        for (String word : note.split(" ")) {
            if (at > 0 && at + 1 + TextWidth.of(word) > width) {
                out.append("\n  ");
                at = 2;
            } else if (at > 0) {
                out.append(' ');
                at++;
            }
            out.append(word);
            at += TextWidth.of(word);
        }
        return out.toString();
    }
}
