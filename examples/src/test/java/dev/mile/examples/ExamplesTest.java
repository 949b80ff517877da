package dev.mile.examples;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.demo.DemoProject;
import dev.mile.measure.TargetStatus;
import dev.mile.report.Grid;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ExamplesTest {
    @Test
    void yearOverYearComparesTheSameDays() {
        Grid grid = YearOverYear.compute();
        Grid.Row august = grid.rows().stream()
                .filter(r -> r.kind() == Grid.RowKind.LEAF
                        && r.labels().get(1).equals("FY2027 P05")
                        && r.labels().get(2).equals("Brambleford"))
                .findFirst()
                .orElseThrow();
        // 2026: the 2nd, 4th ... 14th at 112 and the day in cents; 2025: the 1st, 3rd ... 13th at 100 and the day
        assertThat(august.values().get(0).decimal()).isEqualByComparingTo("784.56");
        assertThat(august.values().get(1).decimal()).isEqualByComparingTo("700.49");
        assertThat(august.values().get(2).toDouble())
                .isEqualTo((784.56 - 700.49) / 700.49, org.assertj.core.data.Offset.offset(1e-12));
    }

    @Test
    void figuresComeBackByTheirNames() throws Exception {
        Grid grid = FromAnswerToProgram.compute();
        // 5 at 2.60 against 4 at 2.50; the shop in Corvedale is not asked for
        assertThat(grid.row("FY2026 Q1").number("sales")).hasValue(new BigDecimal("13.00"));
        assertThat(grid.row("FY2026 Q1").number("growth")).hasValue(new BigDecimal("0.3"));
        assertThat(grid.toMaps()).hasSize(2);
        assertThat(FromAnswerToProgram.faults())
                .extracting(finding -> finding.text())
                .containsExactly(
                        "unknown measure 'salse'; did you mean 'sales'?",
                        "unknown measure 'cost'; known: sales, sales_ly, growth, margin");
    }

    @Test
    void datesGoIntoADatabase() throws Exception {
        try (Connection database = DriverManager.getConnection("jdbc:duckdb:")) {
            assertThat(DatesIntoDatabase.load(database)).isEqualTo("The retail year 2023 has 53 weeks.");
        }
    }

    @Test
    void budgetsAddUpToTheirFile(@TempDir Path folder) throws Exception {
        DemoProject.write(folder, 5_000);
        BigDecimal expected = Files.readAllLines(folder.resolve("budget.csv")).stream()
                .filter(l -> l.startsWith("FY2027"))
                .map(l -> new BigDecimal(l.split(",")[2]))
                .reduce(BigDecimal.ZERO, BigDecimal::add);
        Grid grid = ModelFromFile.compute(folder.resolve("mile.yaml"), "budget");
        assertThat(grid.rows().get(0).kind()).isEqualTo(Grid.RowKind.TOTAL);
        assertThat(grid.rows().get(0).values().get(0).decimal()).isEqualByComparingTo(expected);
    }

    /** Threads ask while the data is exchanged; each answer is that of the files before or after. */
    @Test
    void aServiceAnswersWhileItReloads(@TempDir Path folder) throws Exception {
        DemoProject.write(folder, 2_000);
        Path model = folder.resolve("mile.yaml");
        Grid before = ModelFromFile.compute(model, "shops");
        try (ReportService service = new ReportService(model)) {
            assertThat(service.report("shops")).isEqualTo(before);
            DemoProject.write(folder, 3_000);
            Grid after = ModelFromFile.compute(model, "shops");
            assertThat(after).isNotEqualTo(before);
            CompletableFuture<Void> reload = CompletableFuture.runAsync(service::reload);
            IntStream.range(0, 24).parallel().forEach(i -> assertThat(service.report("shops"))
                    .isIn(before, after));
            reload.join();
            assertThat(service.report("shops")).isEqualTo(after);
        }
    }

    private static List<String> lines(Grid grid) {
        return grid.rows().stream()
                .map(r -> String.join("/", r.labels()) + " "
                        + r.values().stream()
                                .map(v -> v.isBlank()
                                        ? "-"
                                        : v.decimal().stripTrailingZeros().toPlainString())
                                .toList())
                .toList();
    }

    @Test
    void budgetsAreHeldAgainstWhatWasSoldSoFar() {
        // 77 of the 313 working days of 2026 are over: 12,000 times 77 / 313, rounded
        List<String> lines = lines(BudgetAgainstActual.compute());
        assertThat(lines).hasSize(4).contains("FY2026/Alderwick [12000, 2952.08, 3000, 47.92, 3000, 2952.08, -]");
        assertThat(BudgetAgainstActual.compute().rows())
                .filteredOn(row -> row.labels().contains("Alderwick"))
                .allSatisfy(row -> assertThat(row.status(6)).contains(TargetStatus.MET));
        assertThat(BudgetAgainstActual.compute().rows().get(0).values().get(2).decimal())
                .isEqualByComparingTo("4900");
    }

    @Test
    void theOutlookCountsEachDayOnce() {
        // April: 15 days at 10, then 15 at 12; the year: 105 days at 10, 260 at 12
        assertThat(lines(Outlook.compute()))
                .contains("FY2026/FY2026 P04 [330, 1230]", "FY2026/FY2026 P12 [372, 4170]", "FY2026 [4170, 4170]");
    }

    @Test
    void ratesAreWorkedOutToTheEndOfTheMonth() {
        // April has 26 working days, 30 days at 24; May 12 of 25 so far, less the holiday on the 4th
        assertThat(lines(WorkingDayRates.compute()))
                .anyMatch(l -> l.startsWith("FY2026 P04 [27.69"))
                .anyMatch(l -> l.startsWith("FY2026 P05 [30, 12, 750, "));
    }

    @Test
    void listedCalendarsHaveTheirPeriods() throws Exception {
        assertThat(CustomCalendar.periods())
                .hasSize(8)
                .startsWith("FY2025 P01  2025-01-04..2025-04-04")
                .endsWith("FY2026 P04  2026-10-03..2027-01-01");
        PrintStream before = System.out;
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        try {
            System.setOut(new PrintStream(out, true, StandardCharsets.UTF_8));
            CustomCalendar.main(new String[0]);
        } finally {
            System.setOut(before);
        }
        assertThat(out.toString(StandardCharsets.UTF_8))
                .contains("2026-01-02,Friday,FY2025 P04,91\n2026-01-03,Saturday,FY2026 P01,1\n");
    }

    /** Every line of Java of the guide stands in the example that is named before it. */
    @ParameterizedTest
    @ValueSource(strings = {"guide.md", "engines.md"})
    void linesOfTheGuideAreThoseOfTheExamples(String document) throws IOException {
        String guide = Files.readString(Path.of("../docs", document));
        Matcher block = Pattern.compile("\\(\\.\\./(examples/[^)]*\\.java)\\)[^`]*```java\n(.*?)```", Pattern.DOTALL)
                .matcher(guide);
        int lines = 0;
        while (block.find()) {
            String example = Files.readString(Path.of("..", block.group(1))).replaceAll("\\s+", "");
            for (String line : block.group(2).strip().split("\n")) {
                assertThat(example).contains(line.replaceAll("\\s+", ""));
                lines++;
            }
        }
        assertThat(lines).isGreaterThan(6);
    }
}
