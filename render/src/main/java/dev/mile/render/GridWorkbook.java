package dev.mile.render;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.apache.poi.ss.usermodel.BorderStyle;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.ConditionalFormattingThreshold;
import org.apache.poi.ss.usermodel.Font;
import org.apache.poi.ss.usermodel.HorizontalAlignment;
import org.apache.poi.ss.usermodel.IconMultiStateFormatting;
import org.apache.poi.ss.usermodel.IndexedColors;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.SheetConditionalFormatting;
import org.apache.poi.ss.usermodel.VerticalAlignment;
import org.apache.poi.ss.util.CellRangeAddress;
import org.apache.poi.xssf.streaming.SXSSFSheet;
import org.apache.poi.xssf.streaming.SXSSFWorkbook;
import org.apache.poi.xssf.usermodel.XSSFColor;

/**
 * Writes a report as a workbook: typed values in outline groups, data bars and status icons as conditional formats, a chart, the
 * notes, and what each measure is. Rows are written as they come.
 */
public final class GridWorkbook implements GridSink, AutoCloseable {
    private static final int MOST_ROWS = 1_048_576;
    private static final int MOST_LETTERS = 32_767;
    private static final int MOST_CHARTED = 20_000;
    private static final int DIGITS = 15;
    private static final int WINDOW = 500;
    private static final int CHARACTER = 256;
    private static final int LABEL_WIDTH = 18;
    private static final int VALUE_WIDTH = 15;

    /** How many bold characters fit into a line of a header, and how high a line is. */
    private static final int HEADER_CHARACTERS = VALUE_WIDTH - 2;

    private static final float LINE_HEIGHT = 15;

    private static final byte[] BAR_COLOUR = {(byte) 0x9C, (byte) 0xC8, (byte) 0xE6};

    /** Met is 2, near 1, missed 0, so that icons rise with it; people read the word. */
    private static final String STATUS_FORMAT = "[=2]\"met\";[=1]\"near\";\"missed\"";

    private final OutputStream out;
    private final SXSSFWorkbook book = new SXSSFWorkbook(WINDOW);
    private final SXSSFSheet sheet = book.createSheet("report");
    private final Map<String, CellStyle> styles = new HashMap<>();
    private final List<Grid.Row> charted = new ArrayList<>();
    private final List<CellRangeAddress> leaves = new ArrayList<>();
    private Grid.Header head;
    private int next;
    private int firstRow;
    private int asText;
    private boolean[] negative = {};
    private boolean[] decimals = {};
    private List<Grid.Row> first = new ArrayList<>();

    /**
     * Returns a writer; it writes when the notes have come.
     *
     * @param out where it is written
     */
    public GridWorkbook(OutputStream out) {
        requireNonNull(out, "out is null");
        this.out = out;
    }

    /**
     * Writes a grid that was computed before.
     *
     * @param grid the report that was computed
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void write(Grid grid, OutputStream out) throws IOException {
        requireNonNull(grid, "grid is null");
        requireNonNull(out, "out is null");
        try (GridWorkbook workbook = new GridWorkbook(out)) {
            workbook.header(grid.header());
            grid.rows().forEach(workbook::row);
            workbook.notes(grid.notes());
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    // ---- the head

    @Override
    public void header(Grid.Header known) {
        head = known;
        negative = new boolean[head.columns().size()];
        decimals = new boolean[head.columns().size()];
        Row title = sheet.createRow(next++);
        text(title, 0, head.title(), style("title", s -> s.setFont(font(14, true, false))));
        if (head.choice().isPresent()) {
            Row choice = sheet.createRow(next);
            text(choice, 0, head.choice().get(), style("choice", s -> s.setFont(font(11, false, true))));
        }
        next++;
        if (head.columns().stream().anyMatch(c -> c.member().isPresent())) {
            line(Grid.Column::memberLabel, false);
        }
        boolean units =
                head.columns().stream().anyMatch(c -> !c.style().describe().isEmpty());
        line(Grid.Column::label, !units);
        if (units) {
            line(c -> c.role() == Grid.ColumnRole.STATUS ? "" : c.style().describe(), true);
        }
        int keys = Math.max(1, head.keys().size());
        for (int c = 0; c < keys + head.columns().size(); c++) {
            sheet.setColumnWidth(c, (c < keys ? LABEL_WIDTH : VALUE_WIDTH) * CHARACTER);
        }
        firstRow = next;
        sheet.createFreezePane(keys, next);
        // subtotals come above their rows
        sheet.setRowSumsBelow(false);
        sheet.setRepeatingRows(new CellRangeAddress(0, next - 1, -1, -1));
        sheet.setFitToPage(true);
        sheet.getPrintSetup().setLandscape(true);
        sheet.getPrintSetup().setFitHeight((short) 0);
    }

    private interface Words {
        String of(Grid.Column column);
    }

    private void line(Words words, boolean last) {
        Row row = sheet.createRow(next++);
        CellStyle style = style("head" + last, s -> {
            s.setFont(font(11, true, false));
            s.setWrapText(true);
            s.setVerticalAlignment(VerticalAlignment.BOTTOM);
            s.setAlignment(HorizontalAlignment.RIGHT);
            s.setBorderBottom(last ? BorderStyle.MEDIUM : BorderStyle.NONE);
        });
        CellStyle left = style("key" + last, s -> {
            s.cloneStyleFrom(style);
            s.setAlignment(HorizontalAlignment.LEFT);
        });
        for (int k = 0; k < Math.max(1, head.keys().size()); k++) {
            text(row, k, last && k < head.keys().size() ? head.keys().get(k).label() : "", left);
        }
        int lines = 1;
        for (int c = 0; c < head.columns().size(); c++) {
            String header = words.of(head.columns().get(c));
            text(row, Math.max(1, head.keys().size()) + c, header, style);
            lines = Math.max(lines, wrappedLines(header));
        }
        // programs that do not fit the height of a row to its text would show only the last line
        row.setHeightInPoints(lines * LINE_HEIGHT);
    }

    /** Returns how many lines the bold header takes in a column of values, broken between words. */
    private static int wrappedLines(String header) {
        int lines = 1;
        int used = 0;
        for (String word : header.split(" ")) {
            int width = TextWidth.of(word);
            if (used > 0 && used + 1 + width > HEADER_CHARACTERS) {
                lines++;
                used = 0;
            }
            // a word longer than a line is broken inside
            lines += Math.max(0, width - 1) / HEADER_CHARACTERS;
            used += (used > 0 ? 1 : 0) + (width - 1) % HEADER_CHARACTERS + 1;
        }
        return lines;
    }

    // ---- rows

    /** The first rows are held back until it is known which columns have decimals. */
    @Override
    public void row(Grid.Row row) {
        if (first == null) {
            write(row);
            return;
        }
        first.add(row);
        if (first.size() == WINDOW) {
            flush();
        }
    }

    private void flush() {
        if (first == null) {
            return;
        }
        for (Grid.Row row : first) {
            for (int c = 0; c < decimals.length; c++) {
                decimals[c] |= !whole(row.values().get(c));
            }
        }
        List<Grid.Row> held = first;
        first = null;
        held.forEach(this::write);
    }

    private static boolean whole(Value value) {
        return value.isBlank() || value.toDouble() == Math.rint(value.toDouble());
    }

    private void write(Grid.Row row) {
        if (next >= MOST_ROWS) {
            throw ModelException.of(
                    "a sheet holds %s rows and the report has more; write it to .csv or show less of it with --when, --where or"
                            + " coarser rows",
                    String.format(Locale.ROOT, "%,d", MOST_ROWS));
        }
        if (head.chart().isPresent() && charted.size() < MOST_CHARTED) {
            charted.add(row);
        }
        boolean leaf = row.kind() == Grid.RowKind.LEAF;
        boolean strong = row.kind() == Grid.RowKind.SUBTOTAL || row.kind() == Grid.RowKind.TOTAL;
        if (leaf) {
            leaf(next);
        }
        Row cells = sheet.createRow(next);
        int keys = Math.max(1, head.keys().size());
        for (int k = 0; k < row.labels().size(); k++) {
            label(cells, k, row.labels().get(k), k < row.labels().size() - 1, strong);
        }
        if (row.labels().isEmpty()) {
            text(cells, 0, "Total", style("strong", s -> s.setFont(font(11, true, false))));
        }
        for (int c = 0; c < head.columns().size(); c++) {
            negative[c] |= leaf
                    && !row.values().get(c).isBlank()
                    && row.values().get(c).toDouble() < 0;
            if (head.columns().get(c).role() == Grid.ColumnRole.STATUS) {
                int column = c;
                row.status(c).ifPresent(status -> status(cells, column, status, strong));
            } else {
                value(cells, c, row.values().get(c), strong);
            }
        }
        int level = Math.min(7, Math.max(0, row.labels().size() - 1));
        if (level > 0) {
            sheet.setRowOutlineLevel(next, level);
        }
        next++;
    }

    private void leaf(int row) {
        int last = leaves.size() - 1;
        if (last >= 0 && leaves.get(last).getLastRow() == row - 1) {
            leaves.get(last).setLastRow(row);
        } else {
            leaves.add(new CellRangeAddress(row, row, 0, 0));
        }
    }

    private void label(Row cells, int k, String label, boolean repeated, boolean strong) {
        Optional<LocalDate> date =
                head.keys().get(k).kind() == Grid.AxisKind.PERIOD ? EpochDays.parse(label) : Optional.empty();
        CellStyle style = style("label" + repeated + strong + date.isPresent(), s -> {
            s.setFont(font(11, strong && !repeated, repeated));
            s.setAlignment(HorizontalAlignment.LEFT);
            if (date.isPresent()) {
                s.setDataFormat(book.createDataFormat().getFormat("yyyy-mm-dd"));
            }
        });
        if (date.isPresent()) {
            Cell cell = cells.createCell(k);
            cell.setCellValue(date.get());
            cell.setCellStyle(style);
        } else {
            text(cells, k, label.isEmpty() ? "(blank)" : label, style);
        }
    }

    private void value(Row cells, int c, Value value, boolean strong) {
        if (value.isBlank()) {
            return;
        }
        Grid.Column column = head.columns().get(c);
        int at = Math.max(1, head.keys().size()) + c;
        CellStyle style = numberStyle(SheetFormat.of(column.style(), decimals[c] || !whole(value)), strong);
        if (value.isExact() && !fits(value.decimal())) {
            asText++;
            text(cells, at, value.toString(), style);
            return;
        }
        Cell cell = cells.createCell(at);
        cell.setCellValue(value.toDouble());
        cell.setCellStyle(style);
    }

    /** Statuses are numbers that the sheet shows as icons, the best the largest. */
    private void status(Row cells, int c, TargetStatus status, boolean strong) {
        Cell cell = cells.createCell(Math.max(1, head.keys().size()) + c);
        cell.setCellValue(
                switch (status) {
                    case MET -> 2;
                    case NEAR -> 1;
                    case MISSED -> 0;
                });
        cell.setCellStyle(numberStyle(STATUS_FORMAT, strong));
    }

    private CellStyle numberStyle(String format, boolean strong) {
        return style(format + strong, s -> {
            s.setFont(font(11, strong, false));
            s.setDataFormat(book.createDataFormat().getFormat(format));
            s.setAlignment(HorizontalAlignment.RIGHT);
        });
    }

    /** Spreadsheets keep fifteen digits. */
    private static boolean fits(BigDecimal number) {
        return number.stripTrailingZeros().precision() <= DIGITS;
    }

    // ---- the rest

    @Override
    public void notes(List<String> notes) {
        flush();
        try {
            conditions();
            boolean whole = next - firstRow <= MOST_CHARTED;
            if (head.chart().isPresent() && whole && !charted.isEmpty()) {
                Grid grid = new Grid(head, charted, List.of());
                SheetChart.add(
                        book.getXSSFWorkbook(), ChartData.of(grid, head.chart().get()));
            }
            List<String> all = new ArrayList<>(notes);
            if (head.chart().isPresent() && !whole) {
                all.add("There is no chart: it would have to leave out rows of so long a report.");
            }
            if (asText > 0) {
                all.add(Messages.quantity(asText, "value")
                        + " with more than 15 digits, which a spreadsheet would round: written as text.");
            }
            SXSSFSheet sentences = book.createSheet("notes");
            sentences.setFitToPage(true);
            sentences.setColumnWidth(0, 120 * CHARACTER);
            CellStyle wrapped = style("wrapped", s -> s.setWrapText(true));
            for (int i = 0; i < all.size(); i++) {
                text(sentences.createRow(i), 0, all.get(i), wrapped);
            }
            definitions();
            book.write(out);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Lets go of the rows that were put aside on disk. */
    @Override
    public void close() throws IOException {
        book.close();
    }

    private void conditions() {
        SheetConditionalFormatting conditions = sheet.getSheetConditionalFormatting();
        int keys = Math.max(1, head.keys().size());
        for (int c = 0; c < head.columns().size(); c++) {
            Grid.Column column = head.columns().get(c);
            int at = keys + c;
            if (column.bars() && !leaves.isEmpty()) {
                CellRangeAddress[] ranges = leaves.stream()
                        .map(r -> new CellRangeAddress(r.getFirstRow(), r.getLastRow(), at, at))
                        .toArray(CellRangeAddress[]::new);
                var rule = conditions.createConditionalFormattingRule(new XSSFColor(BAR_COLOUR, null));
                if (!negative[c]) {
                    // bars begin at zero, not at the smallest value
                    ConditionalFormattingThreshold least =
                            rule.getDataBarFormatting().getMinThreshold();
                    least.setRangeType(ConditionalFormattingThreshold.RangeType.NUMBER);
                    least.setValue(0d);
                }
                conditions.addConditionalFormatting(ranges, rule);
            }
            if (column.role() == Grid.ColumnRole.STATUS && next > firstRow) {
                var rule = conditions.createConditionalFormattingRule(
                        IconMultiStateFormatting.IconSet.GYR_3_SYMBOLS_CIRCLE);
                ConditionalFormattingThreshold[] steps =
                        rule.getMultiStateFormatting().getThresholds();
                for (int i = 0; i < steps.length; i++) {
                    steps[i].setRangeType(ConditionalFormattingThreshold.RangeType.NUMBER);
                    steps[i].setValue((double) i);
                }
                conditions.addConditionalFormatting(
                        new CellRangeAddress[] {new CellRangeAddress(firstRow, next - 1, at, at)}, rule);
            }
        }
    }

    private void definitions() {
        SXSSFSheet definitions = book.createSheet("definitions");
        definitions.setFitToPage(true);
        definitions.getPrintSetup().setLandscape(true);
        definitions.getPrintSetup().setFitHeight((short) 0);
        int[] widths = {28, 32, 16, 90, 16};
        String[] names = {"name", "label", "unit", "definition", "format"};
        CellStyle bold = style("bold", s -> s.setFont(font(11, true, false)));
        CellStyle plain = style("plain", s -> s.setWrapText(true));
        Row header = definitions.createRow(0);
        for (int i = 0; i < names.length; i++) {
            definitions.setColumnWidth(i, widths[i] * CHARACTER);
            text(header, i, names[i], bold);
        }
        definitions.createFreezePane(0, 1);
        List<String> done = new ArrayList<>();
        for (Grid.Column column : head.columns()) {
            String name = column.role() == Grid.ColumnRole.MEASURE
                    ? column.name()
                    : column.name() + "_" + column.role().name().toLowerCase(Locale.ROOT);
            if (done.contains(name)) {
                continue;
            }
            done.add(name);
            NumberStyle format = column.style();
            Row row = definitions.createRow(done.size());
            String[] values = {
                name,
                column.label(),
                format.describe(),
                column.definition(),
                format.format().orElse("")
            };
            for (int i = 0; i < values.length; i++) {
                text(row, i, values[i], plain);
            }
        }
    }

    // ---- cells

    /** Writes text as text, whatever it begins with. */
    private static void text(Row row, int at, String text, CellStyle style) {
        Cell cell = row.createCell(at);
        cell.setCellValue(text.length() > MOST_LETTERS ? text.substring(0, MOST_LETTERS - 1) + "…" : text);
        cell.setCellStyle(style);
    }

    private interface StyleSetter {
        void give(CellStyle style);
    }

    private CellStyle style(String name, StyleSetter format) {
        CellStyle known = styles.get(name);
        if (known == null) {
            known = book.createCellStyle();
            known.setFont(font(11, false, false));
            format.give(known);
            styles.put(name, known);
        }
        return known;
    }

    private final Map<String, Font> fonts = new HashMap<>();

    private Font font(int size, boolean bold, boolean quiet) {
        return fonts.computeIfAbsent(size + " " + bold + quiet, k -> {
            Font font = book.createFont();
            font.setFontName("Calibri");
            font.setFontHeightInPoints((short) size);
            font.setBold(bold);
            if (quiet) {
                font.setColor(IndexedColors.GREY_50_PERCENT.getIndex());
            }
            return font;
        });
    }
}
