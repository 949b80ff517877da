package dev.mile.render.text;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.dimension.DateDimension;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.CoveredDays;
import dev.mile.fact.Fact;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.measure.Value;
import dev.mile.render.layout.NumberFormatter;
import dev.mile.render.layout.TextWidth;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Session;
import dev.mile.span.Span;
import dev.mile.workday.WorkingWeek;
import java.io.IOException;
import java.io.StringWriter;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a terminal shows, to the letter. */
class TerminalTest {
    private static Session session() {
        Fact fact = Fact.of("sales", "ordered", "day").withCoveredDays(CoveredDays.from(LocalDate.parse("2025-04-01")));
        Project project = Project.named("p")
                .asOf(LocalDate.parse("2026-04-16"))
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .working(WorkingWeek.named("w").rest(DayOfWeek.SUNDAY).build())
                .dates(DateBound.at(LocalDate.parse("2025-01-01")), DateBound.at(LocalDate.parse("2026-12-31")))
                .fact(fact)
                .measure("sales", Measure.sum("sales", "amount"))
                .measure("ly", Measure.named("sales").over(Span.back(1, Level.YEAR)))
                .measure(
                        "growth",
                        Measure.named("sales").minus(Measure.named("ly")).dividedBy(Measure.named("ly")))
                .build();
        Table rows = Table.ofRows(2)
                .date("day", List.of(LocalDate.parse("2025-04-10"), LocalDate.parse("2026-04-15")))
                .number("amount", List.of(new BigDecimal("8.00"), new BigDecimal("10.00")));
        return Session.open(project, MemoryEngine.over(project).rows("sales", rows));
    }

    @Test
    void explanationsShowStepsRowsAndValues() {
        try (Session session = session()) {
            var explanation = session.explain("growth", Measure.named("growth"), "FY2026 P04");
            assertThat(new ExplanationText(false, false, Locale.ENGLISH).write(explanation))
                    .isEqualTo(
                            """
                    growth at FY2026 P04 = 0.25
                    the cell: 2026-04-01 to 2026-04-30; actuals as of 2026-04-16

                    quotient = 0.25
                      difference = 2.00
                        sum(sales.amount) = 10.00
                            the cell               2026-04-01 to 2026-04-30  30 days, 26 working
                            cut at the as-of date  2026-04-01 to 2026-04-16  16 days, 14 working
                            sales by ordered: 1 row
                        sum(sales.amount) over 1 year back = 8.00
                            the cell               2026-04-01 to 2026-04-30  30 days, 26 working
                            cut at the as-of date  2026-04-01 to 2026-04-16  16 days, 14 working
                            1 year back            2025-04-01 to 2025-04-16  16 days, 14 working
                            sales by ordered: 1 row
                      sum(sales.amount) over 1 year back = 8.00
                          the cell               2026-04-01 to 2026-04-30  30 days, 26 working
                          cut at the as-of date  2026-04-01 to 2026-04-16  16 days, 14 working
                          1 year back            2025-04-01 to 2025-04-16  16 days, 14 working
                          sales by ordered: 1 row
                    """);
        }
    }

    @Test
    void explanationsListTheirDaysAndSayWhyNothingIsThere() throws IOException {
        try (Session session = session()) {
            Measure week = Measure.named("sales").over(Span.trailing(9, Level.DAY));
            String text =
                    new ExplanationText(true, true, Locale.ENGLISH).write(session.explain("w", week, "2026-04-12"));
            assertThat(text)
                    .contains("\u001b[1mnothing: no rows of sales by ordered from 2026-04-04 to 2026-04-12\u001b[0m")
                    .contains(
                            "    2026-04-04 2026-04-05 2026-04-06 2026-04-07 2026-04-08 2026-04-09 2026-04-10\n    2026-04-11 2026-04-12\n");
            StringWriter json = new StringWriter();
            JsonWriter.explanation(session.explain("w", week, "2026-04-12"), json);
            assertThat(json.toString())
                    .contains(
                            "\"reason\" : \"nothing: no rows of sales by ordered",
                            "\"working_days\" : 7",
                            "\"value\" : null");
        }
    }

    @Test
    void longDimensionsLoseTheirMiddleAndSaySo() {
        DateDimension dimension = DateDimension.over(
                        DateRange.of(LocalDate.parse("2026-01-01"), LocalDate.parse("2026-12-31")))
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .locale(Locale.JAPANESE)
                .build();
        DatesTable table = new DatesTable(
                dimension,
                List.of(
                        dimension.column("date").orElseThrow(),
                        dimension.column("weekday_name").orElseThrow(),
                        dimension.column("day").orElseThrow()),
                dimension.range());
        assertThat(new DatesText(false, 200).write(table, 4))
                .isEqualTo(
                        """
                date        weekday_name  day
                2026-01-01  木曜日          1
                2026-01-02  金曜日          2
                …
                2026-12-30  水曜日         30
                2026-12-31  木曜日         31

                365 days, 2026-01-01..2026-12-31, 3 of 49 columns; choose with --columns, or write all with -o dates.csv.
                """
                                .replace(
                                        "3 of 49", "3 of " + dimension.columns().size()));
        assertThat(new DatesText(false, 29).write(table, 4))
                .contains("2 of " + dimension.columns().size() + " columns")
                .doesNotContain("day\n2026-01-01  木曜日          1");
    }

    // as finance prints them: brackets for negative numbers, nothing for blanks, no sign on what rounds to nothing
    @ParameterizedTest(name = "{0} as {1} is {2}")
    @CsvSource({
        "1234567.891, '', '1,234,567.89'",
        "-1234.5, '', '(1,234.50)'",
        "12, '', 12",
        "0.005, '', 0.01",
        "-0.001, '', 0.00",
        "0.125, 0.0%, 12.5%",
        "-0.125, 0.0%, (12.5%)",
        "-3, '0;-0', -3",
        "1E+3, '', '1,000'"
    })
    void numbersAreShownByTheirFormat(BigDecimal number, String format, String shown) {
        Grid.Column column = GridOutputTest.column("m", Grid.ColumnRole.MEASURE, "m", format);
        assertThat(NumberFormatter.of(column, List.of(Value.of(number)), Locale.ENGLISH)
                        .of(Value.of(number)))
                .isEqualTo(shown);
        assertThat(NumberFormatter.of(column, List.of(), Locale.ENGLISH).of(Value.UNKNOWN))
                .isEmpty();
    }

    @ParameterizedTest
    @CsvSource({"abc, 3", "日本, 4", "é, 1", "e\u0301, 1", "🌱, 2", "'', 0"})
    void widthsCountTheColumnsOfATerminal(String text, int width) {
        assertThat(TextWidth.of(text)).isEqualTo(width);
        assertThat(TextWidth.right(text, 6)).hasSize(6 - width + text.length());
    }

    @Test
    void controlCharactersDoNotReachTheTerminal() {
        assertThat(TextWidth.sanitizeControls("a\u001b[31m\nb\tc")).isEqualTo("a\uFFFD[31m\uFFFDb\uFFFDc");
    }
}
