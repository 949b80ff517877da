package dev.mile.render;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.mile.calendar.DateRange;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Opens pages in a real browser, does what a reader does, and reads what stands there. */
class GridPageTest {
    private static final List<String> SHOPS = List.of("Alderwick", "Brambleford", "Cinderhope");

    @TempDir
    Path folder;

    /** Helpers of the scripts: what is seen in the table, row by row, cells separated by bars. */
    private static final String READ =
            """
            const seen = () => [...document.querySelectorAll('#grid tbody tr, #grid tfoot tr')]
              .map(tr => [...tr.children].map(c => c.textContent.replace(/only this$/, '').replace(/^[▾▸]/, '').trim()).join('|')).join('\\n');
            const rowOf = label => [...document.querySelectorAll('#grid tbody tr')].find(tr => tr.querySelector('bdi').textContent === label);
            const press = (label, key) => rowOf(label).dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true}));
            const choose = (id, text) => { const s = document.getElementById(id); s.selectedIndex = [...s.options].findIndex(o => o.textContent === text);
              s.dispatchEvent(new Event('change')); };
            """;

    /** Returns what the script answers in the page. */
    private String browse(Grid grid, String script) throws IOException, InterruptedException {
        assumeTrue(Programs.browser().isPresent(), "no browser here");
        StringBuilder html = new StringBuilder();
        GridPage.write(grid, html);
        html.append("<script>try { document.body.dataset.answer = (() => {")
                .append(READ)
                .append(script)
                .append("})(); } catch (e) { document.body.dataset.answer = 'failed: ' + e; }</script>");
        Path page = Files.writeString(folder.resolve("page.html"), html);
        String dom = Programs.run(
                folder,
                List.of(
                        Programs.browser().get(),
                        "--headless",
                        "--no-sandbox",
                        "--disable-gpu",
                        "--disable-quic",
                        "--no-first-run",
                        "--disable-background-networking",
                        "--disable-component-update",
                        "--disable-sync",
                        "--user-data-dir=" + folder.resolve("profile"),
                        "--dump-dom",
                        page.toUri().toString()));
        Matcher answer = Pattern.compile("data-answer=\"([^\"]*)\"").matcher(dom);
        assertThat(answer.find()).as("an answer in %s", dom).isTrue();
        return answer.group(1)
                .replace("&quot;", "\"")
                .replace("&lt;", "<")
                .replace("&gt;", ">")
                .replace("&amp;", "&");
    }

    private static Grid shops() {
        return Grids.shops(SHOPS, Optional.of(new Chart(Chart.Kind.RANKING, List.of("sales"))));
    }

    @Test
    void rowsOpenByMouseAndKeys() throws Exception {
        assertThat(
                        browse(
                                shops(),
                                """
                        document.querySelectorAll('#tools button')[1].click();
                        const closed = seen();
                        rowOf('FY2027').querySelector('th').click();
                        press('FY2026', 'ArrowRight');
                        const open = rowOf('FY2026').getAttribute('aria-expanded') + document.getElementById('said').textContent;
                        press('Alderwick', 'ArrowLeft');
                        const parent = document.activeElement.querySelector('bdi').textContent;
                        press('FY2026', 'Enter');
                        return closed + '\\n--\\n' + open + ' ' + parent + '\\n--\\n' + seen();
                        """))
                .isEqualTo(
                        """
                        FY2026|300.50||300.50|310|◐ near
                        FY2027|300.50||300.50|310|◐ near
                        Total|12,345,678,901,234,567.89|10.0%|601.00|620|○ missed
                        --
                        trueFY2026 open, 3 rows FY2026
                        --
                        FY2026|300.50||300.50|310|◐ near
                        FY2027|300.50||300.50|310|◐ near
                        Alderwick|(10.25)|0.0%|(10.25)|50|● met
                        Brambleford|0.25|14.3%|0.25|50|◐ near
                        Cinderhope|10.25|28.6%|10.25|50|○ missed
                        Total|12,345,678,901,234,567.89|10.0%|601.00|620|○ missed""");
    }

    @Test
    void aFilterHidesOtherMembersAndTheTotalsThatCoverThem() throws Exception {
        assertThat(
                        browse(
                                shops(),
                                """
                        choose('filter-1', 'Brambleford');
                        const head = document.querySelector('button[data-column="0"]');
                        head.click();
                        const sorted = document.querySelector('th[aria-sort="descending"]').textContent.trim();
                        return sorted + '\\n' + seen();
                        """))
                .isEqualTo(
                        """
                        Net salesEUR
                        FY2026|·|·|·|·|·
                        Brambleford|99.25|14.3%|99.25|50|◐ near
                        FY2027|·|·|·|·|·
                        Brambleford|0.25|14.3%|0.25|50|◐ near""");
    }

    @Test
    void rowsSortWithinTheirParentAndMeasuresCanBeHidden() throws Exception {
        assertThat(
                        browse(
                                shops(),
                                """
                        document.querySelector('button[data-column="0"]').click();
                        document.querySelector('button[data-column="0"]').click();
                        document.querySelectorAll('input[data-measure]').forEach((box, i) => { if (i > 0) box.click(); });
                        rowOf('FY2027').querySelector('.only').click();
                        return document.getElementById('tools').textContent.includes('FY2027 alone') + '\\n' + seen();
                        """))
                .isEqualTo("true\nFY2027|300.50\nAlderwick|(10.25)\nBrambleford|0.25\nCinderhope|10.25");
    }

    @Test
    void copiedRowsHoldExactValues() throws Exception {
        String copied = browse(
                Grids.shops(List.of("=1+2", "B"), Optional.empty()),
                """
                const range = document.createRange();
                range.selectNodeContents(document.querySelector('#grid tbody'));
                getSelection().removeAllRanges();
                getSelection().addRange(range);
                const data = new DataTransfer();
                document.dispatchEvent(new ClipboardEvent('copy', {clipboardData: data, bubbles: true, cancelable: true}));
                return data.getData('text/plain');
                """);
        assertThat(copied)
                .startsWith("year\tshop\tsales\tgrowth\tgoal_value\tgoal_against\tgoal_status\n")
                .contains("FY2026\t'=1+2\t100.25\t0\t100.25\t50\tmet\n", "FY2026\tB\t99.25\t0.14285714285714285\t");
    }

    @Test
    void everyCellCarriesTheGridsExactValueAndHostileLabelsAreText() throws Exception {
        Grid grid = Grids.shops(Grids.HOSTILE, Optional.of(new Chart(Chart.Kind.RANKING, List.of("sales"))));
        String answer = browse(
                grid,
                """
                document.querySelectorAll('#tools button')[0].click();
                const labels = [...document.querySelectorAll('#grid tbody bdi')].map(b => b.textContent);
                const values = [...document.querySelectorAll('#grid tbody tr, #grid tfoot tr')]
                  .map(tr => [...tr.querySelectorAll('td')].map(td => td.dataset.value || '').join(';'));
                return JSON.stringify({title: document.title, h1: document.querySelector('h1').textContent,
                  images: document.images.length, scripts: document.querySelectorAll('#grid script, section script').length,
                  labels, values, note: document.querySelector('#notes').textContent});
                """);
        for (String label : Grids.HOSTILE) {
            String json = label.replace("\\", "\\\\")
                    .replace("\"", "\\\"")
                    .replace("\t", "\\t")
                    .replace("\n", "\\n");
            assertThat(answer).contains("\"" + json + "\"");
        }
        assertThat(answer)
                .contains("\"title\":\"Shops <b>of</b> two years\"", "\"images\":0", "\"scripts\":0")
                .contains("A note & <i>more</i>.");
        for (Grid.Row row : grid.rows()) {
            List<String> exact = new ArrayList<>();
            for (int c = 0; c < grid.columns().size(); c++) {
                exact.add(GridCsv.value(row, c));
            }
            assertThat(answer).contains("\"" + String.join(";", exact) + "\"");
        }
    }

    @Test
    void fiveThousandRowsOpenAtOnce() throws Exception {
        List<Grid.Row> rows = new ArrayList<>();
        Grid few = shops();
        for (int i = 0; i < 5_000; i++) {
            rows.add(Grids.row(
                    Grid.RowKind.LEAF,
                    DateRange.EMPTY,
                    List.of("FY" + i / 500, "shop " + i),
                    few.rows().get(2).values().toArray(dev.mile.measure.Value[]::new)));
        }
        String answer = browse(
                new Grid(shops().header(), rows, List.of()),
                """
                document.querySelectorAll('#tools button')[0].click();
                const height = document.getElementById('grid').offsetHeight;
                return document.querySelectorAll('#grid tbody tr').length + ' ' + (height > 5000);
                """);
        // groups without totals of their own are rows too
        assertThat(answer).isEqualTo("5010 true");
    }
}
