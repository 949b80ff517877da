package dev.mile.render.excel;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.render.layout.ShownColumns;
import dev.mile.render.text.Grids;
import dev.mile.render.text.Programs;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.xssf.usermodel.XSSFRow;
import org.apache.poi.xssf.usermodel.XSSFSheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class GridWorkbookTest {
    private static final int FIRST = 4;

    @TempDir
    Path folder;

    private Path written(Grid grid) throws Exception {
        Path file = folder.resolve("report.xlsx");
        try (OutputStream out = Files.newOutputStream(file)) {
            GridWorkbook.write(grid, out);
        }
        return file;
    }

    private static Grid hostile() {
        return Grids.shops(Grids.HOSTILE, Optional.of(new Chart(Chart.Kind.RANKING, List.of("sales"))));
    }

    @Test
    void everyCellHoldsTheGridsValueInItsType() throws Exception {
        Grid grid = hostile();
        try (XSSFWorkbook book = new XSSFWorkbook(Files.newInputStream(written(grid)))) {
            XSSFSheet sheet = book.getSheet("report");
            for (int r = 0; r < grid.rows().size(); r++) {
                Grid.Row row = grid.rows().get(r);
                XSSFRow cells = sheet.getRow(FIRST + r);
                for (int k = 0; k < row.labels().size(); k++) {
                    assertThat(cells.getCell(k).getCellType()).isEqualTo(CellType.STRING);
                    assertThat(cells.getCell(k).getStringCellValue())
                            .isEqualTo(row.labels().get(k));
                }
                List<Integer> shown = ShownColumns.of(grid.header());
                for (int c : shown) {
                    Value value = row.values().get(c);
                    Cell cell = cells.getCell(2 + shown.indexOf(c));
                    Optional<TargetStatus> status = row.status(c);
                    if (status.isPresent()) {
                        assertThat(cell.getNumericCellValue())
                                .isEqualTo(2 - status.get().ordinal());
                    } else if (value.isBlank()) {
                        assertThat(cell).isNull();
                    } else if (r == 0 && c == 0) {
                        // more digits than a spreadsheet keeps
                        assertThat(cell.getStringCellValue()).isEqualTo("12345678901234567.89");
                    } else {
                        assertThat(cell.getNumericCellValue()).isEqualTo(value.toDouble());
                    }
                }
            }
            assertThat(book.getSheet("notes").getRow(1).getCell(0).getStringCellValue())
                    .isEqualTo("1 value with more than 15 digits, which a spreadsheet would round: written as text.");
            assertThat(book.getSheet("definitions").getRow(5).getCell(0).getStringCellValue())
                    .isEqualTo("goal_status");
        }
    }

    @Test
    void rowsAreGroupedPanesFrozenAndConditionsReal() throws Exception {
        try (XSSFWorkbook book = new XSSFWorkbook(Files.newInputStream(written(hostile())))) {
            XSSFSheet sheet = book.getSheet("report");
            assertThat(sheet.getRow(FIRST + 1).getOutlineLevel()).isZero();
            assertThat(sheet.getRow(FIRST + 2).getOutlineLevel()).isEqualTo(1);
            assertThat(sheet.getRowSumsBelow()).isFalse();
            assertThat(sheet.getPaneInformation().getHorizontalSplitTopRow()).isEqualTo((short) FIRST);
            assertThat(sheet.getPaneInformation().getVerticalSplitLeftColumn()).isEqualTo((short) 2);
            // `Sales last year` breaks into two lines in a column of fifteen characters
            assertThat(sheet.getRow(FIRST - 2).getHeightInPoints()).isEqualTo(30f);
            var conditions = sheet.getSheetConditionalFormatting();
            assertThat(conditions.getNumConditionalFormattings()).isEqualTo(2);
            var bars = conditions.getConditionalFormattingAt(0);
            assertThat(bars.getRule(0).getDataBarFormatting()).isNotNull();
            // the leaf rows of both years, not their subtotals
            assertThat(bars.getFormattingRanges())
                    .extracting(Object::toString)
                    .allMatch(r -> r.endsWith("[C7:C18]") || r.endsWith("[C20:C31]"));
            assertThat(conditions.getConditionalFormattingAt(1).getRule(0).getMultiStateFormatting())
                    .isNotNull();
            XSSFSheet chart = book.getSheet("chart");
            assertThat(chart.getDrawingPatriarch().getCharts()).hasSize(1);
            assertThat(chart.getRow(1).getCell(SheetChart.TABLE + 1).getNumericCellValue())
                    .isEqualTo(100.25);
        }
    }

    @Test
    void aPackHasContentsASheetForEachReportAndNamesForTotals() throws Exception {
        Grid shops = hostile();
        Grid months = Grids.months(new Chart(Chart.Kind.GAP, List.of()));
        Path file = folder.resolve("pack.xlsx");
        try (OutputStream out = Files.newOutputStream(file)) {
            GridWorkbook.write("Month end", List.of(shops, months, shops), out);
        }
        try (XSSFWorkbook book = new XSSFWorkbook(Files.newInputStream(file))) {
            List<String> names = new ArrayList<>();
            book.forEach(sheet -> names.add(sheet.getSheetName()));
            assertThat(names)
                    .containsExactly(
                            "Contents",
                            "Shops <b>of<-b> two years",
                            "Shops <b>of<-b> two years chart",
                            "Months",
                            "Months chart",
                            "Shops <b>of<-b> two years 2",
                            "Shops <b>of<-b> two years cha 2",
                            "Notes",
                            "Definitions");
            XSSFSheet contents = book.getSheet("Contents");
            assertThat(contents.getRow(0).getCell(0).getStringCellValue()).isEqualTo("Month end");
            assertThat(contents.getRow(5).getCell(0).getHyperlink().getAddress())
                    .isEqualTo("'Months'!A1");
            assertThat(contents.getRow(6).getCell(0).getHyperlink().getAddress())
                    .isEqualTo("'Shops <b>of<-b> two years 2'!A1");
            assertThat(book.getAllNames())
                    .filteredOn(name -> name.getNameName().equals("total_growth"))
                    .extracting(name -> name.getRefersToFormula())
                    .containsExactlyInAnyOrder(
                            "'Shops <b>of<-b> two years'!$D$5", "'Shops <b>of<-b> two years 2'!$D$5");
            Cell drawn = book.getSheet("Months chart").getRow(1).getCell(SheetChart.TABLE + 1);
            assertThat(drawn.getCellFormula()).isEqualTo("Months!B5");
            assertThat(drawn.getNumericCellValue()).isEqualTo(100);
            XSSFSheet sheet = book.getSheet("Months");
            assertThat(sheet.getRepeatingRows().formatAsString()).isEqualTo("1:4");
            assertThat(sheet.getRepeatingColumns().formatAsString()).isEqualTo("A:A");
            assertThat(book.getSheet("Notes").getRow(0).getCell(0).getStringCellValue())
                    .isEqualTo(shops.title());
        }
    }

    @Test
    void rowsBelowMonthsAreClosed() throws Exception {
        Grid few = hostile();
        Grid.Header head = new Grid.Header(
                "Weeks",
                List.of(
                        new Grid.Key("year", Grid.AxisKind.PERIOD),
                        new Grid.Key("retail.month", Grid.AxisKind.PERIOD),
                        new Grid.Key("week", Grid.AxisKind.PERIOD)),
                few.columns().subList(0, 1),
                Optional.empty(),
                Optional.empty());
        List<Grid.Row> rows = new ArrayList<>();
        for (List<String> labels : List.of(List.of("Y"), List.of("Y", "M"), List.of("Y", "M", "W"))) {
            rows.add(Grids.row(
                    labels.size() < 3 ? Grid.RowKind.SUBTOTAL : Grid.RowKind.LEAF,
                    DateRange.EMPTY,
                    labels,
                    Value.ZERO));
        }
        try (XSSFWorkbook book = new XSSFWorkbook(Files.newInputStream(written(new Grid(head, rows, List.of()))))) {
            XSSFSheet sheet = book.getSheet("report");
            assertThat(List.of(4, 5, 6).stream().map(r -> sheet.getRow(r).getZeroHeight()))
                    .containsExactly(false, false, true);
            assertThat(sheet.getRow(5).getCTRow().getCollapsed()).isTrue();
        }
    }

    @Test
    void whatIsToComeIsADashedSeriesOfItsOwn() throws Exception {
        Grid grid = Grids.months(new Chart(Chart.Kind.LINES, List.of("sales", "budget")));
        try (XSSFWorkbook book = new XSSFWorkbook(Files.newInputStream(written(grid)))) {
            XSSFSheet chart = book.getSheet("chart");
            assertThat(chart.getRow(0).getCell(SheetChart.TABLE + 4).getStringCellValue())
                    .isEqualTo("Budget, to come");
            // July is the last month that is over; the dashed line begins there
            assertThat(chart.getRow(7).getCell(SheetChart.TABLE + 4).getNumericCellValue())
                    .isEqualTo(630);
            assertThat(chart.getRow(6).getCell(SheetChart.TABLE + 4)).isNull();
            assertThat(chart.getRow(8).getCell(SheetChart.TABLE + 3)).isNull();
            assertThat(chart.getRow(5).getCell(SheetChart.TABLE + 1))
                    .as("May is blank")
                    .isNull();
            String xml = new String(
                    chart.getDrawingPatriarch()
                            .getCharts()
                            .get(0)
                            .getPackagePart()
                            .getInputStream()
                            .readAllBytes(),
                    StandardCharsets.UTF_8);
            assertThat(xml).contains("prstDash", "dispBlanksAs val=\"gap\"");
        }
    }

    @Test
    void aSpreadsheetProgramReadsTheSameValues() throws Exception {
        assumeTrue(Programs.spreadsheet().isPresent(), "no spreadsheet program here");
        Grid grid = Grids.shops(List.of("A", "=1+2"), Optional.of(new Chart(Chart.Kind.STATUS, List.of())));
        written(grid);
        Programs.run(
                folder,
                List.of(
                        Programs.spreadsheet().get(),
                        "-env:UserInstallation=" + folder.resolve("office").toUri(),
                        "--headless",
                        "--convert-to",
                        "csv:Text - txt - csv (StarCalc):44,34,76",
                        "report.xlsx"));
        List<String> lines = Files.readAllLines(folder.resolve("report.csv"));
        assertThat(lines)
                .contains(
                        "Total,,12345678901234567.89,10.0% ,620 ,missed",
                        "FY2026,,300.50 ,,310 ,near",
                        "FY2026,A,100.25 ,0.0% ,50 ,met",
                        "FY2027,A,(10.25),0.0% ,50 ,met",
                        "FY2027,=1+2,0.25 ,14.3% ,50 ,near");
    }

    @ParameterizedTest(name = "{0} {1}")
    @CsvSource(
            delimiter = '|',
            value = {
                "#,##0.00|ONE|#,##0.00_);(#,##0.00)",
                "0.0%|ONE|0.0%_);(0.0%)",
                "|THOUSAND|#,##0.0,_);(#,##0.0,)",
                "#,##0|MILLION|#,##0,,_);(#,##0,,)",
                "0.00;-0.00|ONE|0.00;-0.00",
                "#,##0 'km'|ONE|#,##0\" km\"_);(#,##0\" km\")",
            })
    void formatsOfTheJdkAreSaidInThoseOfSpreadsheets(String pattern, NumberStyle.Scale scale, String expected) {
        String format = pattern == null ? "" : pattern;
        assertThat(SheetFormat.of(Grids.style(format).withScale(scale), true)).isEqualTo(expected);
    }

    @Test
    void moreRowsThanASheetHoldsAreRefused() {
        Grid.Header head = new Grid.Header("long", List.of(), List.of(), Optional.empty(), Optional.empty());
        Grid.Row row = Grids.row(Grid.RowKind.LEAF, DateRange.EMPTY, new ArrayList<>());
        assertThatThrownBy(() -> {
                    try (GridWorkbook workbook = new GridWorkbook(OutputStream.nullOutputStream())) {
                        workbook.header(head);
                        for (int i = 0; i < 1_048_576; i++) {
                            workbook.row(row);
                        }
                    }
                })
                .isInstanceOf(MileException.class)
                .hasMessageStartingWith("a sheet holds 1,048,576 rows and the report has more; write it to .csv");
    }
}
