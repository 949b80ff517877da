package dev.mile.render.html;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.mile.render.text.Programs;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Opens pages in a real browser, does what a reader does, and reads what stands there. */
final class Browser {
    private Browser() {}

    /** Helpers of the scripts: what is seen in a table, row by row, cells separated by bars. */
    private static final String READ =
            """
            reports.forEach(report => report.figure && report.figure.show());
            const table = n => document.querySelector('#r' + n + ' table[role=treegrid]');
            const tools = n => document.querySelectorAll('#r' + n + ' .tools button');
            const seen = (n = 0) => [...table(n).querySelectorAll('tbody tr, tfoot tr')]
              .map(tr => [...tr.children].map(c => c.tagName === 'TH' ? (c.querySelector('bdi') || c).textContent : c.textContent).join('|')).join('\\n');
            const exact = n => [...table(n).querySelectorAll('tbody tr')].map(tr => [JSON.parse(tr.dataset.path).join('/'),
              ...[...tr.querySelectorAll('td')].map(td => td.dataset.value === undefined ? td.textContent : td.dataset.value)].join(';')).join('\\n');
            const rowOf = (label, n = 0) => [...table(n).querySelectorAll('tbody tr')].find(tr => tr.querySelector('bdi').textContent === label);
            const press = (element, key) => element.dispatchEvent(new KeyboardEvent('keydown', {key, bubbles: true, cancelable: true}));
            const pick = (id, text) => { const s = document.getElementById(id); s.selectedIndex = [...s.options].findIndex(o => o.textContent === text);
              s.dispatchEvent(new Event('change')); };
            const drawn = n => [...document.querySelectorAll('#r' + n + ' .drawing text')].map(t => t.textContent);
            """;

    /**
     * Returns what the script answers in the page; it may wait.
     *
     * @param link what is behind the address of the page, such as {@code #shop=A}
     * @param flags further flags of the browser
     */
    static String answer(Path folder, CharSequence html, String link, String script, String... flags)
            throws IOException, InterruptedException {
        assumeTrue(Programs.browser().isPresent(), "no browser here");
        String ask = "<script>(async () => {" + READ + script
                + "})().then(answer => { document.body.dataset.answer = answer; },"
                + " e => { document.body.dataset.answer = 'failed: ' + e; });</script>";
        Path page = Files.writeString(folder.resolve("page.html"), html + ask);
        List<String> command = new ArrayList<>(List.of(
                Programs.browser().get(),
                "--headless",
                "--no-sandbox",
                "--disable-gpu",
                "--disable-quic",
                "--no-first-run",
                "--disable-background-networking",
                "--disable-component-update",
                "--disable-sync",
                "--window-size=1280,800",
                "--virtual-time-budget=60000",
                "--user-data-dir=" + folder.resolve("profile")));
        command.addAll(List.of(flags));
        command.addAll(List.of("--dump-dom", page.toUri() + link));
        String dom = Programs.run(folder, command);
        Matcher answer = Pattern.compile("data-answer=\"([^\"]*)\"").matcher(dom);
        assertThat(answer.find())
                .as("an answer in %s", dom.substring(0, Math.min(2_000, dom.length())))
                .isTrue();
        return answer.group(1)
                .replace("&quot;", "\"")
                .replace("&lt;", "<")
                .replace("&gt;", ">")
                .replace("&amp;", "&");
    }
}
