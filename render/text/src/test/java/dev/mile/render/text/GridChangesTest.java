package dev.mile.render.text;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.DataException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.FactDays;
import dev.mile.report.Grid;
import java.io.Writer;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A report is written as JSON, something changes, and the report is compared with the file. */
class GridChangesTest {
    @TempDir
    Path folder;

    private static Grid.Row month(int month, String sales, double share, TargetStatus status) {
        YearMonth of = YearMonth.of(2026, month);
        return Grids.withStatus(
                status,
                Grids.row(
                        Grid.RowKind.LEAF,
                        DateRange.of(of.atDay(1), of.atEndOfMonth()),
                        List.of(of.toString()),
                        sales.isEmpty() ? Value.NOTHING : Grids.exact(sales),
                        Value.of(share)));
    }

    private static Grid grid(LocalDate asOf, Grid.Row... rows) {
        List<Grid.Column> all = Grids.shops(List.of("A"), Optional.empty()).columns();
        return new Grid(
                new Grid.Header(
                        "Months",
                        List.of(new Grid.Key("month", Grid.AxisKind.PERIOD)),
                        List.of(all.get(0), all.get(1), all.get(4)),
                        Optional.of(asOf),
                        Optional.empty()),
                List.of(rows),
                List.of());
    }

    private static FactDays days(Map<String, FactDays.Total> totals) {
        TreeMap<LocalDate, FactDays.Total> days = new TreeMap<>();
        totals.forEach((day, total) -> days.put(LocalDate.parse(day), total));
        return new FactDays("sales", "ordered", List.of("sum(x)"), days);
    }

    private static FactDays.Total total(long rows, String sum) {
        return new FactDays.Total(rows, List.of(new BigDecimal(sum)));
    }

    private GridSnapshot saved(Grid grid, List<FactDays> days) throws Exception {
        Path file = folder.resolve("last.json");
        try (Writer out = Files.newBufferedWriter(file)) {
            JsonWriter.grid(grid, days, out);
        }
        return GridSnapshot.read(file);
    }

    private static final Grid BEFORE = grid(
            LocalDate.parse("2026-08-05"),
            month(6, "100.10", 0.1, TargetStatus.MET),
            month(7, "12345678901234567890.12", 0.25, TargetStatus.MET),
            month(8, "", 1 / 3.0, TargetStatus.NEAR));

    @Test
    void changedFiguresAreAsTheyWereAndAreAndHowTheyDiffer() throws Exception {
        FactDays before =
                days(Map.of("2026-06-30", total(3, "9"), "2026-07-30", total(2, "5"), "2026-07-31", total(1, "0.10")));
        FactDays now = days(Map.of(
                "2026-06-30",
                total(3, "9.00"),
                "2026-07-30",
                total(4, "6"),
                "2026-08-04",
                total(1, "7"),
                "2026-07-31",
                total(1, "0.20")));
        Grid is = grid(
                LocalDate.parse("2026-08-14"),
                month(6, "100.1", 0.1, TargetStatus.MET),
                month(7, "12345678901234567891.12", 0.25, TargetStatus.MISSED),
                month(8, "5", 1 / 3.0, TargetStatus.NEAR));
        GridChanges changes = GridChanges.between(saved(BEFORE, List.of(before)), is, List.of(now));
        Grid cells = changes.cells();
        assertThat(cells.columns())
                .extracting(Grid.Column::header)
                .containsExactly("sales was", "sales is", "sales difference", "goal_status was", "goal_status is");
        assertThat(cells.rows()).extracting(Grid.Row::labels).containsExactly(List.of("2026-07"), List.of("2026-08"));
        assertThat(cells.rows().get(0).values().subList(0, 3))
                .containsExactly(
                        Grids.exact("12345678901234567890.12"),
                        Grids.exact("12345678901234567891.12"),
                        Grids.exact("1.00"));
        assertThat(cells.rows().get(0).statuses()).isEqualTo(Map.of(3, TargetStatus.MET, 4, TargetStatus.MISSED));
        assertThat(cells.rows().get(1).values().subList(0, 3))
                .as("it was blank")
                .containsExactly(Value.NOTHING, Grids.exact("5"), Value.NOTHING);
        assertThat(cells.rows().get(1).statuses()).isEmpty();
        assertThat(changes.closedPeriods()).containsExactly("2026-07");
        assertThat(cells.notes())
                .containsExactly(
                        "Changes since last.json, as of 2026-08-05; now as of 2026-08-14.",
                        "On 3 days, rows of sales by ordered changed: 3 rows came, 0 rows went; on 1 day as many rows have other"
                                + " amounts.",
                        "Changed though it was over: 2026-07.");
        Grid byDay = changes.days().get(0);
        assertThat(byDay.rows().stream().map(row -> row.labels().get(0) + " " + row.values()))
                .containsExactly(
                        "2026-07-30 [2, 4, 2, 5, 6, 1]",
                        "2026-07-31 [1, 1, 0, 0.10, 0.20, 0.10]",
                        "2026-08-04 [0, 1, 1, 0, 7, 7]");
    }

    @Test
    void rowsAndColumnsThatOnlyOneOfThemHasAreNamed() throws Exception {
        Grid.Column sales = BEFORE.columns().get(0);
        Grid.Column otherwise = new Grid.Column(
                sales.name(), sales.role(), sales.label(), sales.style(), sales.member(), "sum(sales.y)", false);
        Grid.Header head = BEFORE.header();
        List<Grid.Row> rows = new ArrayList<>();
        for (int month = 7; month <= 9; month++) {
            Grid.Row row = BEFORE.rows().get(Math.min(2, month - 6));
            rows.add(Grids.row(
                    row.kind(),
                    row.days(),
                    List.of("2026-0" + month),
                    row.values().get(0),
                    Grids.exact("3")));
        }
        Grid.Column fresh =
                new Grid.Column("fresh", sales.role(), "Fresh", sales.style(), sales.member(), "sum(sales.z)", false);
        Grid is = new Grid(
                new Grid.Header(head.title(), head.keys(), List.of(otherwise, fresh), head.asOf(), head.chart()),
                rows,
                List.of());
        GridChanges changes = GridChanges.between(saved(BEFORE, List.of()), is, List.of());
        assertThat(changes.cells().rows().stream().map(row -> row.labels() + " " + row.values()))
                .containsExactly("[2026-06] [100.10, , ]");
        assertThat(changes.cells().notes())
                .containsExactly(
                        "Changes since last.json, as of 2026-08-05; now as of 2026-08-05.",
                        "sales was defined otherwise: sum(sales.x); now sum(sales.y).",
                        "fresh was not in the earlier report.",
                        "growth is no longer in the report.",
                        "goal_status is no longer in the report.",
                        "Changed though it was over: 2026-06.",
                        "Which rows came or went is not known: last.json was written without --days.");
    }

    @Test
    void nothingChanged() throws Exception {
        FactDays days = days(Map.of("2026-06-30", total(3, "9")));
        GridChanges changes = GridChanges.between(saved(BEFORE, List.of(days)), BEFORE, List.of(days));
        assertThat(changes.cells().rows()).isEmpty();
        assertThat(changes.days()).isEmpty();
        assertThat(changes.closedPeriods()).isEmpty();
        assertThat(changes.cells().notes())
                .contains("No figure changed.", "No row of its facts came, went or changed.");
    }

    @Test
    void onlyTheSameReportIsCompared() throws Exception {
        GridSnapshot saved = saved(BEFORE, List.of());
        Grid.Header head = BEFORE.header();
        Grid other = new Grid(
                new Grid.Header("Years", head.keys(), head.columns(), head.asOf(), head.chart()), List.of(), List.of());
        assertThatThrownBy(() -> GridChanges.between(saved, other, List.of()))
                .isInstanceOf(ModelException.class)
                .hasMessageEndingWith(
                        "last.json is of the report 'Months', not of 'Years'; name the file that was written for it");
        Grid rows = new Grid(
                new Grid.Header(
                        "Months",
                        List.of(new Grid.Key("week", Grid.AxisKind.PERIOD)),
                        head.columns(),
                        head.asOf(),
                        head.chart()),
                List.of(),
                List.of());
        assertThatThrownBy(() -> GridChanges.between(saved, rows, List.of()))
                .hasMessageEndingWith(
                        "has rows by month, and the report has week now; compare it with a file that has the same rows");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '`',
            value = {
                "{\"mile\": 1 | is no JSON: Unexpected end-of-input: expected close marker for Object; write it",
                "[1, 2] | last.json is no report that this version wrote",
                "{\"mile\": 2, \"rows\": []} | last.json is no report that this version wrote",
                "{\"mile\": 1, \"rows\": [{\"labels\": 3}]} | last.json is no report that this version wrote",
                "`` | last.json is no report that this version wrote",
            })
    void filesThatAreNoReportsAreRefused(String text, String message) throws Exception {
        Path file = Files.writeString(folder.resolve("last.json"), text);
        assertThatThrownBy(() -> GridSnapshot.read(file))
                .isInstanceOf(DataException.class)
                .hasMessageContaining(message);
        assertThatThrownBy(() -> GridSnapshot.read(folder.resolve("none.json")))
                .hasMessageContaining("none.json is not there; write one with -o");
    }
}
