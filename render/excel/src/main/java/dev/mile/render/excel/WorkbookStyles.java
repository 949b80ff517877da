package dev.mile.render.excel;

import java.util.HashMap;
import java.util.Map;
import java.util.function.Consumer;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.Font;
import org.apache.poi.ss.usermodel.IndexedColors;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.Workbook;

/** The styles and fonts of a workbook, each made once, since a workbook holds few. */
final class WorkbookStyles {
    /** What a cell holds at most. */
    private static final int MOST_LETTERS = 32_767;

    private final Workbook book;
    private final Map<String, CellStyle> styles = new HashMap<>();
    private final Map<String, Font> fonts = new HashMap<>();

    WorkbookStyles(Workbook book) {
        this.book = book;
    }

    /** Returns the style of a name, made by the function where it is not known yet. */
    CellStyle style(String name, Consumer<CellStyle> make) {
        CellStyle known = styles.get(name);
        if (known == null) {
            known = book.createCellStyle();
            known.setFont(font(11, false, false));
            make.accept(known);
            styles.put(name, known);
        }
        return known;
    }

    Font font(int size, boolean bold, boolean quiet) {
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

    short format(String pattern) {
        return book.createDataFormat().getFormat(pattern);
    }

    CellStyle title() {
        return style("title", s -> s.setFont(font(14, true, false)));
    }

    CellStyle quiet() {
        return style("quiet", s -> s.setFont(font(11, false, true)));
    }

    CellStyle plain() {
        return style("plain", s -> {});
    }

    CellStyle bold() {
        return style("bold", s -> s.setFont(font(11, true, false)));
    }

    CellStyle wrapped() {
        return style("wrapped", s -> s.setWrapText(true));
    }

    /** Writes text as text, whatever it begins with. */
    static Cell text(Row row, int at, String text, CellStyle style) {
        Cell cell = row.createCell(at);
        cell.setCellValue(text.length() > MOST_LETTERS ? text.substring(0, MOST_LETTERS - 1) + "…" : text);
        cell.setCellStyle(style);
        return cell;
    }
}
