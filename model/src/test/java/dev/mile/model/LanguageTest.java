package dev.mile.model;

import static dev.mile.calendar.Level.QUARTER;
import static dev.mile.calendar.Level.YEAR;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.fact.Condition;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.span.Span;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class LanguageTest {
    private static final Measure SALES = Measure.sum("sales", "net_amount");

    @Test
    void theApiAndTheLanguageBuildTheSameObjects() {
        assertThat(MeasureLanguage.measure("sum(sales.net_amount) over 1 year back, year to date"))
                .isEqualTo(SALES.over(Span.back(1, YEAR).then(Span.toDate(YEAR))));
        assertThat(MeasureLanguage.measure("(sales - ly) / ly"))
                .isEqualTo(Measure.named("sales").minus(Measure.named("ly")).dividedBy(Measure.named("ly")));
        assertThat(MeasureLanguage.measure(
                        "sum(sales.net_amount) on paid where shop = 'S1' across region per working day in full or 0"))
                .isEqualTo(SALES.on("paid")
                        .where(Condition.column("shop").is("S1"))
                        .across("region")
                        .per(Per.workingDay())
                        .inFull()
                        .orElse(BigDecimal.ZERO));
        assertThat(MeasureLanguage.measure("sales then forecast"))
                .isEqualTo(Measure.named("sales").then(Measure.named("forecast")));
        assertThat(MeasureLanguage.span("previous 2 quarters in retail, last day"))
                .isEqualTo(Span.previous(2, QUARTER).withCalendar("retail").then(Span.lastDay()));
    }

    // what the grammar leaves open: signs bind as in arithmetic, `or` after a condition is the blank rule if a number
    // follows
    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            a - b - c                                   | a - b - c
            a - (b - c)                                 | a - (b - c)
            a + b * c                                   | a + b * c
            (a + b) * c                                 | (a + b) * c
            a / b / c                                   | a / b / c
            -a over last 3 months                       | -a over last 3 months
            a or 0 - b or 0                             | a or 0 - b or 0
            count(s) where x = 1 or y = 2               | count(s) where x = 1 or y = 2
            count(s) where x = 1 or 0                   | count(s) where x = 1 or 0
            a over last day, first day, today           | a over last day, first day, today
            a over previous 1 month                     | a over previous month
            a over year back                            | a over 1 year back
            a over last 3 halves in full                | a over last 3 halves in full
            a per month in retail                       | a per month in retail
            a per working days of office                | a per working day of office
            a over this month, so far, to come          | a over this month, so far, to come
            working_days() of office over all to date   | working_days() of office over all to date
            avg(working_days(s.a, s.b) of office)       | avg(working_days(s.a, s.b) of office)
            a if full only at period                    | a if full only at month
            """)
    void measuresPrintThemselvesInTheLanguage(String text, String printed) {
        assertThat(MeasureLanguage.measure(text)).hasToString(printed);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "sum(s.a * (s.b - 1)) on r over 1 year back, year to date in c where not (x = 'a' and y is blank) across d, e in full",
                "(a - b over before) / b over before or 0",
                "-(a then b) over trailing 12 months",
                "avg(days(s.a, s.b)) each shop",
                "(a or 1) - -b",
                "sum(s.\"Net Amount\") where \"say so\" = 'it''s'",
                "count(s) where lower(trim(x)) = 'a' and months(s.a, as_of) >= 2 and working_days(s.a, s.b) of w < 3",
                "distinct(s.x) where y in ('a', 'b') and (z between 1 and 2 or z >= 10)"
            })
    void whatIsPrintedReadsBackAsTheSame(String text) {
        Measure measure = MeasureLanguage.measure(text);
        assertThat(MeasureLanguage.measure(measure.toString())).isEqualTo(measure);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            sum(sales.net over          | character 15: found 'over'; expected a sign (+ - * /) or a closing bracket )
            sales ovr year to date      | character 7: found 'ovr'; expected a sign (+ - * /), a clause (on, over, where, across, per, each, in full, if full, only at), or, then, or the end
            sales over last month       | character 12: `last month` means two things; say `previous month` for the whole month before, or `last 1 month` for the current one so far
            sales over last 3 moons     | character 19: found 'moons'; expected a unit: day, week, month, quarter, half or year
            sales over 3 years          | character 19: found the end; expected back or ahead, or a word before the number: last, trailing, previous, next
            sales over today in retail  | character 18: `today` counts in no unit, so it takes no calendar; take `in` away
            sales over over             | character 12: found 'over'; expected a step: year to date, all to date, before, last 3 months, trailing 12 months, previous month, next 2 weeks, whole quarter, 1 year back, 2 weeks ahead, first day, last day, so far, to come, today, yesterday or this month
            sales on paid on ordered    | character 15: 'on' is given twice; put the operand in brackets to apply it again
            sales where shop == 1       | character 19: found '='; expected a name, a number or a text in single quotes
            sales where shop = 'S1      | character 20: the text that begins here has no closing quote '
            sales where shop likes      | character 18: found 'likes'; expected =, !=, <, <=, >, >=, in, between, like or is blank
            sales where upper(x) = 'S1' | character 13: found 'upper'; expected a name, or one of the functions lower(x), trim(x), days(a, b), working_days(a, b), weeks(a, b), months(a, b), years(a, b)
            sales where lower(x, y)     | character 20: found ','; expected a closing bracket )
            total(sales.net)            | character 1: unknown aggregate 'total'; known: sum, count, distinct, avg, min, max, first, last, days, working_days
            sales.net                   | character 1: 'sales.net' is a column; a measure takes an aggregate of it, such as sum(sales.net)
            sum(net)                    | character 5: 'net' has no fact; write columns as fact.column, such as sales.net
            sum(5)                      | character 1: `sum(5)` names no column of a fact; write it as fact.column, such as sales.units
            sales + ; growth            | character 9: ';' has no meaning here; write texts in single quotes, and other names in double quotes
            sales over 0 days back      | character 12: a step of 0 days is not possible; give a count from 1 to 100000
            sales per fortnight         | character 11: found 'fortnight'; expected a unit: day, week, month, quarter, half or year
            12ab                        | character 1: '12ab' is neither a number nor a name
            """)
    void errorsPointAtTheCharacterAndSayWhatCouldStandThere(String text, String message) {
        assertThatThrownBy(() -> MeasureLanguage.measure(text))
                .isInstanceOf(MileException.class)
                .hasMessage("`" + text + "`, " + message);
    }

    @Test
    void everyExampleOfTheLanguagePageIsOfTheLanguage() throws IOException {
        String page = Files.readString(Path.of("../docs/language.md"));
        Matcher block = Pattern.compile("```mile\\n(.*?)```", Pattern.DOTALL).matcher(page);
        int examples = 0;
        while (block.find()) {
            for (String line : block.group(1).split("\n")) {
                String text = line.replaceAll("\\s+#.*$", "").strip();
                if (!text.isEmpty()) {
                    assertThat(MeasureLanguage.measure(text)).as(text).isNotNull();
                    examples++;
                }
            }
        }
        assertThat(examples).isGreaterThan(30);
    }

    @Test
    void spansOfReportsAreToldFromLabels() {
        assertThat(List.of("year to date", "this month", "last 3 weeks"))
                .allSatisfy(
                        text -> assertThat(ReportSyntax.when(text)).isInstanceOf(dev.mile.report.When.OnAsOf.class));
        assertThat(ReportSyntax.when("FY2026 Q1")).isEqualTo(new dev.mile.report.When.Labelled("FY2026 Q1"));
        assertThatThrownBy(() -> ReportSyntax.when("2026-04-01..2026-03-01"))
                .hasMessage("'2026-04-01..2026-03-01' begins after it ends; put the earlier date first");
        assertThatThrownBy(() -> ReportSyntax.when("last quarter")).hasMessageContaining("means two things");
    }
}
