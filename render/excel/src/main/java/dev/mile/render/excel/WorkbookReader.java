package dev.mile.render.excel;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.DataFormatter;
import org.apache.poi.ss.usermodel.DateUtil;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.xssf.usermodel.XSSFCell;
import org.apache.poi.xssf.usermodel.XSSFSheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.jspecify.annotations.Nullable;

/** Reads the first sheet of a workbook as texts: dates in ISO 8601, numbers in plain digits. */
public final class WorkbookReader {
    static {
        PoiLog.prepare();
    }

    private final DataFormatter formatter = new DataFormatter(Locale.ROOT);

    /** Whether it shows dates, by the number of a style, or by -1 less the column for cells without one. */
    private final Map<Long, Boolean> dateFormats = new HashMap<>();

    private WorkbookReader() {}

    /**
     * {@return the rows, the header first, all as wide as it}
     *
     * @param file the file
     */
    public static List<List<String>> read(Path file) {
        requireNonNull(file, "file is null");
        try (InputStream in = Files.newInputStream(file);
                XSSFWorkbook book = new XSSFWorkbook(in)) {
            XSSFSheet sheet = book.getSheetAt(0);
            WorkbookReader reader = new WorkbookReader();
            List<List<String>> rows = new ArrayList<>();
            int width = sheet.getRow(0) == null ? 0 : sheet.getRow(0).getLastCellNum();
            for (Row row : sheet) {
                List<String> values = new ArrayList<>();
                for (int c = 0; c < width; c++) {
                    values.add(reader.text((XSSFCell) row.getCell(c)));
                }
                rows.add(values);
            }
            return rows;
        } catch (IOException | RuntimeException e) {
            throw DataException.of("the workbook %s cannot be read: %s", file, e.getMessage())
                    .withCause(e);
        }
    }

    private String text(@Nullable XSSFCell cell) {
        if (cell == null) {
            return "";
        }
        CellType type = cell.getCellType();
        if (type == CellType.BLANK) {
            return "";
        }
        if (type != CellType.NUMERIC) {
            return formatter.formatCellValue(cell);
        }
        double number = cell.getNumericCellValue();
        if (DateUtil.isValidExcelDate(number) && hasDateFormat(cell)) {
            String text = cell.getLocalDateTimeCellValue().toString();
            return text.endsWith("T00:00") ? text.substring(0, 10) : text;
        }
        return BigDecimal.valueOf(number).stripTrailingZeros().toPlainString();
    }

    /** The library looks up the style of a cell without one among those of all columns, each time. */
    private boolean hasDateFormat(XSSFCell cell) {
        long style = cell.getCTCell().isSetS() ? cell.getCTCell().getS() : -1 - cell.getColumnIndex();
        return dateFormats.computeIfAbsent(style, s -> {
            CellStyle known = cell.getCellStyle();
            return DateUtil.isADateFormat(known.getDataFormat(), known.getDataFormatString());
        });
    }
}
