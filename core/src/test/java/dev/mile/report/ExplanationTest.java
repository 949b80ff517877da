package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.CoveredDays;
import dev.mile.fact.Fact;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.span.Span;
import dev.mile.testkit.TestRows;
import dev.mile.workday.WorkingWeek;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** What explanations say of each operand: its value or why there is none, its rows, its days. */
class ExplanationTest {
    private static final Measure SALES = Measure.sum("sales", "amount");
    private static final Measure RETURNS = Measure.sum("returns", "amount");
    private static final Measure ZERO = Measure.number(BigDecimal.ZERO);

    private static Project project() {
        return Project.named("p")
                .asOf(LocalDate.parse("2026-03-10"))
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(LocalDate.parse("2024-01-01")), DateBound.at(LocalDate.parse("2026-12-31")))
                .working(WorkingWeek.named("w").rest(DayOfWeek.SUNDAY).build())
                .fact(Fact.of("sales", "on", "on").withDate("paid", "paid"))
                .fact(Fact.of("returns", "on", "on").withCoveredDays(CoveredDays.from(LocalDate.parse("2025-01-01"))))
                .fact(Fact.of("empty", "on", "on"))
                .build();
    }

    private static Session session() {
        Project project = project();
        MemoryEngine engine = MemoryEngine.over(project)
                .rows(
                        "sales",
                        TestRows.of(
                                        "on:date,paid:date,shop,amount:number",
                                        "2025-02-03,2025-02-20,S1,4",
                                        "2025-03-31,2026-03-20,S2,6",
                                        "2026-01-05,,S1,10",
                                        "2026-02-10,,S1,",
                                        "2026-03-02,,S2,3",
                                        "2026-03-10,,S1,1")
                                .table())
                .rows(
                        "returns",
                        TestRows.of("on:date,amount:number", "2026-01-20,2").table())
                .rows("empty", TestRows.of("on:date,amount:number").table());
        return Session.open(project, engine);
    }

    private static List<String> lines(Explanation.Operand operand, String indent) {
        List<String> lines = new ArrayList<>();
        lines.add(indent + operand.text() + " = " + operand.value()
                + operand.reason().orElse("")
                + operand.rows()
                        .map(source -> " [" + source + ": " + operand.rowCount() + "]")
                        .orElse(""));
        operand.steps()
                .forEach(step -> lines.add(indent + "  " + step.step() + ": " + step.days() + ", "
                        + step.workingDays().map(days -> days.toPlainString()).orElse("none") + " working"));
        operand.operands().forEach(part -> lines.addAll(lines(part, indent + "  ")));
        return lines;
    }

    /** A measure in a period. */
    private record Figure(Measure measure, String at) {}

    private static List<Figure> figures() {
        return List.of(
                new Figure(SALES, "FY2026 P02"),
                new Figure(SALES, "FY2026 P04"),
                new Figure(SALES.over(Span.back(1, Level.YEAR)), "FY2026 P03"),
                new Figure(SALES.over(Span.back(1, Level.YEAR)), "FY2026 P01"),
                new Figure(SALES.over(Span.back(3, Level.YEAR)), "FY2026 P01"),
                new Figure(Measure.sum("empty", "amount"), "FY2026 P01"),
                new Figure(Measure.max("sales", "amount"), "FY2026 P02"),
                new Figure(Measure.max("sales", "amount"), "2026-01-06"),
                new Figure(SALES.dividedBy(RETURNS), "FY2026 P03"),
                new Figure(SALES.dividedBy(ZERO), "FY2026 P03"),
                new Figure(RETURNS.times(SALES), "FY2026 P03"),
                new Figure(RETURNS.plus(RETURNS), "FY2026 P03"),
                new Figure(RETURNS.dividedBy(SALES), "FY2026 P03"),
                new Figure(SALES.minus(SALES.over(Span.back(3, Level.YEAR))), "FY2026 P01"),
                new Figure(
                        SALES.over(Span.back(3, Level.YEAR)).plus(SALES.over(Span.back(3, Level.YEAR))), "FY2026 P01"),
                new Figure(Measure.max("sales", "amount").plus(SALES), "2026-01-06"),
                new Figure(SALES.over(Span.back(3, Level.YEAR)).negated(), "FY2026 P01"),
                new Figure(RETURNS.negated().orElse(BigDecimal.ONE), "FY2026 P03"),
                new Figure(SALES.over(Span.back(3, Level.YEAR)).orElse(BigDecimal.ONE), "FY2026 P01"),
                new Figure(SALES.then(RETURNS), "FY2026 P03"),
                new Figure(RETURNS.then(RETURNS), "FY2026 P03"),
                new Figure(SALES.onlyAt(Level.PERIOD), "FY2026"),
                new Figure(RETURNS.onlyAt(Level.PERIOD), "FY2026 P03"),
                new Figure(Measure.workingDays(), "FY2026 P03"),
                new Figure(Measure.workingDays(), "FY2026 P04"),
                new Figure(SALES.per(Per.workingDay()), "FY2026 P03"),
                new Figure(RETURNS.each("shop"), "FY2026 P03"),
                new Figure(
                        SALES.eachWith(
                                "shop", SALES.over(Span.back(1, Level.YEAR)).ifAny()),
                        "FY2026 P03"));
    }

    /** Every kind of operand, and every kind of blank through it; the file was read line by line, and the days counted by hand. */
    @Test
    void everyOperandIsExplained() throws IOException {
        List<String> found = new ArrayList<>();
        try (Session session = session();
                InputStream expected = ExplanationTest.class.getResourceAsStream("explanations.txt")) {
            for (Figure figure : figures()) {
                found.add(figure.measure() + " | " + figure.at());
                Explanation explanation = session.explain("m", figure.measure(), figure.at());
                found.addAll(lines(explanation.root(), "  "));
                explanation.notes().forEach(note -> found.add("  note: " + note));
                found.add("");
            }
            assertThat(String.join("\n", found).strip())
                    .isEqualTo(new String(expected.readAllBytes(), StandardCharsets.UTF_8).strip());
        }
    }
}
