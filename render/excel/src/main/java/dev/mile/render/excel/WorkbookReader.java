package dev.mile.render.excel;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.DataFormatter;
import org.apache.poi.ss.usermodel.DateUtil;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.ss.usermodel.Workbook;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;

/** Reads the first sheet of a workbook as texts: dates in ISO 8601, numbers in plain digits. */
public final class WorkbookReader {
    static {
        PoiLog.prepare();
    }

    private WorkbookReader() {}

    /**
     * {@return the rows, the header first, all as wide as it}
     *
     * @param file the file
     */
    public static List<List<String>> read(Path file) {
        requireNonNull(file, "file is null");
        try (InputStream in = Files.newInputStream(file);
                Workbook book = new XSSFWorkbook(in)) {
            Sheet sheet = book.getSheetAt(0);
            List<List<String>> rows = new ArrayList<>();
            int width = sheet.getRow(0) == null ? 0 : sheet.getRow(0).getLastCellNum();
            for (Row row : sheet) {
                List<String> values = new ArrayList<>();
                for (int c = 0; c < width; c++) {
                    values.add(text(row.getCell(c)));
                }
                rows.add(values);
            }
            return rows;
        } catch (IOException | RuntimeException e) {
            throw DataException.of("the workbook %s cannot be read: %s", file, e.getMessage())
                    .withCause(e);
        }
    }

    private static String text(Cell cell) {
        if (cell == null || cell.getCellType() == CellType.BLANK) {
            return "";
        }
        if (cell.getCellType() == CellType.NUMERIC && DateUtil.isCellDateFormatted(cell)) {
            String text = cell.getLocalDateTimeCellValue().toString();
            return text.endsWith("T00:00") ? text.substring(0, 10) : text;
        }
        if (cell.getCellType() == CellType.NUMERIC) {
            return BigDecimal.valueOf(cell.getNumericCellValue())
                    .stripTrailingZeros()
                    .toPlainString();
        }
        return new DataFormatter(Locale.ROOT).formatCellValue(cell);
    }
}
