package dev.mile.render.text;

import dev.mile.calendar.DateRange;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Grids for the tests of what is drawn from them. */
public final class Grids {
    /** Labels that somebody might hope are obeyed. */
    public static final List<String> HOSTILE = List.of(
            "<script>document.title='run'</script>",
            "=1+2",
            "+SUM(A1)",
            "-2",
            "@x",
            "tab\there",
            "say \"so\", 'so'",
            "two\nlines",
            "\u202eright to left \u05d0\u05d1",
            "\ud83c\udf32 tree",
            "</script><img src=x onerror=alert(1)>",
            "&amp; ${7*7} {{title}}");

    private Grids() {}

    /** Returns the style of a pattern; plain for an empty one. */
    public static NumberStyle style(String pattern) {
        return pattern.isEmpty() ? NumberStyle.PLAIN : NumberStyle.PLAIN.withFormat(pattern);
    }

    public static Value exact(String digits) {
        return Value.of(new BigDecimal(digits));
    }

    private static Grid.Column column(String name, Grid.ColumnRole part, String label, String format, boolean bars) {
        NumberStyle style = format.isEmpty() ? NumberStyle.PLAIN.withUnit("EUR") : style(format);
        return new Grid.Column(name, part, label, style, Optional.empty(), "sum(sales.x)", bars);
    }

    public static Grid.Row row(Grid.RowKind kind, DateRange days, List<String> labels, Value... values) {
        return new Grid.Row(kind, labels, days, List.of(), List.of(values), Map.of(), List.of());
    }

    /** Returns the row with one more column, of a status. */
    public static Grid.Row withStatus(TargetStatus status, Grid.Row row) {
        List<Value> values = new ArrayList<>(row.values());
        values.add(Value.UNKNOWN);
        return new Grid.Row(
                row.kind(),
                row.labels(),
                row.days(),
                row.cellDays(),
                values,
                Map.of(values.size() - 1, status),
                row.windows());
    }

    /** Two years of shops: sales, growth, and a target of sales; the shops' names are given. */
    public static Grid shops(List<String> names, Optional<Chart> chart) {
        List<Grid.Row> rows = new ArrayList<>();
        List<Grid.Row> below = new ArrayList<>();
        for (String year : List.of("FY2026", "FY2027")) {
            below.add(withStatus(
                    TargetStatus.NEAR,
                    row(
                            Grid.RowKind.SUBTOTAL,
                            DateRange.EMPTY,
                            List.of(year),
                            exact("300.5"),
                            Value.UNKNOWN,
                            exact("300.5"),
                            exact("310"))));
            for (int i = 0; i < names.size(); i++) {
                Value sales = exact((year.endsWith("7") ? i * 10 - 10 : 100 - i) + ".25");
                below.add(withStatus(
                        TargetStatus.values()[i % 3],
                        row(
                                Grid.RowKind.LEAF,
                                DateRange.EMPTY,
                                List.of(year, names.get(i)),
                                sales,
                                Value.of(i / 7.0),
                                sales,
                                exact("50"))));
            }
        }
        rows.add(withStatus(
                TargetStatus.MISSED,
                row(
                        Grid.RowKind.TOTAL,
                        DateRange.EMPTY,
                        List.of(),
                        exact("12345678901234567.89"),
                        Value.of(0.1),
                        exact("601"),
                        exact("620"))));
        rows.addAll(below);
        return new Grid(
                new Grid.Header(
                        "Shops <b>of</b> two years",
                        List.of(new Grid.Key("year", Grid.AxisKind.PERIOD), new Grid.Key("shop", Grid.AxisKind.MEMBER)),
                        List.of(
                                column("sales", Grid.ColumnRole.MEASURE, "Net sales", "", true),
                                column("growth", Grid.ColumnRole.MEASURE, "growth", "0.0%", false),
                                column("goal", Grid.ColumnRole.VALUE, "Net sales", "", false),
                                column("goal", Grid.ColumnRole.AGAINST, "Sales last year", "", false),
                                column("goal", Grid.ColumnRole.STATUS, "goal", "", false)),
                        Optional.of(LocalDate.of(2026, 8, 14)),
                        chart),
                rows,
                List.of("A note & <i>more</i>."));
    }

    /** Sales of the months of two years side by side, actual to the middle of August 2026. */
    public static Grid years(Chart chart) {
        List<Grid.Row> rows = new ArrayList<>();
        DateRange both = DateRange.of(LocalDate.of(2025, 1, 1), LocalDate.of(2026, 12, 31));
        for (int month = 1; month <= 12; month++) {
            List<DateRange> cells = new ArrayList<>();
            for (int year : List.of(2025, 2026)) {
                YearMonth of = YearMonth.of(year, month);
                cells.add(DateRange.of(of.atDay(1), of.atEndOfMonth()));
            }
            Value sales = month > 8 ? Value.UNKNOWN : exact(Integer.toString(100 * month));
            String label = "P" + (month < 10 ? "0" : "") + month;
            rows.add(new Grid.Row(
                    Grid.RowKind.LEAF, List.of(label), both, cells, List.of(exact("500"), sales), Map.of(), List.of()));
        }
        List<Grid.Column> columns = List.of("2025", "2026").stream()
                .map(year -> new Grid.Column(
                        "sales",
                        Grid.ColumnRole.MEASURE,
                        "Sales",
                        NumberStyle.PLAIN,
                        Optional.of(year),
                        "sum(sales.x)",
                        false))
                .toList();
        return new Grid(
                new Grid.Header(
                        "Years",
                        List.of(new Grid.Key("month of year", Grid.AxisKind.OF_YEAR)),
                        columns,
                        Optional.of(LocalDate.of(2026, 8, 14)),
                        Optional.of(chart)),
                rows,
                List.of());
    }

    /** Months of the year 2026, actual to the middle of August: sales (May is blank), budget, and the difference. */
    public static Grid months(Chart chart) {
        List<Grid.Row> rows = new ArrayList<>();
        for (int month = 1; month <= 12; month++) {
            YearMonth of = YearMonth.of(2026, month);
            Value sales = month == 5 || month > 8 ? Value.UNKNOWN : exact(Integer.toString(100 * month));
            rows.add(row(
                    Grid.RowKind.LEAF,
                    DateRange.of(of.atDay(1), of.atEndOfMonth()),
                    List.of(of.toString()),
                    sales,
                    exact(Integer.toString(90 * month)),
                    sales.isBlank() ? sales : exact(Integer.toString(10 * month - 45))));
        }
        return new Grid(
                new Grid.Header(
                        "Months",
                        List.of(new Grid.Key("month", Grid.AxisKind.PERIOD)),
                        List.of(
                                column("sales", Grid.ColumnRole.MEASURE, "Sales", "", false),
                                column("budget", Grid.ColumnRole.MEASURE, "Budget", "", false),
                                column("gap", Grid.ColumnRole.MEASURE, "Ahead", "", false)),
                        Optional.of(LocalDate.of(2026, 8, 14)),
                        Optional.of(chart)),
                rows,
                List.of());
    }
}
