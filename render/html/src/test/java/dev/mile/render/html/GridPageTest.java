package dev.mile.render.html;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.DateRange;
import dev.mile.render.layout.ExactText;
import dev.mile.render.layout.ShownColumns;
import dev.mile.render.text.Grids;
import dev.mile.report.Chart;
import dev.mile.report.Grid;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Opens pages in a real browser, does what a reader does, and reads what stands there. */
class GridPageTest {
    private static final List<String> SHOPS = List.of("Alderwick", "Brambleford", "Cinderhope");

    @TempDir
    Path folder;

    private String browse(Grid grid, String script) throws IOException, InterruptedException {
        StringBuilder html = new StringBuilder();
        GridPage.write(grid, html);
        return Browser.answer(folder, html, "", script);
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
                        tools(0)[1].click();
                        const closed = seen();
                        rowOf('FY2027').querySelector('th').click();
                        press(rowOf('FY2026'), 'ArrowRight');
                        const open = rowOf('FY2026').getAttribute('aria-expanded') + document.getElementById('said').textContent;
                        press(rowOf('Alderwick'), 'ArrowLeft');
                        const parent = document.activeElement.querySelector('bdi').textContent;
                        press(rowOf('FY2026'), 'Enter');
                        return closed + '\\n--\\n' + open + ' ' + parent + '\\n--\\n' + seen();
                        """))
                .isEqualTo(
                        """
                        FY2026|300.50||310|◐ near
                        FY2027|300.50||310|◐ near
                        Total|12,345,678,901,234,567.89|10.0%|620|○ missed
                        --
                        trueFY2026 open, 3 rows FY2026
                        --
                        FY2026|300.50||310|◐ near
                        FY2027|300.50||310|◐ near
                        Alderwick|(10.25)|0.0%|50|● met
                        Brambleford|0.25|14.3%|50|◐ near
                        Cinderhope|10.25|28.6%|50|○ missed
                        Total|12,345,678,901,234,567.89|10.0%|620|○ missed""");
    }

    @Test
    void aFilterHidesOtherMembersAndTheTotalsThatCoverThem() throws Exception {
        assertThat(
                        browse(
                                shops(),
                                """
                        pick('choose-shop', 'Brambleford');
                        const head = table(0).querySelector('button[data-column="0"]');
                        head.click();
                        const sorted = table(0).querySelector('th[aria-sort="descending"]').textContent.trim();
                        return sorted + '\\n' + seen();
                        """))
                .isEqualTo(
                        """
                        Net salesEUR
                        FY2026|·|·|·|·
                        Brambleford|99.25|14.3%|50|◐ near
                        FY2027|·|·|·|·
                        Brambleford|0.25|14.3%|50|◐ near""");
    }

    @Test
    void rowsSortWithinTheirParentAndMeasuresCanBeHidden() throws Exception {
        assertThat(
                        browse(
                                shops(),
                                """
                        table(0).querySelector('button[data-column="0"]').click();
                        table(0).querySelector('button[data-column="0"]').click();
                        document.querySelectorAll('input[data-measure]').forEach((box, i) => { if (i > 0) box.click(); });
                        rowOf('FY2027').querySelector('.only').click();
                        return document.querySelector('#r0 .tools').textContent.includes('FY2027 alone') + '\\n' + seen();
                        """))
                .isEqualTo("true\nFY2027|300.50\nAlderwick|(10.25)\nBrambleford|0.25\nCinderhope|10.25");
    }

    @Test
    void copiedRowsHoldExactValues() throws Exception {
        String copied = browse(
                Grids.shops(List.of("=1+2", "B"), Optional.empty()),
                """
                const range = document.createRange();
                range.selectNodeContents(table(0).tBodies[0]);
                getSelection().removeAllRanges();
                getSelection().addRange(range);
                const data = new DataTransfer();
                document.dispatchEvent(new ClipboardEvent('copy', {clipboardData: data, bubbles: true, cancelable: true}));
                return data.getData('text/plain');
                """);
        assertThat(copied)
                .startsWith("year\tshop\tsales\tgrowth\tgoal_against\tgoal_status\n")
                .contains("FY2026\t'=1+2\t100.25\t0\t50\tmet\n", "FY2026\tB\t99.25\t0.14285714285714285\t");
    }

    @Test
    void everyCellCarriesTheGridsExactValueAndHostileLabelsAreText() throws Exception {
        Grid grid = Grids.shops(Grids.HOSTILE, Optional.of(new Chart(Chart.Kind.RANKING, List.of("sales"))));
        String answer = browse(
                grid,
                """
                tools(0)[0].click();
                const labels = [...table(0).querySelectorAll('tbody bdi')].map(b => b.textContent);
                const values = [...table(0).querySelectorAll('tbody tr, tfoot tr')]
                  .map(tr => [...tr.querySelectorAll('td')].map(td => td.dataset.value || '').join(';'));
                return JSON.stringify({title: document.title, h1: document.querySelector('h1').textContent,
                  images: document.images.length, scripts: document.querySelectorAll('section script').length,
                  labels, values, note: document.querySelector('ul.notes').textContent});
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
            for (int c : ShownColumns.of(grid.header())) {
                exact.add(ExactText.of(row, c));
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
                tools(0)[0].click();
                const first = table(0).tBodies[0].rows.length;
                while (table(0).tBodies[0].rows.length < 5010) await new Promise(done => setTimeout(done, 20));
                return first + ' ' + table(0).tBodies[0].rows.length + ' ' + (table(0).offsetHeight > 5000);
                """);
        // groups without totals of their own are rows too
        assertThat(answer).isEqualTo("250 5010 true");
    }
}
