package dev.mile.render.html;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.DateRange;
import dev.mile.measure.Value;
import dev.mile.render.chart.GridChart;
import dev.mile.render.text.GridCsv;
import dev.mile.render.text.GridText;
import dev.mile.render.text.Grids;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.io.StringWriter;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The language of a report in all that is written from it: terminal, page, picture and data file. */
class LocaleTest {
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            en    | 2026-08-14  | 1,234.50   | (12.5%)
            de    | 14.08.2026  | 1.234,50   | (12,5%)
            de-CH | 14.08.2026  | 1’234.50   | (12.5%)
            es    | 14 ago 2026 | 1.234,50   | (12,5%)
            ja    | 2026/08/14  | 1,234.50   | (12.5%)
            """)
    void whatPeopleReadIsWrittenInTheirLanguage(String language, String day, String amount, String share)
            throws Exception {
        Grid.Header plain = Grids.shops(List.of("A"), Optional.empty()).header();
        Grid.Header header = new Grid.Header(
                "p",
                "r",
                "Days",
                List.of(new Grid.Key("date", Grid.AxisKind.PERIOD)),
                plain.columns().subList(0, 2),
                plain.asOf(),
                Optional.of(new Chart(Chart.Kind.LINES, List.of("sales"))),
                Optional.empty(),
                List.of(),
                Locale.forLanguageTag(language));
        Grid grid = new Grid(
                header,
                List.of(Grids.row(
                        Grid.RowKind.LEAF,
                        DateRange.of(LocalDate.parse("2026-08-14"), LocalDate.parse("2026-08-14")),
                        List.of("2026-08-14"),
                        Grids.exact("1234.5"),
                        Value.of(-0.125))),
                List.of());
        assertThat(new GridText(false, 100).write(grid).lines().filter(line -> line.startsWith(day)))
                .singleElement()
                .asString()
                .contains(amount, share);
        StringBuilder page = new StringBuilder();
        GridPage.write(grid, page);
        String data = page.substring(page.indexOf("id=\"data\""), page.indexOf("</script>"));
        // a label that reads as it is stands there once
        assertThat(data.contains("\"s\":\"" + day + "\"")).isEqualTo(!language.equals("en"));
        assertThat(data)
                .contains("\"t\":[\"" + amount + "\",\"" + share + "\"]", "Actuals as of " + day)
                .contains("\"v\":[\"1234.5\",\"-0.125\"]");
        StringWriter svg = new StringWriter();
        GridChart.svg(grid, svg);
        assertThat(svg.toString()).contains(">" + (language.equals("en") ? "2026-08-14" : day) + "<");
        StringBuilder csv = new StringBuilder();
        GridCsv.write(grid, false, csv);
        assertThat(csv.toString()).isEqualTo("date,sales,growth\n2026-08-14,1234.5,-0.125\n");
    }
}
