package dev.mile.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.engine.FileFormat;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import org.apache.poi.poifs.crypt.EncryptionInfo;
import org.apache.poi.poifs.crypt.EncryptionMode;
import org.apache.poi.poifs.filesystem.POIFSFileSystem;
import org.apache.poi.ss.usermodel.CellStyle;
import org.apache.poi.ss.usermodel.FormulaError;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.ss.usermodel.SheetVisibility;
import org.apache.poi.ss.util.CellRangeAddress;
import org.apache.poi.xssf.usermodel.XSSFCell;
import org.apache.poi.xssf.usermodel.XSSFSheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class WorkbookTest {
    @TempDir
    Path folder;

    private Path write(Consumer<XSSFWorkbook> content) throws IOException {
        Path file = folder.resolve("w.xlsx");
        try (XSSFWorkbook workbook = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(file)) {
            content.accept(workbook);
            workbook.write(out);
        }
        return file;
    }

    private static void row(XSSFSheet sheet, int number, Object... values) {
        Row row = sheet.createRow(number - 1);
        for (int c = 0; c < values.length; c++) {
            if (values[c] instanceof Number n) {
                row.createCell(c).setCellValue(n.doubleValue());
            } else if (values[c] instanceof Boolean b) {
                row.createCell(c).setCellValue(b);
            } else if (values[c] != null) {
                row.createCell(c).setCellValue(values[c].toString());
            }
        }
    }

    private static CellStyle style(XSSFWorkbook workbook, String pattern) {
        CellStyle style = workbook.createCellStyle();
        style.setDataFormat(workbook.createDataFormat().getFormat(pattern));
        return style;
    }

    /** Changes the text of a part of a workbook. */
    private static void change(Path file, String part, UnaryOperator<String> change) throws IOException {
        try (FileSystem parts = FileSystems.newFileSystem(file)) {
            Path path = parts.getPath(part);
            String before = Files.readString(path);
            Files.writeString(path, change.apply(before));
            assertThat(Files.readString(path)).isNotEqualTo(before);
        }
    }

    @Test
    void numbersAreWhatTheSheetShows() throws IOException {
        Path file = write(workbook -> {
            XSSFSheet sheet = workbook.createSheet("Orders");
            row(sheet, 1, "a", "b", "c", "d", "e");
            row(sheet, 2, 0.1 + 0.2, 1_234.5, 12_345_678_901_234_568.0, -1e-7, 1_000_000);
            row(sheet, 3, 1.005, 0, 7, 0.125, true);
            sheet.getRow(2).getCell(3).setCellStyle(style(workbook, "0.0%"));
            sheet.getRow(2).getCell(2).setCellStyle(style(workbook, "[h]:mm"));
        });
        assertThat(ReadRows.of(file, FileFormat.PLAIN))
                .containsExactly(
                        "names [a, b, c, d, e]",
                        "w.xlsx, Orders!A2 [<0.3>, <1234.5>, <12345678901234600>, <-0.0000001>, <1000000>]",
                        "w.xlsx, Orders!A3 [<1.005>, <0>, <7>, <0.125>, <true>]");
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void datesAreThoseOfEitherSystem(boolean from1904) throws IOException {
        Path file = write(workbook -> {
            workbook.getCTWorkbook().addNewWorkbookPr().setDate1904(from1904);
            XSSFSheet sheet = workbook.createSheet("Orders");
            row(sheet, 1, "on", "at");
            XSSFCell on = sheet.createRow(1).createCell(0);
            on.setCellValue(LocalDate.parse("2026-02-28"));
            on.setCellStyle(style(workbook, "dd.mm.yyyy"));
            XSSFCell at = sheet.getRow(1).createCell(1);
            at.setCellValue(LocalDateTime.parse("2026-12-31T23:59:59"));
            at.setCellStyle(style(workbook, "m/d/yy h:mm"));
            XSSFCell time = sheet.createRow(2).createCell(1);
            time.setCellValue(0.25);
            time.setCellStyle(style(workbook, "hh:mm"));
        });
        assertThat(ReadRows.of(file, FileFormat.PLAIN))
                .containsExactly(
                        "names [on, at]",
                        "w.xlsx, Orders!A2 [<2026-02-28>, <2026-12-31T23:59:59>]",
                        "w.xlsx, Orders!A3 [, <06:00:00>]");
    }

    /** Formulas have their kept values; errors, and formulas that nobody computed, are texts that are no numbers. */
    @Test
    void formulasAndErrorsAreSaidAsTheyStand() throws IOException {
        Path file = write(workbook -> {
            XSSFSheet sheet = workbook.createSheet("Orders");
            row(sheet, 1, "sum", "text", "error", "open");
            Row row = sheet.createRow(1);
            row.createCell(0).setCellFormula("1+2");
            row.createCell(1).setCellFormula("\"a\"&\"b\"");
            row.createCell(2).setCellErrorValue(FormulaError.DIV0.getCode());
            workbook.getCreationHelper().createFormulaEvaluator().evaluateAll();
            row.createCell(3).setCellFormula("1+2");
        });
        assertThat(ReadRows.of(file, FileFormat.PLAIN))
                .containsExactly(
                        "names [sum, text, error, open]",
                        "w.xlsx, Orders!A2 [<3>, ab, #DIV/0!, a formula without a stored value]");
    }

    @Test
    void tablesAreFoundBelowTitlesWithMergedHiddenAndEmptyRows() throws IOException {
        Path file = write(workbook -> {
            workbook.createSheet("Notes");
            workbook.setSheetVisibility(0, SheetVisibility.HIDDEN);
            XSSFSheet sheet = workbook.createSheet("Orders & returns");
            row(sheet, 2, "Report");
            row(sheet, 4, "shop", null, "net");
            row(sheet, 6, "S1", "web", 5);
            row(sheet, 7, null, "counter", null, "checked by Ann");
            row(sheet, 9, null, "phone", 3);
            row(sheet, 10, "S2", "web", 7);
            row(sheet, 11, " Total ", null, 15);
            row(sheet, 12, "printed");
            sheet.addMergedRegion(CellRangeAddress.valueOf("A6:A9"));
            sheet.addMergedRegion(CellRangeAddress.valueOf("C6:C7"));
            sheet.addMergedRegion(CellRangeAddress.valueOf("A2:C2"));
            sheet.getRow(9).setZeroHeight(true);
            sheet.setColumnHidden(1, true);
        });
        assertThat(ReadRows.of(file, FileFormat.PLAIN.withHeader(4).withUntil("Total")))
                .containsExactly(
                        "names [shop, column 2, net]",
                        "w.xlsx, Orders & returns!A6 [S1, web, <5>]",
                        "w.xlsx, Orders & returns!A7 [S1, counter, ]",
                        "w.xlsx, Orders & returns!A9 [S1, phone, <3>]",
                        "w.xlsx, Orders & returns!A10 [S2, web, <7>]",
                        "2 after the end");
        assertThatThrownBy(() -> ReadRows.of(file, FileFormat.PLAIN.withSheet("Order & returns")))
                .hasMessage(
                        "`sheet` is 'Order & returns', which w.xlsx lacks; did you mean 'Orders & returns'?; its sheets are"
                                + " Notes, Orders & returns");
        assertThatThrownBy(
                        () -> ReadRows.of(file, FileFormat.PLAIN.withHeader(4).withUntil("Sum")))
                .hasMessageStartingWith("`until: Sum` never comes in w.xlsx");
        assertThatThrownBy(() -> ReadRows.of(file, FileFormat.PLAIN.withSheet("Notes")))
                .hasMessage("the file w.xlsx is empty; expected a header and rows");
        assertThatThrownBy(() -> ReadRows.of(file, FileFormat.PLAIN.withEncoding("latin1")))
                .hasMessage("`encoding` does not apply to w.xlsx, which is a workbook; remove it");
    }

    @Test
    void columnsOfAWorkbookBecomeRowsToo() throws IOException {
        Path file = write(workbook -> {
            XSSFSheet sheet = workbook.createSheet("Budget");
            row(sheet, 1, "shop", "Jan", "Feb", "Mar");
            row(sheet, 2, "S1", 5, null, "7,5");
        });
        assertThat(ReadRows.of(
                        file,
                        FileFormat.PLAIN.withUnpivot(
                                new FileFormat.Unpivot("Jan", "Mar", "month", "amount", "{column} 2026"))))
                .containsExactly(
                        "names [shop, month, amount]",
                        "w.xlsx, Budget!A2 [S1, Jan 2026, <5>]",
                        "w.xlsx, Budget!A2 [S1, Mar 2026, 7,5]");
    }

    @Test
    void whatIsNoWorkbookIsSaid() throws Exception {
        Path file = Files.writeString(folder.resolve("w.xlsx"), "shop,net\n");
        assertThatThrownBy(() -> ReadRows.of(file, FileFormat.PLAIN))
                .hasMessageStartingWith("the file w.xlsx is damaged, or no .xlsx workbook: ")
                .hasMessageEndingWith("; open it in a spreadsheet program and save it again");
        try (POIFSFileSystem system = new POIFSFileSystem()) {
            EncryptionInfo info = new EncryptionInfo(EncryptionMode.agile);
            info.getEncryptor().confirmPassword("secret");
            try (OutputStream out = info.getEncryptor().getDataStream(system)) {
                out.write(new byte[100]);
            }
            try (OutputStream out = Files.newOutputStream(file)) {
                system.writeFilesystem(out);
            }
        }
        assertThatThrownBy(() -> ReadRows.of(file, FileFormat.PLAIN))
                .hasMessage("the file w.xlsx is password-protected; save it without a password");
        try (POIFSFileSystem system = new POIFSFileSystem();
                OutputStream out = Files.newOutputStream(file)) {
            system.writeFilesystem(out);
        }
        assertThatThrownBy(() -> ReadRows.of(file, FileFormat.PLAIN))
                .hasMessage("the file w.xlsx is a workbook in the old binary format; save it as .xlsx");
    }

    /** Entities of a document type could read other files, or grow without end. */
    @Test
    void damagedAndHostilePartsAreRefused() throws IOException {
        Path file = write(workbook -> row(workbook.createSheet("Orders"), 1, "shop"));
        change(file, "/xl/worksheets/sheet1.xml", text -> text.replace("<v>0</v>", "<v>99</v>"));
        assertThatThrownBy(() -> ReadRows.of(file, FileFormat.PLAIN))
                .hasMessageContaining("the cell A1 holds '99'")
                .hasMessageStartingWith("the file w.xlsx is damaged");
        change(
                file,
                "/xl/worksheets/sheet1.xml",
                text -> text.replaceFirst("\\?>", "?><!DOCTYPE x [<!ENTITY a SYSTEM \"file:///etc/passwd\">]>"));
        assertThatThrownBy(() -> ReadRows.of(file, FileFormat.PLAIN))
                .hasMessageStartingWith("the file w.xlsx is damaged")
                .hasMessageContaining("it has a document type");
    }
}
