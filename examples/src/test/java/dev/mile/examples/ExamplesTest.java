package dev.mile.examples;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.demo.DemoProject;
import dev.mile.report.Grid;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ExamplesTest {
    @Test
    void yearOverYearComparesTheSameDays() {
        Grid grid = YearOverYear.compute();
        Grid.Row august = grid.rows().stream()
                .filter(r -> r.kind() == Grid.Kind.LEAF
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
        assertThat(grid.rows().get(0).kind()).isEqualTo(Grid.Kind.TOTAL);
        assertThat(grid.rows().get(0).values().get(0).decimal()).isEqualByComparingTo(expected);
    }
}
