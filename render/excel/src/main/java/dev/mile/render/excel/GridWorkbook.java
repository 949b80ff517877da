package dev.mile.render.excel;

import static dev.mile.render.excel.WorkbookStyles.text;
import static java.util.Objects.requireNonNull;

import dev.mile.internal.LocalFormat;
import dev.mile.measure.NumberStyle;
import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.apache.poi.common.usermodel.HyperlinkType;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.Font;
import org.apache.poi.ss.usermodel.Hyperlink;
import org.apache.poi.ss.usermodel.IndexedColors;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.util.WorkbookUtil;
import org.apache.poi.xssf.streaming.SXSSFSheet;
import org.apache.poi.xssf.streaming.SXSSFWorkbook;

/**
 * Writes reports as a workbook: a sheet each with typed values in outline groups, their charts, one sheet of notes, and one that
 * says what each measure is. A single report is written as its rows come; several get a sheet of contents with links.
 */
public final class GridWorkbook implements GridSink, AutoCloseable {
    static {
        PoiLog.prepare();
    }

    private static final int CHARACTER = 256;

    private final OutputStream out;
    private final SXSSFWorkbook book = new StreamedWorkbook(ReportSheet.WINDOW);
    private final WorkbookStyles styles = new WorkbookStyles(book);
    private final ReportSheet report = new ReportSheet(book, styles, "report");
    private Grid.Header head;

    /**
     * Returns a writer of one report; it writes when the notes have come.
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

    @Override
    public void header(Grid.Header known) {
        head = known;
        report.header(known);
    }

    @Override
    public void row(Grid.Row row) {
        report.row(row);
    }

    @Override
    public void notes(List<String> notes) {
        report.notes(notes);
        report.addChart("chart");
        SXSSFSheet sentences = sentences(book, "notes");
        for (int i = 0; i < report.notes().size(); i++) {
            text(sentences.createRow(i), 0, report.notes().get(i), styles.wrapped());
        }
        definitions(book, styles, "definitions", List.of(head));
        try {
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

    // ---- several reports

    private static final String CONTENTS = "Contents";
    private static final String NOTES = "Notes";
    private static final String DEFINITIONS = "Definitions";

    /**
     * Writes several reports: contents with links, a sheet each with its chart behind it, notes, and what each measure is.
     *
     * @param title what people read above the contents
     * @param grids the reports that were computed
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void write(String title, List<Grid> grids, OutputStream out) throws IOException {
        requireNonNull(title, "title is null");
        requireNonNull(grids, "grids is null");
        requireNonNull(out, "out is null");
        try (SXSSFWorkbook book = new StreamedWorkbook(ReportSheet.WINDOW)) {
            WorkbookStyles styles = new WorkbookStyles(book);
            SXSSFSheet contents = book.createSheet(CONTENTS);
            Set<String> taken = new HashSet<>();
            List.of(CONTENTS, NOTES, DEFINITIONS, "history").forEach(name -> taken.add(name.toLowerCase(Locale.ROOT)));
            List<String> names = new ArrayList<>();
            List<ReportSheet> sheets = new ArrayList<>();
            for (Grid grid : grids) {
                String name = sheetName(grid.title(), taken);
                ReportSheet sheet = new ReportSheet(book, styles, name);
                sheet.header(grid.header());
                grid.rows().forEach(sheet::row);
                sheet.notes(grid.notes());
                sheet.addChart(sheetName(grid.title() + " chart", taken));
                names.add(name);
                sheets.add(sheet);
            }
            contents(contents, styles, title, grids, names);
            packNotes(book, styles, grids, sheets);
            definitions(
                    book, styles, DEFINITIONS, grids.stream().map(Grid::header).toList());
            book.setActiveSheet(0);
            book.write(out);
        }
    }

    /** Returns a legal name of a sheet that no other has, letters of either case alike. */
    private static String sheetName(String title, Set<String> taken) {
        // programs split references at commas, quoted or not
        String plain = title.replace(",", "").replace("'", "’").strip();
        String safe = WorkbookUtil.createSafeSheetName(plain, '-').strip();
        String name = safe;
        for (int n = 2; !taken.add(name.toLowerCase(Locale.ROOT)); n++) {
            String number = " " + n;
            name = safe.substring(0, Math.min(safe.length(), MOST_NAME - number.length()))
                            .strip()
                    + number;
        }
        return name;
    }

    private static final int MOST_NAME = 31;

    private static void contents(
            SXSSFSheet sheet, WorkbookStyles styles, String title, List<Grid> grids, List<String> names) {
        sheet.setFitToPage(true);
        sheet.setColumnWidth(0, 52 * CHARACTER);
        sheet.setColumnWidth(1, 90 * CHARACTER);
        sheet.getPrintSetup().setLandscape(true);
        sheet.setColumnWidth(2, 12 * CHARACTER);
        text(sheet.createRow(0), 0, title, styles.title());
        grids.get(0)
                .header()
                .asOf()
                .ifPresent(day -> text(
                        sheet.createRow(1),
                        0,
                        "Actuals as of "
                                + LocalFormat.of(grids.get(0).header().locale()).date(day),
                        styles.quiet()));
        Row header = sheet.createRow(3);
        text(header, 0, "Report", styles.bold());
        text(header, 1, "Days and rows", styles.bold());
        text(header, 2, "Lines", styles.bold());
        int next = 4;
        for (int i = 0; i < names.size(); i++) {
            Row row = sheet.createRow(next++);
            link(sheet, styles, row, grids.get(i).title(), names.get(i));
            text(row, 1, grids.get(i).choice().orElse("all"), styles.plain());
            Cell lines = row.createCell(2);
            lines.setCellValue(grids.get(i).rows().size());
            lines.setCellStyle(styles.plain());
        }
        next++;
        link(sheet, styles, sheet.createRow(next++), "Notes", NOTES);
        link(sheet, styles, sheet.createRow(next), "What each measure is", DEFINITIONS);
    }

    private static void link(SXSSFSheet sheet, WorkbookStyles styles, Row row, String text, String name) {
        CellStyle blue = styles.style("link", s -> {
            s.setWrapText(true);
            Font font = sheet.getWorkbook().createFont();
            font.setFontName("Calibri");
            font.setFontHeightInPoints((short) 11);
            font.setUnderline(Font.U_SINGLE);
            font.setColor(IndexedColors.BLUE.getIndex());
            s.setFont(font);
        });
        Cell cell = text(row, 0, text, blue);
        Hyperlink link = sheet.getWorkbook().getCreationHelper().createHyperlink(HyperlinkType.DOCUMENT);
        link.setAddress("'" + name.replace("'", "''") + "'!A1");
        cell.setHyperlink(link);
    }

    private static void packNotes(
            SXSSFWorkbook book, WorkbookStyles styles, List<Grid> grids, List<ReportSheet> sheets) {
        SXSSFSheet sentences = sentences(book, NOTES);
        int next = 0;
        for (int i = 0; i < sheets.size(); i++) {
            text(sentences.createRow(next++), 0, grids.get(i).title(), styles.bold());
            for (String note : sheets.get(i).notes()) {
                text(sentences.createRow(next++), 0, note, styles.wrapped());
            }
            next++;
        }
    }

    private static SXSSFSheet sentences(SXSSFWorkbook book, String name) {
        SXSSFSheet sentences = book.createSheet(name);
        sentences.setFitToPage(true);
        sentences.getPrintSetup().setFitHeight((short) 0);
        sentences.setColumnWidth(0, 120 * CHARACTER);
        return sentences;
    }

    // ---- what each measure is

    private static void definitions(SXSSFWorkbook book, WorkbookStyles styles, String sheet, List<Grid.Header> heads) {
        SXSSFSheet definitions = book.createSheet(sheet);
        definitions.setFitToPage(true);
        definitions.getPrintSetup().setLandscape(true);
        definitions.getPrintSetup().setFitHeight((short) 0);
        int[] widths = {28, 32, 16, 90, 16};
        String[] names = {"name", "label", "unit", "definition", "format"};
        Row header = definitions.createRow(0);
        for (int i = 0; i < names.length; i++) {
            definitions.setColumnWidth(i, widths[i] * CHARACTER);
            text(header, i, names[i], styles.bold());
        }
        definitions.createFreezePane(0, 1);
        List<String> done = new ArrayList<>();
        for (Grid.Column column :
                heads.stream().flatMap(head -> head.columns().stream()).toList()) {
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
                text(row, i, values[i], styles.wrapped());
            }
        }
    }
}
