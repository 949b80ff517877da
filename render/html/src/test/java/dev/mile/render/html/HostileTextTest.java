package dev.mile.render.html;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.measure.MeasureDefinition;
import dev.mile.measure.NumberStyle;
import dev.mile.report.Chart;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Texts that hope to run, in every position that a model and its data fill, in a real browser: nothing runs, nothing is asked for. */
class HostileTextTest {
    private static final String BAD =
            "</script></style></title><script>window.hit=1</script><img src=http://mile.example/x onerror=window.hit=1>"
                    + "<svg onload=window.hit=1>\"'`{{data}}${window.hit=1}<!--";

    @TempDir
    Path folder;

    @Test
    void textStaysTextInEveryPosition() throws Exception {
        Project project = Project.named(BAD)
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .fact(Fact.of("sales", "on", "day"))
                .label("shop", BAD)
                .measure(MeasureDefinition.of("sales", Measure.sum("sales", "amount"))
                        .withLabel(BAD)
                        .withStyle(NumberStyle.PLAIN.withUnit(BAD)))
                .build();
        Table rows = Table.ofRows(2)
                .date("day", List.of(LocalDate.parse("2026-03-01"), LocalDate.parse("2026-04-01")))
                .text("shop", List.of(BAD, "B" + BAD))
                .text("town", List.of(BAD, "T" + BAD))
                .number("amount", List.of(BigDecimal.ONE, BigDecimal.TEN));
        Report report = Report.of("r", List.of("shop", "month"), List.of("sales"))
                .withTitle(BAD)
                .withChart(new Chart(Chart.Kind.RANKING, List.of("sales")));
        Report columns = Report.of("c", List.of("month"), List.of("sales"))
                .withColumns(Report.of("x", List.of("town"), List.of("sales")).rows())
                .withTitle(BAD + "2");
        StringBuilder html = new StringBuilder();
        try (Session session = Session.open(project, MemoryEngine.over(project).rows("sales", rows))) {
            GridPage.write(
                    BAD,
                    List.of(
                            new PageReport(session.report(report), Optional.empty()),
                            new PageReport(session.report(columns), Optional.empty())),
                    html);
        }
        String answer = Browser.answer(
                folder,
                html,
                "",
                """
                await new Promise(done => setTimeout(done, 300));
                const made = 'script,img,iframe,object,embed,link,base,form'.split(',')
                  .map(tag => document.querySelectorAll('section ' + tag + ', header ' + tag + ', h1 ' + tag).length);
                const handlers = [...document.querySelectorAll('*')].filter(e => [...e.attributes].some(a => a.name.startsWith('on'))).length;
                return JSON.stringify({hit: String(window.hit), made: made.reduce((a, b) => a + b, 0), handlers,
                  asked: performance.getEntriesByType('resource').length, title: document.title.length > 50,
                  policy: document.querySelector('meta[http-equiv=Content-Security-Policy]') !== null,
                  shown: document.body.textContent.includes('window.hit=1')});
                """);
        assertThat(answer)
                .isEqualTo(
                        "{\"hit\":\"undefined\",\"made\":0,\"handlers\":0,\"asked\":0,\"title\":true,\"policy\":true,\"shown\":true}");
    }
}
