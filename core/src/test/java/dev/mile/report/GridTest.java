package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.ModelException;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.CoveredDays;
import dev.mile.fact.Fact;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.measure.Target;
import dev.mile.measure.TargetBands;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.span.Span;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import org.junit.jupiter.api.Test;

/** How a program reads a report: rows by labels, cells by the names of their columns. */
class GridTest {
    private record Sale(LocalDate day, String shop, BigDecimal amount) {
        static Sale of(String day, String shop, String amount) {
            return new Sale(LocalDate.parse(day), shop, new BigDecimal(amount));
        }
    }

    private static final List<Sale> SALES = List.of(
            Sale.of("2025-02-03", "Alder", "30.00"),
            Sale.of("2025-05-03", "Birch", "7.00"),
            Sale.of("2026-02-03", "Alder", "39.00"),
            Sale.of("2026-05-03", "Birch", "8.50"));

    private static final Project PROJECT = Project.named("p")
            .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
            .fact(Fact.of("sales", "ordered", "day").withCoveredDays(CoveredDays.from(LocalDate.parse("2025-01-01"))))
            .measure("sales", Measure.sum("sales", "amount"))
            .measure("ly", Measure.named("sales").over(Span.back(1, Level.YEAR)))
            .measure("growth", Measure.named("sales").minus(Measure.named("ly")).dividedBy(Measure.named("ly")))
            .target(new Target(
                    "growing",
                    "growth",
                    Measure.number(new BigDecimal("0.3")),
                    new TargetBands(TargetBands.Aim.HIGH, BigDecimal.ONE, new BigDecimal("0.5"))))
            .build();

    private static Grid grid(Report report) {
        Table table = Table.of(
                SALES, c -> c.date("day", Sale::day).text("shop", Sale::shop).number("amount", Sale::amount));
        try (Session session =
                Session.open(PROJECT, () -> MemoryEngine.over(PROJECT).rows("sales", table))) {
            return session.report(report);
        }
    }

    private static final Report ROWS = Report.of("r", List.of("year", "shop"), List.of("sales", "growth", "growing"));

    @Test
    void cellsAreFoundByLabelsAndNames() {
        Grid grid = grid(ROWS);
        Grid.Cells alder = grid.row("FY2026", "Alder");
        assertThat(alder.number("sales")).hasValue(new BigDecimal("39.00"));
        // the digits of a ratio that matter, and a target that is met by just as much
        assertThat(alder.number("growth")).hasValue(new BigDecimal("0.3"));
        assertThat(alder.status("growing")).hasValue(TargetStatus.MET);
        assertThat(alder.number("growing")).isEqualTo(alder.number("growth"));
        assertThat(alder.number("growing_against")).hasValue(new BigDecimal("0.3"));
        assertThat(alder.label("shop")).hasValue("Alder");
        assertThat(grid.row("FY2025", "Alder").number("growth")).isEmpty();
        assertThat(grid.row("FY2025", "Alder").value("growth")).isEqualTo(Value.UNKNOWN);
        assertThat(grid.row("FY2025", "Alder").status("growing")).isEmpty();
        assertThat(grid.row("FY2026").kind()).isEqualTo(Grid.RowKind.SUBTOTAL);
        assertThat(grid.row("FY2026").label("shop")).isEmpty();
        assertThat(grid.row("FY2026").number("sales")).hasValue(new BigDecimal("47.50"));
        assertThat(grid.row().number("sales")).hasValue(new BigDecimal("84.50"));
        assertThat(grid.stream(Grid.RowKind.SUBTOTAL).map(Grid.Cells::labels))
                .containsExactly(List.of("FY2025"), List.of("FY2026"));
    }

    @Test
    void columnsAreFoundByMeasureAndMember() {
        Grid grid = grid(
                Report.of("r", List.of("shop"), List.of("sales", "growing")).withColumns(Report.axes("year")));
        Grid.Cells birch = grid.row("Birch");
        assertThat(birch.number("sales", "FY2025")).hasValue(new BigDecimal("7.00"));
        assertThat(birch.number("sales FY2026")).hasValue(new BigDecimal("8.50"));
        // 0.5 of 0.3 is reached by 1.50 / 7.00, 0.3 itself is not
        assertThat(birch.status("growing", "FY2026")).hasValue(TargetStatus.NEAR);
        assertThatThrownBy(() -> birch.number("sales"))
                .isInstanceOf(ModelException.class)
                .hasMessage("the report 'r' has a column 'sales' for each of 2 members; say which, such as 'FY2025'");
        assertThatThrownBy(() -> birch.number("sales", "FY2031"))
                .hasMessageStartingWith("the report 'r' has no column 'sales' of 'FY2031'");
    }

    @Test
    void aLeafIsAMapAsDataFilesHaveIt() {
        assertThat(grid(ROWS).toMaps()).hasSize(4).last().satisfies(map -> {
            assertThat(map.keySet())
                    .containsExactly(
                            "year", "shop", "sales", "growth", "growing_value", "growing_against", "growing_status");
            assertThat(map)
                    .containsEntry("year", "FY2026")
                    .containsEntry("shop", "Birch")
                    .containsEntry("sales", new BigDecimal("8.50"))
                    .containsEntry("growing_status", TargetStatus.NEAR);
        });
        assertThat(grid(ROWS).row("FY2025").toMap()).containsEntry("shop", null).containsEntry("growth", null);
    }

    @Test
    void totalsComeAfterTheirPartsWhereAskedFor() {
        assertThat(grid(ROWS).withTotalsLast().rows())
                .extracting(row -> row.kind() + " " + row.labels())
                .containsExactly(
                        "LEAF [FY2025, Alder]",
                        "LEAF [FY2025, Birch]",
                        "SUBTOTAL [FY2025]",
                        "LEAF [FY2026, Alder]",
                        "LEAF [FY2026, Birch]",
                        "SUBTOTAL [FY2026]",
                        "TOTAL []");
    }

    @Test
    void whatIsNotThereIsRefusedWithWhatIsNear() {
        Grid grid = grid(ROWS);
        assertThatThrownBy(() -> grid.row("FY2026", "Adler"))
                .isInstanceOf(ModelException.class)
                .hasMessage("the report 'r' has no row 'FY2026 · Adler'; did you mean 'FY2026 · Alder'?");
        assertThatThrownBy(() -> grid.row("FY2026").number("grwth"))
                .hasMessage("the report 'r' has no column 'grwth'; did you mean 'growth'?");
        assertThatThrownBy(() -> grid.row("FY2026").status("growth"))
                .hasMessageStartingWith("the report 'r' has no column 'growth'");
        assertThatThrownBy(() -> grid.row("FY2026").label("shops"))
                .hasMessage("the report 'r' has no part 'shops' in its rows; did you mean 'shop'?");
        assertThatThrownBy(() -> grid(ROWS.withTotals(false)).row())
                .hasMessage("the report has no total; ask for it: Report.withTotals(true)");
    }
}
