package dev.mile.render;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.DateRange;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import java.io.IOException;
import java.io.StringWriter;
import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;

class GridOutputTest {
    private static Value exact(String digits) {
        return Value.of(new BigDecimal(digits));
    }

    private static final Grid GRID = new Grid(
            "Sales <script>",
            List.of("year", "shop"),
            List.of(
                    new Grid.Column("sales", Grid.Part.MEASURE, "Net sales", "", null),
                    new Grid.Column("growth", Grid.Part.MEASURE, "growth", "0.0%", null),
                    new Grid.Column("goal", Grid.Part.STATUS, "goal", "", null)),
            List.of(
                    new Grid.Row(
                            Grid.Kind.TOTAL,
                            List.of(),
                            DateRange.EMPTY,
                            List.of(exact("12345678901234567890.12"), Value.of(0.1), Value.of(0))),
                    new Grid.Row(
                            Grid.Kind.SUBTOTAL,
                            List.of("FY2026"),
                            DateRange.EMPTY,
                            List.of(exact("-1234.5"), Value.BLANK, Value.of(2))),
                    new Grid.Row(
                            Grid.Kind.LEAF,
                            List.of("FY2026", "=cmd, \"x\"\n"),
                            DateRange.EMPTY,
                            List.of(exact("-0.10"), Value.of(-1e-7), Value.of(1))),
                    new Grid.Row(
                            Grid.Kind.LEAF,
                            List.of("FY2026", ""),
                            DateRange.EMPTY,
                            List.of(exact("7"), Value.of(2.0), Value.BLANK))),
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

                year / shop                       Net sales   growth      goal
                FY2026                            (1,234.50)           ○ missed
                  =cmd, "x"\uFFFD                          (0.10)    0.0%     ◐ near
                  (blank)                              7.00   200.0%
                ───────────────────────────────────────────────────────────────
                Total         12,345,678,901,234,567,890.12    10.0%      ● met

                A note.
                """);
    }

    @Test
    void narrowTerminalsLeaveColumnsOutAndSayWhich() {
        assertThat(new GridText(false, 48).write(GRID))
                .contains("shown: growth, goal_status. Widen the window")
                .doesNotContain("200.0%");
    }

    @Test
    void jsonKeepsDigitsThatADoubleWouldLose() throws IOException {
        StringWriter out = new StringWriter();
        Json.grid(GRID, out);
        assertThat(out.toString())
                .contains("\"12345678901234567890.12\"", "-1234.5", "\"met\"", "null", "=cmd, \\\"x\\\"\\n");
    }
}
