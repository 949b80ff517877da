package dev.mile.render.html;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import dev.mile.render.layout.ExactText;
import dev.mile.render.text.Grids;
import dev.mile.report.Chart;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.span.Span;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.Month;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A page of several reports in a real browser: what is chosen in one is chosen in all, and its figures are those of reports with `where`. */
class PageChoiceTest {
    private static final LocalDate AS_OF = LocalDate.of(2026, 3, 18);
    private static final List<String> SHOPS = List.of("Ash & Co", "Birch", "Cedar");

    @TempDir
    Path folder;

    private static Project project() {
        Measure sales = Measure.named("sales");
        return Project.named("Fernhollow Garden Centres")
                .asOf(AS_OF)
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(LocalDate.of(2025, 7, 1)), DateBound.at(LocalDate.of(2026, 12, 31)))
                .fact(Fact.of("sales", "ordered", "day"))
                .label("shop", "Shop")
                .measure("sales", Measure.sum("sales", "amount"))
                .measure("ytd", sales.over(Span.toDate(Level.YEAR)))
                .measure("goal", Measure.sum("sales", "goal").over(Span.toDate(Level.YEAR)))
                .measure("gap", Measure.named("ytd").minus(Measure.named("goal")))
                .measure("ly", sales.over(Span.back(1, Level.YEAR)))
                .measure("growth", sales.minus(Measure.named("ly")).dividedBy(Measure.named("ly")))
                .report(Report.of("shops", List.of("region", "shop"), List.of("sales", "growth"))
                        .withChart(new Chart(Chart.Kind.RANKING, List.of("sales"))))
                .report(Report.of("line", List.of("shop", "month"), List.of("ytd", "goal", "gap"))
                        .withChart(new Chart(Chart.Kind.GAP, List.of("ytd", "goal", "gap"))))
                .report(Report.of("months", List.of("month"), List.of("sales"))
                        .withChart(new Chart(Chart.Kind.LINES, List.of())))
                .report(Report.of("recent", List.of(), List.of("sales"))
                        .withRows(List.of(
                                new Report.RecentPeriods(
                                        List.of(Span.today(), Span.trailing(7, Level.DAY), Span.toDate(Level.YEAR))),
                                new Report.NamedAxis("shop"))))
                .report(Report.of("trend", List.of("month", "region"), List.of("sales"))
                        .withChart(new Chart(Chart.Kind.TREND, List.of("sales"))))
                .build();
    }

    private static Table rows() {
        List<LocalDate> days = new ArrayList<>();
        List<String> shops = new ArrayList<>();
        List<String> regions = new ArrayList<>();
        List<BigDecimal> amounts = new ArrayList<>();
        List<BigDecimal> goals = new ArrayList<>();
        for (LocalDate day = LocalDate.of(2025, 7, 1); !day.isAfter(AS_OF); day = day.plusDays(1)) {
            for (int s = 0; s < SHOPS.size(); s++) {
                days.add(day);
                shops.add(SHOPS.get(s));
                regions.add(s < 2 ? "North" : "South");
                amounts.add(BigDecimal.valueOf(day.getDayOfYear() % 31 * 100L + 7 * s + 5, 2));
                goals.add(BigDecimal.valueOf(15 + s));
            }
        }
        return Table.ofRows(days.size())
                .date("day", days)
                .text("shop", shops)
                .text("region", regions)
                .number("amount", amounts)
                .number("goal", goals);
    }

    private interface Use<T> {
        T of(Session session) throws Exception;
    }

    private static <T> T with(Use<T> use) throws Exception {
        Project project = project();
        try (Session session = Session.open(project, MemoryEngine.over(project).rows("sales", rows()))) {
            return use.of(session);
        }
    }

    private static String page() throws Exception {
        return with(session -> {
            List<Report> reports = List.copyOf(session.project().reports().values());
            List<Grid> grids = session.reports(reports);
            List<PageReport> all = new ArrayList<>();
            for (int i = 0; i < reports.size(); i++) {
                all.add(new PageReport(grids.get(i), session.explain(reports.get(i), 1_000)));
            }
            StringBuilder html = new StringBuilder();
            GridPage.write("Month end", all, html);
            return html.toString();
        });
    }

    private String answer(String link, String script, String... flags) throws Exception {
        return Browser.answer(folder, page(), link, script, flags);
    }

    /** Returns the rows of one shop of a report that keeps only its rows of facts, as the table of the page says them. */
    private static String rowsOf(String report, String shop) throws Exception {
        return with(session -> {
            Report of = session.project()
                    .report(report)
                    .withWhere(Condition.column("shop").is(shop));
            Grid grid = session.report(of);
            return grid.rows().stream()
                    .filter(row -> row.labels().contains(shop))
                    .map(row -> String.join("/", row.labels()) + ";" + cells(row))
                    .collect(Collectors.joining("\n"));
        });
    }

    private static String cells(Grid.Row row) {
        List<String> cells = new ArrayList<>();
        for (int c = 0; c < row.values().size(); c++) {
            cells.add(ExactText.of(row, c));
        }
        return String.join(";", cells);
    }

    private static String withoutCovered(String seen) {
        return seen.lines().filter(line -> !line.contains("·")).collect(Collectors.joining("\n"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"#shop=Ash%20%26%20Co", "row", "bar", "filter"})
    void choosingAMemberChoosesItInAllReportsThatHaveIt(String by) throws Exception {
        String act =
                switch (by) {
                    case "row" -> "rowOf('Ash & Co').querySelector('.choose').click();";
                    case "bar" ->
                        """
                        const bars = document.querySelector('#r0 .drawing');
                        const box = [...bars.querySelectorAll('path')].filter(p => /^(rgb.0, ?114|#0072b2)/i.test(p.getAttribute('fill')))
                          .map(p => p.getBoundingClientRect()).sort((a, b) => a.width - b.width)[0];
                        for (const type of ['mousemove', 'mousedown', 'mouseup', 'click']) bars.querySelector('svg').dispatchEvent(
                          new MouseEvent(type, {bubbles: true, clientX: box.left + box.width / 2, clientY: box.top + box.height / 2}));
                        """;
                    case "filter" -> "pick('choose-shop', 'Ash & Co');";
                    default -> "";
                };
        String seen = answer(
                by.startsWith("#") ? by : "",
                act
                        + """
                const legend = drawn(1).join(' ');
                return [0, 1, 2, 3, 4].map(exact).join('\\n--\\n') + '\\n--\\n' + location.hash + '|' + document.getElementById('chosen').textContent
                  + '|' + document.querySelector('#r2 .of-all').textContent + '|' + document.querySelector('#r0 .of-all').hidden
                  + '|' + legend.includes('Birch') + '|' + document.querySelectorAll('#r1 .pick select').length;
                """);
        String[] parts = seen.split("\n--\n");
        assertThat(withoutCovered(parts[0])).isEqualTo(rowsOf("shops", "Ash & Co"));
        assertThat(withoutCovered(parts[1])).isEqualTo(rowsOf("line", "Ash & Co"));
        assertThat(withoutCovered(parts[3])).isEqualTo(rowsOf("recent", "Ash & Co"));
        assertThat(parts[2].lines()).as("months of all shops").hasSize(9);
        assertThat(parts[2]).doesNotContain("·");
        assertThat(parts[5])
                .isEqualTo("#shop=Ash%20%26%20Co|Shop: Ash & Co|This report does not show Shop: its figures are of all."
                        + "|true|false|0");
    }

    @Test
    void chartsOfManyMembersAskForOneAndAnswerToKeys() throws Exception {
        String seen = answer(
                "",
                """
                const select = document.querySelector('#r1 .pick select');
                const before = [...select.options].map(o => o.textContent).join(',') + ': ' + select.value;
                const chart = document.querySelector('#r1 .drawing');
                select.value = 'Cedar';
                select.dispatchEvent(new Event('change'));
                press(chart, 'Home');
                const said = document.getElementById('said').textContent;
                press(chart, 'Enter');
                document.querySelector('#r0 figure details').open = true;
                await new Promise(done => setTimeout(done, 50));
                return [before, said, location.hash, drawn(4).filter(t => t.includes('R²')).length,
                  document.querySelector('#r0 figure details tbody').textContent].join('\\n');
                """);
        Grid line = with(session -> session.report("line"));
        Grid.Row first = line.rows().stream()
                .filter(row -> row.labels().equals(List.of("Cedar", "FY2025 P07")))
                .findFirst()
                .orElseThrow();
        Grid shops = with(session -> session.report("shops"));
        Grid.Row cedar = shops.rows().stream()
                .filter(row -> row.labels().equals(List.of("South", "Cedar")))
                .findFirst()
                .orElseThrow();
        assertThat(seen.lines())
                .containsExactly(
                        "Ash & Co,Birch,Cedar: Ash & Co",
                        "FY2025 P07: Ytd · Cedar " + first.values().get(0) + ", Goal · Cedar "
                                + first.values().get(1) + ", Gap · Cedar ("
                                + first.values().get(2).toString().substring(1) + ")",
                        "#shop=Cedar",
                        "2",
                        "Cedar" + shown(cedar.values().get(0)));
    }

    private static String shown(Value value) {
        return String.format(Locale.ROOT, "%,.2f", value.toDouble());
    }

    @Test
    void onePeriodOfAListCanBeChosenAndOtherReportsStay() throws Exception {
        String seen = answer("#when=today", "return exact(3) + '\\n--\\n' + seen(2).split('\\n').length;");
        assertThat(seen.split("\n--\n")[0].lines()).hasSize(4).allMatch(line -> line.startsWith("today"));
        assertThat(seen).endsWith("--\n10");
    }

    @Test
    void eachFigureSaysHowItCameAboutAndEachBlankWhy() throws Exception {
        String seen = answer(
                "",
                """
                const dialog = document.getElementById('explanation');
                const read = () => { const text = dialog.innerText.replace(/\\n+/g, '|'); dialog.close(); return text; };
                table(0).querySelectorAll('tbody tr')[1].querySelectorAll('td')[0].click();
                const figure = read();
                rowOf('FY2025 P07', 2).querySelectorAll('td')[0].focus();
                press(document.activeElement, 'Enter');
                const month = read();
                table(0).querySelectorAll('tbody tr')[1].querySelectorAll('td')[1].click();
                const unknown = read();
                return [figure, month, unknown].join('\\n');
                """);
        assertThat(seen.lines().toList().get(0))
                .startsWith("Sales · North · Ash & Co|")
                .contains(
                        "exactly ",
                        "sum(sales.amount)",
                        "The days and rows below are those of all members together; this figure is of North,"
                                + " Ash & Co alone.",
                        "sales by ordered: 783 rows");
        assertThat(seen.lines().toList().get(1))
                .startsWith("Sales · FY2025 P07|")
                .contains("2025-07-01 to 2025-07-31", "31 days", "93 rows");
        assertThat(seen.lines().toList().get(2))
                .startsWith("Growth · North · Ash & Co|blank: unknown|")
                .contains("so 2024-01-01 is missing");
    }

    @ParameterizedTest
    @ValueSource(strings = {"1", "0"})
    void accessibilityRulesFindNothing(String colourScheme) throws Exception {
        String axe;
        try (InputStream in = getClass().getResourceAsStream("/META-INF/resources/webjars/axe-core/4.6.3/axe.min.js")) {
            axe = new String(in.readAllBytes(), StandardCharsets.UTF_8);
        }
        String html = page();
        int end = html.lastIndexOf("</body>");
        String seen = Browser.answer(
                folder,
                html.substring(0, end) + "<script>" + axe + "</script>" + html.substring(end),
                "",
                """
                const dark = matchMedia('(prefers-color-scheme: dark)').matches;
                const found = [];
                for (const act of [() => {}, () => pick('choose-shop', 'Birch'), () => { document.querySelector('#r0 figure details').open = true; },
                  () => table(0).querySelector('tbody td[data-column]').click()]) {
                  act();
                  await new Promise(done => setTimeout(done, 100));
                  const result = await axe.run(document, {resultTypes: ['violations']});
                  found.push(...result.violations.map(v => v.id + ': ' + v.nodes.slice(0, 2).map(n => n.html.slice(0, 160)).join(' ; ')));
                }
                return dark + ' ' + found.join('\\n');
                """,
                "--blink-settings=preferredColorScheme=" + colourScheme);
        assertThat(seen).isEqualTo((colourScheme.equals("0") ? "true" : "false") + " ");
    }

    @Test
    void aPageThatNoBrowserOpensWithoutAPauseIsRefused() {
        Grid.Row row = Grids.row(
                Grid.RowKind.LEAF,
                DateRange.EMPTY,
                List.of("x".repeat(2_000), "y"),
                Value.ZERO,
                Value.ZERO,
                Value.ZERO,
                Value.ZERO,
                Value.ZERO);
        Grid grid = new Grid(
                Grids.shops(List.of("A"), Optional.empty()).header(), Collections.nCopies(30_000, row), List.of());
        assertThatThrownBy(() -> GridPage.write(grid, new StringBuilder()))
                .isInstanceOf(ModelException.class)
                .hasMessageMatching(
                        "the page would have \\d+ MB, .*'Shops <b>of</b> two years' has most of it, 30,000 rows: leave it out, .*");
    }
}
