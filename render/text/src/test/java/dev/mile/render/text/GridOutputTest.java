package dev.mile.render.text;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.DateRange;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import java.io.IOException;
import java.io.StringWriter;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class GridOutputTest {
    private static Value exact(String digits) {
        return Value.of(new BigDecimal(digits));
    }

    static Grid.Column column(String name, Grid.ColumnRole part, String label, String format) {
        NumberStyle style = Grids.style(format);
        return new Grid.Column(name, part, label, style, Optional.empty(), "sum(sales.x)", false);
    }

    private static Grid.Row row(Grid.RowKind kind, List<String> labels, Value... values) {
        return new Grid.Row(kind, labels, DateRange.EMPTY, List.of(), List.of(values), Map.of(), List.of());
    }

    static final Grid GRID = new Grid(
            new Grid.Header(
                    "Sales <script>",
                    List.of(new Grid.Key("year", Grid.AxisKind.PERIOD), new Grid.Key("shop", Grid.AxisKind.MEMBER)),
                    List.of(
                            column("sales", Grid.ColumnRole.MEASURE, "Net sales", ""),
                            column("growth", Grid.ColumnRole.MEASURE, "growth", "0.0%"),
                            column("goal", Grid.ColumnRole.STATUS, "goal", "")),
                    Optional.empty(),
                    Optional.empty()),
            List.of(
                    Grids.withStatus(
                            TargetStatus.MET,
                            row(Grid.RowKind.TOTAL, List.of(), exact("12345678901234567890.12"), Value.of(0.1))),
                    Grids.withStatus(
                            TargetStatus.MISSED,
                            row(Grid.RowKind.SUBTOTAL, List.of("FY2026"), exact("-1234.5"), Value.UNKNOWN)),
                    Grids.withStatus(
                            TargetStatus.NEAR,
                            row(
                                    Grid.RowKind.LEAF,
                                    List.of("FY2026", "=cmd, \"x\"\n"),
                                    exact("-0.10"),
                                    Value.of(-1e-7))),
                    row(Grid.RowKind.LEAF, List.of("FY2026", ""), exact("7"), Value.of(2.0), Value.UNKNOWN)),
            List.of("A note."));

    @Test
    void csvIsExactAndHarmless() throws IOException {
        StringBuilder out = new StringBuilder();
        GridCsv.write(GRID, false, out);
        assertThat(out)
                .hasToString(
                        """
                year,shop,sales,growth,goal_status
                FY2026,"'=cmd, ""x""
                ",-0.10,-0.00000010,near
                FY2026,,7,2,
                """);
        StringBuilder totals = new StringBuilder();
        GridCsv.write(GRID, true, totals);
        assertThat(totals.toString()).contains("\n,,12345678901234567890.12,0.1,met\n", "\nFY2026,,-1234.5,,missed\n");
    }

    @Test
    void textAlignsOnThePointAndPutsTheTotalLast() {
        assertThat(new GridText(false, 200).write(GRID))
                .isEqualTo(
                        """
                Sales <script>

                Year / Shop                       Net sales   growth      goal
                FY2026                            (1,234.50)           ○ missed
                  =cmd, "x"\uFFFD                          (0.10)    0.0%     ◐ near
                  (blank)                              7.00   200.0%
                ───────────────────────────────────────────────────────────────
                Total         12,345,678,901,234,567,890.12    10.0%      ● met

                A note.
                """);
    }

    /** Columns and lines of long reports are written side by side; each row has its own values, in the order of the columns. */
    @Test
    void longReportsAreWrittenAsShortOnesAre() {
        List<Grid.Row> rows = new ArrayList<>();
        for (int i = 0; i < 5_000; i++) {
            rows.add(row(Grid.RowKind.LEAF, List.of("S" + i), exact(i + ".25"), exact("-" + i), exact("7" + i)));
        }
        Grid.Header header = new Grid.Header(
                "Shops",
                List.of(new Grid.Key("shop", Grid.AxisKind.MEMBER)),
                List.of(
                        column("a", Grid.ColumnRole.MEASURE, "a", ""),
                        column("b", Grid.ColumnRole.MEASURE, "b", ""),
                        column("c", Grid.ColumnRole.MEASURE, "c", "")),
                Optional.empty(),
                Optional.empty());
        List<String> all = new GridText(false, 200)
                .write(new Grid(header, rows, List.of()))
                .lines()
                .toList();
        for (int i = 0; i < rows.size(); i++) {
            String[] cells = all.get(all.size() - rows.size() + i)
                    .strip()
                    .replace(",", "")
                    .split(" +");
            assertThat(cells).containsExactly("S" + i, i + ".25", i == 0 ? "0" : "(" + i + ")", "7" + i);
        }
    }

    @Test
    void rowsWithoutARowOfTheirParentNameItAboveThem() {
        Grid grid = new Grid(
                new Grid.Header(
                        "Recent",
                        List.of(new Grid.Key("city", Grid.AxisKind.MEMBER), new Grid.Key("when", Grid.AxisKind.RECENT)),
                        List.of(column("sales", Grid.ColumnRole.MEASURE, "Sales", "")),
                        Optional.empty(),
                        Optional.empty()),
                List.of(
                        row(Grid.RowKind.LEAF, List.of("Alderwick", "today"), exact("1")),
                        row(Grid.RowKind.LEAF, List.of("Alderwick", "yesterday"), exact("2")),
                        row(Grid.RowKind.LEAF, List.of("Brambleford", "today"), exact("3"))),
                List.of());
        assertThat(new GridText(false, 200).write(grid))
                .isEqualTo(
                        """
                Recent

                City / When  Sales
                Alderwick
                  today          1
                  yesterday      2
                Brambleford
                  today          3
                """);
    }

    @Test
    void narrowTerminalsFoldTheTableAndSaySo() {
        assertThat(new GridText(false, 48).write(GRID))
                .contains("200.0%", "stand in 2 tables, one below the other. Widen")
                .containsPattern("Year / Shop +Net sales\n(?s:.*)Year / Shop +growth +goal\n");
    }

    @Test
    void jsonKeepsDigitsThatADoubleWouldLose() throws IOException {
        StringWriter out = new StringWriter();
        JsonWriter.grid(GRID, out);
        assertThat(out.toString())
                .contains("\"12345678901234567890.12\"", "-1234.5", "\"met\"", "null", "=cmd, \\\"x\\\"\\n");
    }
}
