package dev.mile.bench;

import dev.mile.calendar.DateRange;
import dev.mile.measure.NumberStyle;
import dev.mile.measure.Value;
import dev.mile.render.html.GridPage;
import dev.mile.render.html.PageReport;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * How long a page of 5,000 rows and 200 members takes in a browser to show its tables, to choose a member, and to open all rows: medians of
 * several, from the call to the end of layout. Needs Chromium on the path.
 */
public final class PageAnswer {
    private static final int MEMBERS = 200;
    private static final int MONTHS = 25;
    private static final int RUNS = 5;

    private PageAnswer() {}

    /** Runs it. */
    public static void main(String[] args) throws Exception {
        Path folder = Files.createTempDirectory("mile-page");
        StringBuilder html = new StringBuilder();
        GridPage.write(
                "Page",
                List.of(new PageReport(byMember(), Optional.empty()), new PageReport(byMember(), Optional.empty())),
                html);
        // from the beginning of the page's script to the end of layout
        int script = html.indexOf("'use strict';");
        html.insert(script + "'use strict';".length(), "\nconst begun = performance.now();");
        html.append(
                """
                <script>
                document.body.offsetHeight;
                const drawn = performance.now();
                addEventListener('load', () => {
                  const median = times => times.sort((a, b) => a - b)[Math.floor(times.length / 2)].toFixed(0);
                  const timed = act => { const from = performance.now(); act(); document.body.offsetHeight; return performance.now() - from; };
                  const chosen = [], all = [];
                  reports.forEach(report => report.figure.show());
                  for (let i = 0; i < 15; i++) chosen.push(timed(() => choose('shop', 'shop ' + i * 7)));
                  choose('shop', 'shop 98');
                  for (let i = 0; i < 15; i++) all.push(timed(() => document.querySelector('#r0 .tools button').click()));
                  const opened = drawn - begun;
                  document.body.dataset.answer = [opened.toFixed(0), median(chosen), median(all)].join(' ');
                });
                </script>""");
        Path page = Files.writeString(folder.resolve("page.html"), html);
        List<double[]> runs = new ArrayList<>();
        for (int i = 0; i < RUNS; i++) {
            runs.add(Arrays.stream(browse(folder, page).split(" "))
                    .mapToDouble(Double::parseDouble)
                    .toArray());
        }
        System.out.printf(
                "page of %,d rows and %d members, %.1f MB: opens its tables in %.0f ms, chooses a member in two reports and their charts in %.0f"
                        + " ms, opens all rows in %.0f ms%n",
                2 * byMember().rows().size(),
                MEMBERS,
                Files.size(page) / 1e6,
                median(runs, 0),
                median(runs, 1),
                median(runs, 2));
    }

    private static double median(List<double[]> runs, int of) {
        return runs.stream().mapToDouble(run -> run[of]).sorted().toArray()[RUNS / 2];
    }

    private static String browse(Path folder, Path page) throws IOException, InterruptedException {
        Process browser = new ProcessBuilder(
                        "chromium",
                        "--headless",
                        "--no-sandbox",
                        "--disable-gpu",
                        "--window-size=1280,800",
                        "--user-data-dir=" + folder.resolve("profile"),
                        "--dump-dom",
                        page.toUri().toString())
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        String dom = new String(browser.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        browser.waitFor();
        Matcher answer = Pattern.compile("data-answer=\"([^\"]*)\"").matcher(dom);
        if (!answer.find()) {
            throw new IllegalStateException("the page did not answer");
        }
        return answer.group(1);
    }

    private static Grid byMember() {
        List<Grid.Row> rows = new ArrayList<>();
        for (int m = 0; m < MEMBERS; m++) {
            for (int i = 0; i < MONTHS / 2; i++) {
                YearMonth month = YearMonth.of(2025, 1).plusMonths(i);
                List<Value> values = new ArrayList<>();
                for (int c = 0; c < 6; c++) {
                    values.add(Value.of(BigDecimal.valueOf(1_000L * m + 37L * i + c, 2)));
                }
                rows.add(new Grid.Row(
                        Grid.RowKind.LEAF,
                        List.of("shop " + m, month.toString()),
                        DateRange.of(month.atDay(1), month.atEndOfMonth()),
                        List.of(),
                        values,
                        Map.of(),
                        List.of()));
            }
        }
        List<Grid.Column> columns = new ArrayList<>();
        for (int c = 0; c < 6; c++) {
            columns.add(new Grid.Column(
                    "m" + c,
                    Grid.ColumnRole.MEASURE,
                    "Measure " + c,
                    NumberStyle.PLAIN,
                    Optional.empty(),
                    "sum(sales.x)",
                    c == 0));
        }
        return new Grid(
                new Grid.Header(
                        "Shops",
                        List.of(
                                new Grid.Key("shop", Grid.AxisKind.MEMBER),
                                new Grid.Key("month", Grid.AxisKind.PERIOD)),
                        columns,
                        Optional.of(LocalDate.of(2026, 8, 14)),
                        Optional.of(new Chart(Chart.Kind.LINES, List.of("m0", "m1")))),
                rows,
                List.of());
    }
}
