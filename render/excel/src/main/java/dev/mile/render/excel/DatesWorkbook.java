package dev.mile.render.excel;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.dimension.DateColumn;
import dev.mile.render.text.DatesTable;
import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.time.LocalDate;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.Font;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.util.CellRangeAddress;
import org.apache.poi.xssf.streaming.SXSSFSheet;
import org.apache.poi.xssf.streaming.SXSSFWorkbook;

/** Writes a date dimension as a workbook: typed dates and numbers, a header that stays, filters. */
public final class DatesWorkbook {
    static {
        PoiLog.prepare();
    }

    private static final int MOST_ROWS = 1_048_575;
    private static final int WINDOW = 200;
    private static final int CHARACTER = 256;

    private DatesWorkbook() {}

    /**
     * Writes the workbook.
     *
     * @param table the table
     * @param out where it is written
     * @throws MileException if it has more days than a sheet has rows
     * @throws IOException if it cannot be written
     */
    public static void write(DatesTable table, OutputStream out) throws IOException {
        requireNonNull(table, "table is null");
        requireNonNull(out, "out is null");
        if (table.days().length() > MOST_ROWS) {
            throw ModelException.of(
                    "a sheet holds %,d rows; choose fewer days with --from and --to, or write CSV", MOST_ROWS);
        }
        try (SXSSFWorkbook book = new StreamedWorkbook(WINDOW)) {
            SXSSFSheet sheet = book.createSheet("dates");
            // cells without a style of their own would be given that of their column, which is searched for among all
            CellStyle plain = book.getCellStyleAt(0);
            CellStyle date = book.createCellStyle();
            date.setDataFormat(book.createDataFormat().getFormat("yyyy-mm-dd"));
            header(book, sheet, table);
            for (int day = table.days().firstEpochDay(); day <= table.days().lastEpochDay(); day++) {
                Row row = sheet.createRow(day - table.days().firstEpochDay() + 1);
                for (int c = 0; c < table.columns().size(); c++) {
                    fill(row, c, table.columns().get(c).value(day), plain, date);
                }
            }
            sheet.createFreezePane(1, 1);
            sheet.setAutoFilter(new CellRangeAddress(
                    0, table.days().length(), 0, table.columns().size() - 1));
            book.write(out);
        }
    }

    private static void header(SXSSFWorkbook book, SXSSFSheet sheet, DatesTable table) {
        Font bold = book.createFont();
        bold.setBold(true);
        bold.setFontName("Calibri");
        bold.setFontHeightInPoints((short) 11);
        CellStyle style = book.createCellStyle();
        style.setFont(bold);
        Row header = sheet.createRow(0);
        for (int c = 0; c < table.columns().size(); c++) {
            DateColumn column = table.columns().get(c);
            Cell cell = header.createCell(c);
            cell.setCellValue(column.name());
            cell.setCellStyle(style);
            sheet.setColumnWidth(c, Math.min(40, Math.max(12, column.name().length() + 4)) * CHARACTER);
            sheet.setColumnHidden(c, !column.visible());
        }
    }

    private static void fill(Row row, int c, Object value, CellStyle plain, CellStyle date) {
        if (value == null) {
            return;
        }
        Cell cell = row.createCell(c);
        cell.setCellStyle(value instanceof LocalDate ? date : plain);
        if (value instanceof LocalDate d) {
            cell.setCellValue(d);
        } else if (value instanceof Integer i) {
            cell.setCellValue(i);
        } else if (value instanceof BigDecimal n) {
            cell.setCellValue(n.doubleValue());
        } else if (value instanceof Boolean b) {
            cell.setCellValue(b);
        } else {
            cell.setCellValue(value.toString());
        }
    }
}
