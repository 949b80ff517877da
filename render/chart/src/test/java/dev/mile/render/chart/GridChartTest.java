package dev.mile.render.chart;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.render.layout.AxisLabels;
import dev.mile.render.layout.ChartData;
import dev.mile.render.layout.ChartPicture;
import dev.mile.render.layout.Trend;
import dev.mile.render.text.Grids;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import javax.imageio.ImageIO;
import javax.xml.parsers.DocumentBuilderFactory;
import org.assertj.core.data.Offset;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.w3c.dom.Document;

class GridChartTest {
    private static Grid grid(Chart.Kind kind) {
        boolean members = kind == Chart.Kind.RANKING || kind == Chart.Kind.STATUS;
        Chart chart = new Chart(kind, kind == Chart.Kind.GAP ? List.of("sales", "budget", "gap") : List.of());
        if (kind == Chart.Kind.YEARS) {
            return Grids.years(chart);
        }
        return members ? Grids.shops(Grids.HOSTILE, Optional.of(chart)) : Grids.months(chart);
    }

    @ParameterizedTest
    @EnumSource
    void everyKindIsDrawn(Chart.Kind kind) throws Exception {
        ByteArrayOutputStream png = new ByteArrayOutputStream();
        GridChart.png(grid(kind), png);
        BufferedImage image = ImageIO.read(new ByteArrayInputStream(png.toByteArray()));
        assertThat(image.getWidth()).isEqualTo(2400);
        Set<Integer> colours = new HashSet<>();
        for (int x = 0; x < image.getWidth(); x += 2) {
            for (int y = 0; y < image.getHeight(); y += 2) {
                colours.add(image.getRGB(x, y) & 0xFFFFFF);
            }
        }
        assertThat(colours).contains(0xFFFFFF, 0x0072B2);
        StringWriter svg = new StringWriter();
        GridChart.svg(grid(kind), svg);
        Document document = DocumentBuilderFactory.newInstance()
                .newDocumentBuilder()
                .parse(new ByteArrayInputStream(svg.toString().getBytes(StandardCharsets.UTF_8)));
        assertThat(document.getDocumentElement().getAttribute("aria-label")).startsWith("Chart: ");
        assertThat(document.getElementsByTagName("script").getLength()).isZero();
        assertThat(document.getElementsByTagName("text").getLength()).isGreaterThan(8);
    }

    @Test
    void actualsEndWhereTheAsOfDateStands() {
        ChartData data = ChartData.of(grid(Chart.Kind.LINES), new Chart(Chart.Kind.LINES, List.of("sales", "budget")));
        assertThat(data.series().get(0).actual()).isEqualTo(7);
        // fourteen of the 31 days of August, the eighth month, are over
        assertThat(data.asOfAt()).isEqualTo(7 - 0.5 + 14 / 31.0);
        assertThat(data.asOf()).isEqualTo("2026-08-14");
        assertThat(data.series().get(0).values().get(4)).as("May is blank").isNull();
    }

    @Test
    void trendsAreFittedToWholePeriodsOnly() {
        Chart chart = new Chart(Chart.Kind.TREND, List.of("sales", "budget"));
        Grid grid = Grids.months(chart);
        List<Grid.Column> columns = new ArrayList<>(grid.columns());
        Grid.Column sales = columns.get(0);
        columns.set(
                0,
                new Grid.Column(
                        sales.name(),
                        sales.role(),
                        sales.label(),
                        sales.style(),
                        sales.member(),
                        sales.definition(),
                        sales.bars(),
                        Optional.of(LocalDate.of(2026, 1, 12))));
        Grid.Header header = grid.header();
        List<ChartData.Series> series = ChartData.of(
                        new Grid(
                                new Grid.Header(
                                        header.title(), header.keys(), columns, header.asOf(), Optional.of(chart)),
                                grid.rows(),
                                grid.notes()),
                        chart)
                .series();
        // sales begin on 12 January and have none in May; August is not over
        assertThat(series.get(0).whole()).containsExactly(null, 200.0, 300.0, 400.0, null, 600.0, 700.0);
        assertThat(series.get(1).whole()).containsExactly(90.0, 180.0, 270.0, 360.0, 450.0, 540.0, 630.0);
    }

    @Test
    void periodsOfWhichOnlySomeDaysAreShownAreNoEvidence() {
        Chart chart = new Chart(Chart.Kind.TREND, List.of("budget"));
        Grid grid = Grids.months(chart);
        List<Grid.Row> rows = grid.rows().subList(0, 7);
        Grid.Header header = grid.header();
        ChartData data = ChartData.of(
                new Grid(
                        new Grid.Header(
                                header.project(),
                                header.report(),
                                header.title(),
                                header.keys(),
                                grid.columns(),
                                header.asOf(),
                                Optional.of(chart),
                                Optional.empty(),
                                List.of(
                                        rows.get(0).labels().get(0),
                                        rows.get(6).labels().get(0)),
                                Locale.ENGLISH),
                        rows,
                        grid.notes()),
                chart);
        assertThat(data.series().get(0).whole()).containsExactly(null, 180.0, 270.0, 360.0, 450.0, 540.0);
        assertThat(data.series().get(0).isOver()).isFalse();
        assertThat(data.asOf()).as("the as-of date lies after what is shown").isEmpty();
    }

    @Test
    void theUnfinishedMonthOfAYearIsToCome() {
        ChartData data = ChartData.of(grid(Chart.Kind.YEARS), new Chart(Chart.Kind.YEARS, List.of()));
        assertThat(data.series()).extracting(ChartData.Series::label).containsExactly("2025", "2026");
        assertThat(data.series()).extracting(ChartData.Series::actual).containsExactly(12, 7);
    }

    @Test
    void barsRunFromBestToWorstAndStatusesStandBeside() {
        ChartData ranking = ChartData.of(
                Grids.shops(List.of("A", "B"), Optional.empty()), new Chart(Chart.Kind.RANKING, List.of("sales")));
        assertThat(ranking.categories()).containsExactly("FY2026 · A", "FY2026 · B", "FY2027 · B", "FY2027 · A");
        assertThat(ranking.series().get(0).values()).containsExactly(100.25, 99.25, 0.25, -10.25);
        ChartData status =
                ChartData.of(Grids.shops(List.of("A", "B"), Optional.empty()), new Chart(Chart.Kind.STATUS, List.of()));
        assertThat(status.statuses())
                .extracting(s -> s.orElseThrow().word())
                .containsExactly("met", "near", "met", "near");
        assertThat(status.series().get(1).label()).isEqualTo("Sales last year");
    }

    @Test
    void kindsThatDoNotFitTheReportSayWhatTheyNeed() {
        assertThatThrownBy(() -> ChartData.of(
                        Grids.months(new Chart(Chart.Kind.YEARS, List.of())), new Chart(Chart.Kind.YEARS, List.of())))
                .hasMessage(
                        "a years chart needs a place in the year in its rows; write `rows: [month of year]` and `columns: [year]`");
        assertThatThrownBy(() -> ChartData.of(
                        Grids.months(new Chart(Chart.Kind.GAP, List.of())),
                        new Chart(Chart.Kind.GAP, List.of("sales"))))
                .hasMessageStartingWith("a gap chart draws two measures and their difference; name three");
        assertThatThrownBy(() -> ChartData.of(
                        Grids.months(new Chart(Chart.Kind.STATUS, List.of())), new Chart(Chart.Kind.STATUS, List.of())))
                .hasMessage("a status chart draws a target; show one, such as `show: [growth_target]`");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            Nov 2026,Dec 2026,Jan 2027,Feb 2027    | Nov,Dec,Jan,Feb  | 2026,2026,2027,2027
            FY27 W01,FY27 W02,FY28 W01             | FY27 W01,FY27 W02,FY28 W01 | ,,
            FY27 W01,FY27 W02,FY28 W01,FY28 W02    | W01,W02,W01,W02  | FY27,FY27,FY28,FY28
            2026-12-31,2027-01-01                  | 2026-12-31,2027-01-01 | ,
            2026-12-30,2026-12-31,2027-01-01,2027-01-02 | 12-30,12-31,01-01,01-02 | 2026,2026,2027,2027
            A,B                                    | A,B              | ,
            Aug 2026                               | Aug 2026         | ''
            """)
    void whatLabelsHaveInCommonIsNamedOnce(String labels, String ticks, String groups) {
        AxisLabels words = AxisLabels.of(List.of(labels.split(",")));
        assertThat(String.join(",", words.ticks())).isEqualTo(ticks);
        assertThat(String.join(",", words.groups())).isEqualTo(groups == null ? "" : groups);
    }

    @Test
    void manyMembersAreSmallMultiplesAndWhatIsLeftOutIsSaid() throws Exception {
        List<String> members = IntStream.range(0, 15).mapToObj(i -> "shop " + i).toList();
        Chart chart = new Chart(Chart.Kind.GAP, List.of("sales", "budget", "gap"));
        Grid one = Grids.months(chart);
        List<Grid.Row> rows = new ArrayList<>();
        for (String member : members) {
            for (Grid.Row row : one.rows()) {
                rows.add(Grids.row(
                        row.kind(),
                        row.days(),
                        List.of(member, row.labels().get(0)),
                        row.values().toArray(dev.mile.measure.Value[]::new)));
            }
        }
        Grid grid = new Grid(
                new Grid.Header(
                        "Gap",
                        List.of(
                                new Grid.Key("shop", Grid.AxisKind.MEMBER),
                                new Grid.Key("month", Grid.AxisKind.PERIOD)),
                        one.columns(),
                        one.header().asOf(),
                        Optional.of(chart)),
                rows,
                List.of());
        ChartPicture picture = ChartPicture.of(grid);
        assertThat(picture.panels())
                .extracting(ChartPicture.Panel::member)
                .containsExactlyElementsOf(members.subList(0, 12));
        assertThat(picture.note()).startsWith("12 of 15 members are drawn; choose others with --where");
        assertThat(picture.legend()).isEqualTo("Sales, Budget, Ahead");
        StringWriter svg = new StringWriter();
        GridChart.svg(grid, svg);
        assertThat(svg.toString())
                .contains("shop 11", "12 of 15 members are drawn")
                .doesNotContain("shop 12<");
    }

    @Test
    void ofManyBarsThoseAtBothEndsAreDrawnAndTheOthersCounted() {
        List<String> names = IntStream.range(0, 40).mapToObj(i -> "shop " + i).toList();
        Chart chart = new Chart(Chart.Kind.RANKING, List.of("sales"));
        ChartPicture picture = ChartPicture.of(Grids.shops(names.subList(0, 20), Optional.of(chart)));
        ChartData drawn = picture.panels().get(0).data();
        assertThat(drawn.categories()).hasSize(25).contains("… 16 between …");
        assertThat(drawn.categories().get(12)).isEqualTo("… 16 between …");
        assertThat(drawn.series().get(0).values().get(12)).isNull();
        assertThat(drawn.series().get(0).values().get(0)).isEqualTo(179.25 + 1);
        assertThat(picture.note()).isEqualTo("The first and the last 12 of 40 rows are drawn, 16 lie between.");
    }

    @Test
    void statusesComeWorstFirstWhereThatIsAsked() {
        ChartData data = ChartData.of(
                Grids.shops(List.of("A", "B", "C"), Optional.empty()), new Chart(Chart.Kind.STATUS, List.of(), true));
        assertThat(data.statuses())
                .extracting(s -> s.orElseThrow().word())
                .containsExactly("missed", "missed", "near", "near", "met", "met");
        // of two that missed 50, the one at 10.25 is farther from it than the one at 98.25
        assertThat(data.series().get(0).values().subList(0, 2)).containsExactly(98.25, 10.25);
        assertThatThrownBy(() -> new Chart(Chart.Kind.LINES, List.of(), true))
                .hasMessage("a lines chart has no statuses to come worst first; only a status chart has");
    }

    @Test
    void theBarOfAPeriodThatIsNotOverIsToldFromOthers() {
        Chart chart = new Chart(Chart.Kind.RANKING, List.of("sales"));
        ChartData months = ChartData.of(Grids.months(chart), chart);
        assertThat(months.categories()).startsWith("2026-08", "2026-07");
        assertThat(months.unfinished()).containsExactly(true, false, false, false, false, false, false);
        assertThat(months.withGap(1, 6).unfinished()).containsExactly(true, false, false);
        // where all are alike, there is nothing to tell them from
        assertThat(ChartData.of(Grids.shops(List.of("A", "B"), Optional.empty()), chart)
                        .unfinished())
                .doesNotContain(true);
    }

    @Test
    void monthsAreNamedWhereYearsAreLaidBesideEachOther() {
        assertThat(ChartData.of(grid(Chart.Kind.YEARS), new Chart(Chart.Kind.YEARS, List.of()))
                        .categories())
                .startsWith("Jan", "Feb")
                .hasSize(12);
    }

    @Test
    void trendsAreThoseOfLeastSquares() {
        // 2, 4, 5, 4, 5 over 1 to 5: the slope is 6 / 10, R squared 3.6 / 6
        Trend line = Trend.linear(Arrays.asList(2.0, 4.0, 5.0, 4.0, 5.0)).orElseThrow();
        assertThat(line.intercept()).isEqualTo(2.2, Offset.offset(1e-12));
        assertThat(line.slope()).isEqualTo(0.6, Offset.offset(1e-12));
        assertThat(line.rSquared()).isEqualTo(0.6, Offset.offset(1e-12));
        assertThat(line.equation(Locale.ENGLISH)).isEqualTo("y = 2.200 + 0.6000 n, R² = 0.60");
        Trend curve =
                Trend.exponential(Arrays.asList(200.0, null, 800.0, 1600.0)).orElseThrow();
        assertThat(curve.at(2)).isEqualTo(400, Offset.offset(1e-9));
        assertThat(curve.equation(Locale.GERMAN)).isEqualTo("y = 100,0 e^(0,6931 n), R² = 1,00");
        assertThat(Trend.exponential(Arrays.asList(1.0, 0.0, 2.0, 3.0))).isEmpty();
        assertThat(Trend.linear(Arrays.asList(1.0, null, 2.0))).isEmpty();
    }
}
