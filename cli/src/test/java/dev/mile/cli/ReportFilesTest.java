package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.apache.poi.ss.usermodel.Cell;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.Row;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What {@code mile report} prints and writes, held to files that people have read, and to each other. */
class ReportFilesTest extends DemoCommands {
    /** To make the files anew after a change that is meant: {@code MILE_GOLDEN=update}, then read the difference. */
    @ParameterizedTest(name = "{0}")
    @CsvSource({
        "shops.txt, report shops",
        "shops.csv, report shops --as csv --totals",
        "retail_weeks.txt, report retail_weeks",
        "recent.txt, report recent",
        "ages.txt, report ages",
        "refit.txt, report refit",
        "budget.txt, report budget",
        "this_month.json, report this_month --as json --windows",
        "years.csv, report years --as csv",
        "drill.txt, report trading --at FY2026_Q1"
    })
    void theDemoReadsAsItDid(String file, String line) throws IOException {
        List<String> args = new ArrayList<>();
        for (String arg : line.split(" ")) {
            args.add(arg.replace("FY2026_Q1", "FY2026 Q1"));
        }
        Answer answer = mile(args.toArray(String[]::new));
        // what has no room for notes says them on standard error
        assertThat(answer.err()).matches(err -> err.isEmpty() != file.endsWith(".csv"));
        if ("update".equals(System.getenv("MILE_GOLDEN"))) {
            Files.writeString(Path.of("src/test/resources/golden").resolve(file), answer.out());
        }
        try (var golden = getClass().getResourceAsStream("/golden/" + file)) {
            assertThat(golden).as(file).isNotNull();
            assertThat(answer.out()).isEqualTo(new String(golden.readAllBytes(), StandardCharsets.UTF_8));
        }
    }

    @Test
    void everyFormatHoldsTheSameValues() throws IOException {
        String base = folder.resolve("same").toString();
        Answer answer = mile(
                "report",
                "shops",
                "--totals",
                "-o",
                base + ".csv",
                "-o",
                base + ".json",
                "-o",
                base + ".xlsx",
                "-o",
                base + ".html",
                "-o",
                base + ".txt",
                "-o",
                base + ".png",
                "-o",
                base + ".svg");
        assertThat(answer.err().lines()).filteredOn(l -> l.startsWith("wrote ")).hasSize(7);
        List<String> csv = Files.readAllLines(Path.of(base + ".csv"));
        JsonNode json = new ObjectMapper().readTree(Path.of(base + ".json").toFile());
        String html = Files.readString(Path.of(base + ".html"));
        int data = html.indexOf("id=\"data\">") + 10;
        JsonNode page = new ObjectMapper()
                .readTree(html.substring(data, html.indexOf("</script>", data)))
                .get("reports")
                .get(0);
        // a target beside its own measure is not repeated where people read it
        List<String> shown = page.get("columns").findValuesAsText("name");
        assertThat(shown).hasSize(json.get("columns").size() - 1).doesNotContain("growth_target_value");
        List<List<String>> sheet = sheet(Path.of(base + ".xlsx"));
        assertThat(json.get("rows")).hasSize(csv.size() - 1);
        for (int r = 0; r < json.get("rows").size(); r++) {
            String[] fields = csv.get(r + 1).split(",", -1);
            JsonNode values = json.get("rows").get(r).get("values");
            for (int c = 0; c < values.size(); c++) {
                String exact = fields[2 + c];
                assertThat(values.get(c).isNull() ? "" : values.get(c).asText()).satisfies(v -> same(v, exact));
                int at = shown.indexOf(json.get("columns").get(c).get("name").asText());
                if (at < 0) {
                    continue;
                }
                JsonNode inPage = page.get("rows").get(r).get("v").get(at);
                assertThat(inPage.isNull() ? "" : inPage.asText()).isEqualTo(exact);
                // the sheet's title, its choice of days, and two lines of headers come first; the status is a number
                // there
                String cell = sheet.get(4 + r).get(2 + at);
                if (!exact.matches("met|near|missed")) {
                    assertThat(cell).satisfies(v -> same(v, exact));
                }
            }
        }
    }

    /** Returns the exact values of the first sheet as texts. */
    private static List<List<String>> sheet(Path file) throws IOException {
        List<List<String>> rows = new ArrayList<>();
        try (XSSFWorkbook book = new XSSFWorkbook(Files.newInputStream(file))) {
            for (Row row : book.getSheetAt(0)) {
                List<String> cells = new ArrayList<>();
                for (int c = 0; c < 12; c++) {
                    Cell cell = row.getCell(c);
                    boolean number = cell != null && cell.getCellType() == CellType.NUMERIC;
                    cells.add(
                            cell == null ? "" : number ? Double.toString(cell.getNumericCellValue()) : cell.toString());
                }
                rows.add(cells);
            }
        }
        return rows;
    }

    private static void same(String value, String exact) {
        if (exact.matches("-?[\\d.]+")) {
            assertThat(new BigDecimal(value).doubleValue()).isEqualTo(new BigDecimal(exact).doubleValue());
        } else {
            assertThat(value).isEqualTo(exact);
        }
    }

    @Test
    void aPackIsOneWorkbookOnePageOrAFolderOfFiles() throws IOException {
        String base = folder.resolve("pack").toString();
        Answer answer = mile(
                "report",
                "month_end",
                "roles",
                "-o",
                base + ".xlsx",
                "-o",
                base + ".html",
                "-o",
                base + "/",
                "-o",
                base + ".txt");
        List<String> names = List.of("trading", "budget", "shop_line", "shops", "growth", "recent", "roles");
        assertThat(answer.err().lines()).filteredOn(l -> l.startsWith("wrote ")).hasSize(3 + names.size());
        for (String name : names) {
            assertThat(Files.readString(Path.of(base, name + ".csv")))
                    .as(name)
                    .isEqualTo(mile("report", name, "--as", "csv").out());
        }
        String text = Files.readString(Path.of(base + ".txt"));
        assertThat(mile("report", "month_end", "roles").out().lines().filter(line -> !line.isBlank()))
                .startsWith("Trading by fiscal month")
                .contains("Recent days", "Sales ordered, dispatched and paid");
        assertThat(text).contains(mile("report", "growth").out());
        try (XSSFWorkbook book = new XSSFWorkbook(Files.newInputStream(Path.of(base + ".xlsx")))) {
            List<String> sheets = new ArrayList<>();
            book.forEach(sheet -> sheets.add(sheet.getSheetName()));
            assertThat(sheets)
                    .startsWith("Contents", "Trading by fiscal month", "Trading by fiscal month chart")
                    .contains("Sales against budget year to da", "Sales against budget by shop cu")
                    .endsWith("Sales ordered dispatched and pa", "Notes", "Definitions");
        }
        assertThat(mile("report", "budget", "shops", "-o", base + ".csv").err())
                .contains("holds one report, and there are 2; write a folder");
        assertThat(mile("report", "budget", "shops", "--rows", "year").err())
                .startsWith("mile: --rows says what one report shows, and there are several");
        assertThat(mile("report", "month_ends").err())
                .contains("unknown report or pack 'month_ends'; did you mean 'month_end'?");
    }

    @Test
    void figuresThatChangedSinceAreNamedWithTheirDays() throws IOException {
        Path own = Files.createDirectories(folder.resolve("since"));
        try (var files = Files.list(folder.resolve("demo"))) {
            for (Path file : files.filter(Files::isRegularFile).toList()) {
                Files.copy(file, own.resolve(file.getFileName()));
            }
        }
        String model = own.resolve("mile.yaml").toString();
        String last = own.resolve("last.json").toString();
        mile("report", "trading", "-f", model, "--as-of", "2026-08-05", "--days", "-o", last);
        List<String> sales = new ArrayList<>(Files.readAllLines(own.resolve("sales.csv")));
        String gone = sales.stream()
                .filter(line -> line.split(",")[1].equals("2026-07-07") && line.endsWith("done"))
                .findFirst()
                .orElseThrow();
        String[] fields = gone.split(",");
        sales.remove(gone);
        Files.write(own.resolve("sales.csv"), sales);
        String changes = own.resolve("changes.csv").toString();
        Answer answer = mile(
                "report", "trading", "-f", model, "--as-of", "2026-08-05", "--since", last, "--strict", "-o", changes);
        assertThat(answer.code()).isEqualTo(1);
        String amount = fields[10];
        assertThat(Files.readAllLines(own.resolve("changes.csv")))
                .hasSize(6)
                .anyMatch(line -> line.startsWith("FY2027,FY2027 Q2,Jul 2026,35394.18,")
                        && line.split(",")[5].equals("-" + amount));
        assertThat(Files.readString(own.resolve("changes-days.csv")))
                .startsWith(
                        "date,rows was,rows is,rows difference,net_amount was,net_amount is,net_amount difference\n")
                .contains(fields[1] + ",")
                .endsWith(",-" + amount + "\n");
        assertThat(answer.err())
                .contains("Changed though it was over: FY2027 / FY2027 Q2 / Jul 2026.")
                .contains("On 1 day, rows of sales by ordered changed: 0 rows came, 1 row went.");
        assertThat(mile("report", "trading", "-f", model, "--as-of", "2026-08-05", "--since", last)
                        .out())
                .startsWith("Trading by fiscal month: changes\n")
                .contains("Days on which rows of sales by ordered changed");
        assertThat(mile("report", "shops", "-f", model, "--since", last).err())
                .endsWith(
                        "last.json is of the report 'trading', not of 'shops'; name the file that was written for it\n");
    }

    @Test
    void periodsOpenOneLevelDown() {
        assertThat(mile("report", "trading", "--at", "Aug 2026").out())
                .startsWith("Trading by fiscal month, Aug 2026\n")
                .contains("FY2027 W19", "FY2027 W20");
        assertThat(mile("report", "shops", "--at", "R2026 P01", "--as", "csv").out())
                .startsWith("retail.week,shops.region,shops.name,")
                .contains("R2026 W01,North,Alderwick,");
        assertThat(mile("report", "trading", "--at", "2026-08-14").err())
                .isEqualTo("mile: '2026-08-14' is a day, which has no parts to open\n");
    }

    @Test
    void barsStandBesideTheNumbersOfLeaves() {
        String out = mile("report", "shops", "--bars", "sales").out();
        assertThat(out.lines()
                        .filter(l -> l.contains("Greenhythe Cross"))
                        .findFirst()
                        .orElseThrow())
                .contains("14,886.80  ████████████");
        assertThat(out.lines().filter(l -> l.contains("North")).findFirst().orElseThrow())
                .doesNotContain("█");
        assertThat(mile("report", "shops", "--bars", "saels").err()).contains("did you mean 'sales'?");
        assertThat(mile("report", "shops", "--chart", "pie").err())
                .isEqualTo("mile: 'pie' is not a kind of chart; known: lines, gap, ranking, years, status, trend\n");
    }

    @Test
    void aFullDiskLeavesTheOldFile() throws IOException, InterruptedException {
        onSmallDisk("64k", small -> {
            for (String ending : List.of("csv", "xlsx", "html", "json", "png")) {
                Path target = Files.writeString(small.resolve("report." + ending), "old");
                Answer answer = mile(
                        "report",
                        "--rows",
                        "day,shops.name",
                        "--show",
                        "sales",
                        "--chart",
                        "lines",
                        "-o",
                        target.toString());
                assertThat(answer.err())
                        .contains(
                                "cannot write " + target,
                                "No space left on device; what was there before is untouched");
                assertThat(answer.code()).isEqualTo(3);
                assertThat(target).hasContent("old");
            }
            try (var files = Files.list(small)) {
                assertThat(files).hasSize(5);
            }
        });
    }

    @Test
    void standardOutputThatIsFullIsSaid() throws IOException, InterruptedException {
        Path full = Path.of("/dev/full");
        assumeTrue(Files.exists(full), "no device that is always full here");
        Path err = Files.createTempFile(folder, "err", "");
        Process process =
                start(folder.resolve("demo"), full, err, "-Xmx512m", "report", "trading", "--as", "csv", "--quiet");
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        assertThat(process.exitValue()).isEqualTo(3);
        assertThat(err).hasContent("mile: standard output is not whole: No space left on device");
    }

    @Test
    void foldersThatTakeNoFilesAreNamed() throws IOException {
        Path file = Files.writeString(folder.resolve("plain"), "x");
        Answer answer = mile("report", "shops", "-o", file.resolve("out.csv").toString());
        assertThat(answer.err()).startsWith("mile: cannot write " + file + "/out.csv: ");
        assertThat(answer.code()).isEqualTo(3);
        Path closed = Files.createDirectory(folder.resolve("closed"));
        assumeTrue(closed.toFile().setWritable(false) && !Files.isWritable(closed), "root may write anywhere");
        assertThat(mile("report", "shops", "-o", closed + "/out.csv").err())
                .isEqualTo("mile: cannot write " + closed + "/out.csv: no permission; choose another folder\n");
    }

    /** A project whose report has 1,096,000 rows of 2,000 rows of sales. */
    private static Path longProject(String name) throws IOException {
        Path own = Files.createDirectory(folder.resolve(name));
        StringBuilder rows = new StringBuilder("day,shop,x\n");
        for (int s = 0; s < 1_000; s++) {
            rows.append("2023-01-05,S")
                    .append(s)
                    .append(",0.25\n2025-12-20,S")
                    .append(s)
                    .append(",1\n");
        }
        Files.writeString(own.resolve("s.csv"), rows);
        Files.writeString(
                own.resolve("mile.yaml"),
                """
                mile: 1
                calendars: {c: {year_starts: january}}
                facts: {s: {source: s.csv, dates: {on: day}}}
                measures: {x: sum(s.x), ytd: x over year to date}
                reports: {long: {rows: [shop, day], show: [x, ytd], keep_empty: true}}
                """);
        return own;
    }

    @Test
    void aMillionRowsStreamToCsvAndAreTooManyForASheet() throws IOException, InterruptedException {
        Path own = longProject("long");
        Answer csv = process(own, "-Xmx80m", "report", "long", "-o", "long.csv");
        assertThat(csv.err())
                .matches("(computing: [0-9]+ %, about [0-9]+ s left\n)*wrote long.csv\nActuals as of 2025-12-20.\n");
        try (var lines = Files.lines(own.resolve("long.csv"))) {
            assertThat(lines.count()).isEqualTo(1_096_001);
        }
        Answer sheet = process(own, "-Xmx80m", "report", "long", "-o", "long.xlsx");
        assertThat(sheet.code()).isEqualTo(2);
        assertThat(sheet.err()).contains("a sheet holds 1,048,576 rows and the report has more; write it to .csv");
        assertThat(own.resolve("long.xlsx")).doesNotExist();
    }

    @Test
    void anInterruptedRunLeavesTheOldFileAndNoOther() throws IOException, InterruptedException {
        Path own = longProject("interrupted");
        Path target = Files.writeString(own.resolve("long.csv"), "old");
        Process process =
                start(own, own.resolve("out"), own.resolve("err"), "-Xmx256m", "report", "long", "-o", "long.csv");
        long size = 0;
        for (int i = 0; i < 1_200 && size <= 0 && process.isAlive(); i++) {
            TimeUnit.MILLISECONDS.sleep(50);
            size = size(own);
        }
        process.destroy();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        assertThat(size).as("bytes of the half file").isPositive();
        assertThat(process.exitValue()).isNotZero();
        assertThat(target).hasContent("old");
        assertThat(size(own)).isEqualTo(-1);
    }

    /** Returns the size of the half file; -1 if there is none. */
    private static long size(Path own) throws IOException {
        try (var files = Files.list(own)) {
            Path part = files.filter(f -> f.toString().endsWith(".part"))
                    .findFirst()
                    .orElse(null);
            return part == null ? -1 : Files.size(part);
        }
    }
}
