package dev.mile.render.excel;

import static dev.mile.render.excel.WorkbookStyles.text;

import dev.mile.ModelException;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.render.layout.ChartPicture;
import dev.mile.render.layout.ColumnLimit;
import dev.mile.render.layout.ReadLabels;
import dev.mile.render.layout.ShownColumns;
import dev.mile.render.layout.TextWidth;
import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.IntStream;
import org.apache.poi.ss.usermodel.BorderStyle;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.ConditionalFormattingThreshold;
import org.apache.poi.ss.usermodel.HorizontalAlignment;
import org.apache.poi.ss.usermodel.IconMultiStateFormatting;
import org.apache.poi.ss.usermodel.Name;
import org.apache.poi.ss.usermodel.PrintSetup;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.SheetConditionalFormatting;
import org.apache.poi.ss.usermodel.VerticalAlignment;
import org.apache.poi.ss.util.CellRangeAddress;
import org.apache.poi.ss.util.CellReference;
import org.apache.poi.xssf.streaming.SXSSFRow;
import org.apache.poi.xssf.streaming.SXSSFSheet;
import org.apache.poi.xssf.streaming.SXSSFWorkbook;
import org.apache.poi.xssf.usermodel.XSSFColor;
import org.jspecify.annotations.Nullable;

/**
 * One report on a sheet: typed values in outline groups that are closed below months, data bars and status icons as conditional
 * formats, a name for the cell of each total, titles that are repeated on every page. Rows are written as they come.
 */
final class ReportSheet implements GridSink {
    /** How many rows are held in memory before they go to a file. */
    static final int WINDOW = 500;

    private static final int MOST_ROWS = 1_048_576;
    private static final int MOST_CHARTED = 20_000;
    private static final int DIGITS = 15;

    /** Styles of a value of a column: with decimals or without, strong or not. */
    private static final int STYLES = 4;

    private static final int CHARACTER = 256;
    private static final int LABEL_WIDTH = 18;
    private static final int VALUE_WIDTH = 15;

    /** How many bold characters fit into a line of a header, and how high a line is. */
    private static final int HEADER_CHARACTERS = VALUE_WIDTH - 2;

    private static final float LINE_HEIGHT = 15;

    private static final byte[] BAR_COLOUR = {(byte) 0x9C, (byte) 0xC8, (byte) 0xE6};

    /** Met is 2, near 1, missed 0, so that icons rise with it; people read the word. */
    private static final String STATUS_FORMAT = "[=2]\"met\";[=1]\"near\";\"missed\"";

    private final SXSSFWorkbook book;
    private final SXSSFSheet sheet;
    private final WorkbookStyles styles;
    private final List<Grid.Row> charted = new ArrayList<>();
    private final List<CellRangeAddress> leaves = new ArrayList<>();
    private final Set<String> names = new HashSet<>();
    private final List<String> notes = new ArrayList<>();
    private Grid.Header head;
    private List<Integer> shown = List.of();

    /** The column of the sheet of each column of the report that is shown. */
    private int[] places = {};

    private int months = Integer.MAX_VALUE;
    private int next;
    private int firstRow;
    private int asText;
    private boolean[] negative = {};
    private boolean[] decimals = {};

    private @Nullable CellStyle[] numberStyles = {};
    private List<Grid.Row> first = new ArrayList<>();

    /** Returns a writer of a sheet that is added to the book. */
    ReportSheet(SXSSFWorkbook book, WorkbookStyles styles, String name) {
        this.book = book;
        this.styles = styles;
        this.sheet = book.createSheet(name);
    }

    private CellStyle style(String name, Consumer<CellStyle> make) {
        return styles.style(name, make);
    }

    // ---- the head

    @Override
    public void header(Grid.Header known) {
        ColumnLimit.require(known.columns().size(), ColumnLimit.OF_A_SHEET, "a sheet");
        head = known;
        shown = ShownColumns.of(head);
        places = new int[head.columns().size()];
        for (int s = 0; s < shown.size(); s++) {
            places[shown.get(s)] = at(s);
        }
        months = IntStream.range(0, head.keys().size())
                .filter(k -> head.keys().get(k).name().matches("(.*[.])?month"))
                .findFirst()
                .orElse(Integer.MAX_VALUE);
        negative = new boolean[head.columns().size()];
        decimals = new boolean[head.columns().size()];
        numberStyles = new CellStyle[head.columns().size() * STYLES];
        Row title = sheet.createRow(next++);
        text(title, 0, head.title(), styles.title());
        if (head.choice().isPresent()) {
            Row choice = sheet.createRow(next);
            text(choice, 0, head.choice().get(), styles.quiet());
        }
        next++;
        ReadLabels read = ReadLabels.of(head);
        if (columns().stream().anyMatch(c -> c.member().isPresent())) {
            line(read::member, false);
        }
        boolean units = columns().stream().anyMatch(c -> !c.style().describe().isEmpty());
        line(Grid.Column::label, !units);
        if (units) {
            line(c -> c.role() == Grid.ColumnRole.STATUS ? "" : c.style().describe(), true);
        }
        int keys = at(0);
        for (int c = 0; c < at(shown.size()); c++) {
            sheet.setColumnWidth(c, (c < keys ? LABEL_WIDTH : VALUE_WIDTH) * CHARACTER);
        }
        firstRow = next;
        sheet.createFreezePane(keys, next);
        // subtotals come above their rows
        sheet.setRowSumsBelow(false);
        sheet.setRepeatingRows(new CellRangeAddress(0, next - 1, -1, -1));
        sheet.setRepeatingColumns(new CellRangeAddress(-1, -1, 0, keys - 1));
        sheet.setFitToPage(true);
        sheet.getPrintSetup().setLandscape(true);
        sheet.getPrintSetup().setPaperSize(PrintSetup.A4_PAPERSIZE);
        sheet.getPrintSetup().setFitHeight((short) 0);
        sheet.getFooter().setLeft(head.title().replace("&", "&&"));
        sheet.getFooter().setRight("&P / &N");
    }

    /** Returns the columns that the sheet shows. */
    private List<Grid.Column> columns() {
        return shown.stream().map(head.columns()::get).toList();
    }

    /** Returns the column of the sheet of one of those that it shows. */
    private int at(int shownColumn) {
        return Math.max(1, head.keys().size()) + shownColumn;
    }

    private void line(Function<Grid.Column, String> words, boolean last) {
        Row row = sheet.createRow(next++);
        CellStyle style = style("head" + last, s -> {
            s.setFont(styles.font(11, true, false));
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
        for (int c = 0; c < shown.size(); c++) {
            String header = words.apply(columns().get(c));
            text(row, at(c), header, style);
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
        SXSSFRow cells = sheet.createRow(next);
        for (int k = 0; k < row.labels().size(); k++) {
            label(cells, k, row.labels().get(k), k < row.labels().size() - 1, strong);
        }
        if (row.labels().isEmpty()) {
            text(cells, 0, "Total", styles.bold());
        }
        for (int c : shown) {
            negative[c] = negative[c]
                    || leaf
                            && !row.values().get(c).isBlank()
                            && row.values().get(c).toDouble() < 0;
            if (head.columns().get(c).role() == Grid.ColumnRole.STATUS) {
                int column = c;
                row.status(c).ifPresent(status -> status(cells, column, status, strong));
            } else {
                value(cells, c, row.values().get(c), strong);
            }
            if (row.kind() == Grid.RowKind.TOTAL) {
                name(c);
            }
        }
        int level = Math.min(7, Math.max(0, row.labels().size() - 1));
        if (level > 0) {
            sheet.setRowOutlineLevel(next, level);
        }
        if (row.labels().size() - 1 > months) {
            cells.setHidden(true);
        } else if (row.labels().size() - 1 == months && !leaf) {
            cells.setCollapsed(true);
        }
        next++;
    }

    /** Names the cell of a total: {@code total_sales}, for formulas that should not depend on where it stands. */
    private void name(int c) {
        Grid.Column column = head.columns().get(c);
        if (column.role() == Grid.ColumnRole.STATUS) {
            return;
        }
        String text = ("total_" + column.header()).replaceAll("[^A-Za-z0-9_.]", "_");
        String free = text;
        for (int n = 2; !names.add(free.toLowerCase(Locale.ROOT)); n++) {
            free = text + "_" + n;
        }
        Name name = book.createName();
        name.setSheetIndex(book.getSheetIndex(sheet));
        name.setNameName(free);
        name.setRefersToFormula(new CellReference(sheet.getSheetName(), next, places[c], true, true).formatAsString());
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
            s.setFont(styles.font(11, strong && !repeated, repeated));
            s.setAlignment(HorizontalAlignment.LEFT);
            if (date.isPresent()) {
                s.setDataFormat(styles.format("yyyy-mm-dd"));
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
        int at = places[c];
        CellStyle style = numberStyle(c, column, decimals[c] || !whole(value), strong);
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
        Cell cell = cells.createCell(places[c]);
        cell.setCellValue(
                switch (status) {
                    case MET -> 2;
                    case NEAR -> 1;
                    case MISSED -> 0;
                });
        cell.setCellStyle(numberStyle(STATUS_FORMAT, strong));
    }

    /** Returns the style of a value of a column, of which there are four. */
    private CellStyle numberStyle(int c, Grid.Column column, boolean withDecimals, boolean strong) {
        int at = c * STYLES + (withDecimals ? 2 : 0) + (strong ? 1 : 0);
        if (numberStyles[at] == null) {
            numberStyles[at] = numberStyle(SheetFormat.of(column.style(), withDecimals), strong);
        }
        return numberStyles[at];
    }

    private CellStyle numberStyle(String format, boolean strong) {
        return style(format + strong, s -> {
            s.setFont(styles.font(11, strong, false));
            s.setDataFormat(styles.format(format));
            s.setAlignment(HorizontalAlignment.RIGHT);
        });
    }

    /** Spreadsheets keep fifteen digits. */
    private static boolean fits(BigDecimal number) {
        return number.precision() <= DIGITS || number.stripTrailingZeros().precision() <= DIGITS;
    }

    // ---- the rest

    @Override
    public void notes(List<String> said) {
        flush();
        conditions();
        notes.addAll(said);
        if (head.chart().isPresent() && !isWhole()) {
            notes.add("There is no chart: it would have to leave out rows of so long a report.");
        }
        if (asText > 0) {
            notes.add(Messages.quantity(asText, "value")
                    + " with more than 15 digits, which a spreadsheet would round: written as text.");
        }
    }

    private boolean isWhole() {
        return next - firstRow <= MOST_CHARTED;
    }

    /** Returns what a reader must know, of the report and of the sheet. */
    List<String> notes() {
        return notes;
    }

    /** Adds a sheet with the chart of the report, if it has one that can be drawn. */
    void addChart(String name) {
        if (head.chart().isPresent() && isWhole() && !charted.isEmpty()) {
            Grid grid = new Grid(head, charted, List.of());
            int[] columns = IntStream.range(0, head.columns().size())
                    .map(c -> shown.contains(c) ? places[c] : -1)
                    .toArray();
            SheetChart.add(
                    book.getXSSFWorkbook(),
                    name,
                    ChartPicture.of(grid),
                    new SheetChart.ReportCells(sheet.getSheetName(), firstRow, columns));
        }
    }

    private void conditions() {
        SheetConditionalFormatting conditions = sheet.getSheetConditionalFormatting();
        for (int c : shown) {
            Grid.Column column = head.columns().get(c);
            int at = places[c];
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
}
