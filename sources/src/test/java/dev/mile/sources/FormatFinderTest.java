package dev.mile.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.engine.FileFormat;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.apache.poi.xssf.usermodel.XSSFRow;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FormatFinderTest {
    @TempDir
    Path folder;

    private DraftFormat find(String name, String charset, String text) throws IOException {
        return FormatFinder.of(Files.write(folder.resolve(name), text.getBytes(Charset.forName(charset))));
    }

    @Test
    void plainFilesNeedNothing() throws IOException {
        assertThat(find("a.csv", "UTF-8", "on,net,what\n2026-03-31,1.50,3 pcs\n2026-04-01,-2,May\n"))
                .isEqualTo(new DraftFormat(FileFormat.PLAIN, List.of(), Optional.empty()));
    }

    @Test
    void encodingsSeparatorsNamesAndTotalsAreFound() throws IOException {
        assertThat(find(
                                "a.txt",
                                "UTF-16LE",
                                "Ventas, todas\n\nfecha\ttienda\tneto\n31 de marzo de 2026\tA\t1.234,50\n1 de abril de 2026\tB\t7\n"
                                        + "Total\t\t1.241,50\nhecho por Ana\n")
                        .format())
                .isEqualTo(FileFormat.PLAIN
                        .withEncoding("utf-16le")
                        .withHeader(3)
                        .withUntil("Total")
                        .withNumbers("1.234,56")
                        .withDates(Map.of("", "31 de marzo de 2025"))
                        .withLocale(Locale.forLanguageTag("es")));
        assertThat(find("b.csv", "UTF-8", "a,b|on|paid\n1|12/31/2025|31.12.25\n2|3/4/2026|1.4.26\n")
                        .format())
                .isEqualTo(FileFormat.PLAIN.withDates(Map.of("on", "12/31/2025", "paid", "31.12.99")));
    }

    @Test
    void separatorsInQuotesPartNothingAndOneColumnTellsTheOrderForAnother() throws IOException {
        assertThat(find("in.csv", "UTF-8", "on,net\n05-Jan-2026,\"12,34,567.00\"\n06-Feb-2026,\"1,00,000.50\"\n"))
                .isEqualTo(new DraftFormat(
                        FileFormat.PLAIN.withNumbers("12,34,567.89").withDates(Map.of("", "31-Jan-2025")),
                        List.of(),
                        Optional.empty()));
        assertThat(find(
                        "us.csv",
                        "UTF-8",
                        "ordered,sent,net\n12/31/2025 2:30 PM,1/2/2026,$5\n1/1/2026 9:05 AM,,($12.00)\n"))
                .isEqualTo(new DraftFormat(
                        FileFormat.PLAIN.withNumbers("1,234.56").withDates(Map.of("", "12/31/2025")),
                        List.of(),
                        Optional.empty()));
    }

    @Test
    void momentsSince1970AreFoundByNameAndLength() throws IOException {
        assertThat(find("a.csv", "UTF-8", "created_at,net\n1767225600,1767225600\n1767312000,1767312000\n"))
                .isEqualTo(new DraftFormat(
                        FileFormat.PLAIN.withDates(Map.of("created_at", "epoch seconds")),
                        List.of("the numbers in created_at look like epoch seconds: compare one date"),
                        Optional.empty()));
        assertThat(find("b.csv", "UTF-8", "ts,net\n1767225600000,5\n").format().dates())
                .isEqualTo(Map.of("ts", "epoch milliseconds"));
        assertThat(find("c.csv", "UTF-8", "ts,net\n17672256,5\n9999999999,6\n")
                        .format()
                        .dates())
                .isEmpty();
    }

    @Test
    void filesThatAreNoTextsAreSaid() throws IOException {
        Path none = folder.resolve("none.csv");
        assertThatThrownBy(() -> FormatFinder.of(none))
                .hasMessage("the file " + none + " is not there; check the path");
        Path book = folder.resolve("none.xlsx");
        assertThatThrownBy(() -> FormatFinder.of(book))
                .hasMessage("the file " + book + " is not there; check the path");
        Path bytes = Files.write(folder.resolve("r.csv"), new byte[] {'a', (byte) 0x81, '\n', (byte) 0x8d});
        assertThatThrownBy(() -> FormatFinder.of(bytes))
                .hasMessageStartingWith(
                        "r.csv:1: the bytes of this line are not windows-1252; check that the file is a text");
    }

    @Test
    void whatNoValueTellsIsAsked() throws IOException {
        assertThat(find("a.csv", "UTF-8", "shop;net\nA;1.048\nB;2.500\n"))
                .isEqualTo(new DraftFormat(
                        FileFormat.PLAIN.withNumbers("1,234.56"),
                        List.of(
                                "amounts could be read like \"1,234.56\" or like \"1.234,56\": compare one with the file"),
                        Optional.empty()));
        // one value tells
        assertThat(find("b.csv", "UTF-8", "shop;net\nA;1.048\nB;2.500,5\n").doubts())
                .isEmpty();
    }

    @Test
    void columnsOfYearsAndSheetsAreFound() throws IOException {
        assertThat(find("plan.csv", "UTF-8", "shop,2024,2025,2026\nA,1,2,3\n"))
                .isEqualTo(new DraftFormat(
                        FileFormat.PLAIN.withUnpivot(
                                new FileFormat.Unpivot("2024", "2026", "year", "amount", "{column}")),
                        List.of(),
                        Optional.of(DraftFormat.Wide.YEARS)));
        Path file = folder.resolve("w.xlsx");
        try (XSSFWorkbook workbook = new XSSFWorkbook();
                OutputStream out = Files.newOutputStream(file)) {
            workbook.createSheet("Cover").createRow(0).createCell(0).setCellValue("Sales");
            for (String sheet : List.of("Orders", "Returns")) {
                for (int r = 2; r < 5; r++) {
                    XSSFRow row = workbook.getSheet(sheet) == null
                            ? workbook.createSheet(sheet).createRow(r)
                            : workbook.getSheet(sheet).createRow(r);
                    row.createCell(0).setCellValue(r == 2 ? "shop" : "A");
                    row.createCell(1).setCellValue(r == 2 ? "net" : "1,5");
                }
            }
            workbook.write(out);
        }
        DraftFormat found = FormatFinder.of(file);
        assertThat(found.format().sheet()).contains("Orders");
        assertThat(found.format().numbers()).contains("1.234,56");
        assertThat(found.doubts()).containsExactly("the sheet Orders is read; other sheets with a table: Returns");
        assertThat(ReadRows.of(file, found.format())).startsWith("names [shop, net]", "w.xlsx, Orders!A4 [A, 1,5]");
    }
}
