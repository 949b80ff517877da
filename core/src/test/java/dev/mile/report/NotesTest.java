package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.eq;
import static org.mockito.Mockito.doReturn;
import static org.mockito.Mockito.spy;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.LabelTemplates;
import dev.mile.calendar.Level;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.measure.Measure;
import dev.mile.span.Span;
import dev.mile.testkit.TestRows;
import java.time.LocalDate;
import java.time.Month;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What a reader of a report is told under it, above it, and in the way to its figures. */
class NotesTest {
    private static final Fact SALES =
            Fact.of("sales", "on", "on").withDate("paid", "paid").withLink("shop", "shops");

    private static Project.Builder project() {
        return Project.named("p")
                .calendar(
                        "civil",
                        FiscalCalendar.startingIn(Month.JANUARY)
                                .withLabels(LabelTemplates.DEFAULT.with(Level.PERIOD, "{mon} {civil_year}")))
                .calendar("fiscal", FiscalCalendar.startingIn(Month.APRIL))
                .dates(DateBound.at(LocalDate.parse("2025-01-01")), DateBound.at(LocalDate.parse("2027-12-31")))
                .lookup(new Lookup("shops", "shop", Map.of()))
                .measure("sales", Measure.sum("sales", "amount"))
                .measure("ly", Measure.named("sales").over(Span.back(1, Level.YEAR)))
                .measure("ytd", Measure.named("sales").over(Span.toDate(Level.YEAR)))
                .measure("paid", Measure.named("sales").on("paid"));
    }

    private static TestRows rows(String... more) {
        TestRows rows = TestRows.of("on:date,paid:date,shop,state,amount:number");
        for (LocalDate day = LocalDate.parse("2025-02-10");
                day.isBefore(LocalDate.parse("2026-05-19"));
                day = day.plusDays(1)) {
            rows.add(day.toString(), day.toString(), "S1", "done", "2");
        }
        for (String row : more) {
            rows.add(row.split(",", -1));
        }
        return rows;
    }

    private static Engine engine(Project project, TestRows rows) {
        return MemoryEngine.over(project)
                .rows("sales", rows.table())
                .rows("shops", TestRows.of("shop,region", "S1,North").table());
    }

    private static List<String> notes(Project project, TestRows rows, Report report) {
        try (Session session = Session.open(project, engine(project, rows))) {
            return session.report(report).notes();
        }
    }

    private static Report report(String rows, String... show) {
        return Report.of("r", List.of(rows.split(" ")), List.of(show));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            month      | sales | ''                     | Actuals as of 2026-05-18; May 2026 is not over.
            month      | ly    | ''                     | Actuals as of 2026-05-18; May 2026 is not over, so it is compared with the same days of others.
            year       | ytd   | ''                     | Actuals as of 2026-05-18; FY2026 is not over.
            month      | sales | 2026-01-01..2026-04-30 | Actuals as of 2026-05-18.
            month      | sales | 2026-05-01..2026-05-31 | Actuals as of 2026-05-18; May 2026 is not over.
            date       | ly    | ''                     | Actuals as of 2026-05-18.
            shop       | ly    | ''                     | Actuals as of 2026-05-18.
            """)
    void theAsOfDateSaysWhatItCuts(String rows, String show, String when, String note) {
        Report report = report(rows, show);
        if (!when.isEmpty()) {
            report = report.withWhen(new When.Dates(
                    DateRange.of(LocalDate.parse(when.substring(0, 10)), LocalDate.parse(when.substring(12)))));
        }
        assertThat(notes(project().fact(SALES).build(), rows(), report)).first().isEqualTo(note);
    }

    @Test
    void aPeriodThatBeginsBeforeTheRowsIsNamedWhereItIsShown() {
        Project project = project().fact(SALES).build();
        assertThat(notes(project, rows(), report("year", "sales", "ytd")))
                .containsExactly(
                        "Actuals as of 2026-05-18; FY2026 is not over.",
                        "FY2025 is not full: sales is covered from 2025-02-10 on.");
        Report later = report("year month", "sales")
                .withWhen(new When.Dates(DateRange.of(LocalDate.parse("2025-03-01"), LocalDate.parse("2026-05-31"))));
        assertThat(notes(project, rows(), later))
                .as("FY2025 is shown in part, and named for it")
                .containsExactly(
                        "Actuals as of 2026-05-18; May 2026 is not over.",
                        "FY2025 is not full: sales is covered from 2025-02-10 on.");
        Report next = report("year", "sales")
                .withWhen(new When.Dates(DateRange.of(LocalDate.parse("2026-01-01"), LocalDate.parse("2026-05-20"))));
        assertThat(notes(project, rows(), next))
                .containsExactly(
                        "Actuals as of 2026-05-18; FY2026 is not over.",
                        "Only 2026-01-01 to 2026-05-20; of FY2026 not all days are shown.");
        assertThat(notes(project, rows(), report("shop", "sales"))).containsExactly("Actuals as of 2026-05-18.");
    }

    @Test
    void everyRowThatIsNotInAnyPeriodIsAccountedFor() {
        Project project = project()
                .asOf(LocalDate.parse("2026-05-01"))
                .fact(SALES.withFilter(Condition.column("state").is("done")))
                .build();
        TestRows rows = rows(
                "2026-04-03,,S9,done,7",
                ",2026-04-04,S1,done,11",
                "2023-06-01,,S1,done,13",
                "2026-04-05,,S1,open,1",
                "2026-04-05,,S1,,1");
        Report report = report("month", "sales")
                .withWhere(Condition.column("shop").is("S1"))
                .withWhen(new When.Dates(DateRange.of(LocalDate.parse("2026-03-01"), LocalDate.parse("2026-03-31"))));
        assertThat(notes(project, rows, report))
                .containsExactly(
                        "Actuals as of 2026-05-01.",
                        "Only rows where shop = 'S1'.",
                        "sales: `keep` leaves 2 rows out, 1 row because a value that it compares is blank.",
                        "Not counted, sales by on: 17 rows after the as-of date (amount 34).",
                        "Not in any period, sales by on: 1 row without a date (amount 11); 1 row outside the date dimension (amount 13).",
                        "sales: 1 row with a shop that shops lacks, such as 'S9'; they count, but have none of its attributes, and meet no"
                                + " condition on one.");
        assertThat(notes(project, rows, report("month", "paid")))
                .contains("Not in any period, sales by paid: 2 rows without a date (amount 20).")
                .noneMatch(note -> note.contains("by on"));
    }

    @Test
    void allRowsThatKeepLeavesOutMayBeUndecided() {
        Project project = project()
                .fact(SALES.withFilter(Condition.column("state").is("done")))
                .build();
        assertThat(notes(project, rows("2026-04-05,,S1,,1", "2026-04-06,,S1,,1"), report("month", "sales")))
                .contains("sales: `keep` leaves 2 rows out, all because a value that it compares is blank.");
        assertThat(notes(project, rows("2026-04-05,,S1,,1"), report("month", "sales")))
                .contains("sales: `keep` leaves 1 row out, it because a value that it compares is blank.");
        assertThat(notes(project, rows("2026-04-05,,S1,x,1"), report("month", "sales")))
                .contains("sales: `keep` leaves 1 row out.");
    }

    @ParameterizedTest
    @CsvSource({
        "1, 0, 'sales: 1 line could not be read as rows, such as sales.csv:3: too few values.'",
        "0, 1, sales: 1 row after the end of the table (`until`) is not read.",
        "0, 2, sales: 2 rows after the end of the table (`until`) are not read."
    })
    void linesThatAreNoRowsAreNamed(long lines, long afterEnd, String note) {
        Project project = project().fact(SALES).build();
        Engine engine = spy(engine(project, rows()));
        FactAccounts.Rejected rejected =
                new FactAccounts.Rejected(lines, lines > 0 ? "sales.csv:3: too few values" : "", afterEnd);
        FactAccounts accounts = session(project).accounts("sales");
        FactAccounts told = new FactAccounts(
                accounts.fact(),
                accounts.read() + lines,
                rejected,
                accounts.kept(),
                accounts.undecided(),
                accounts.amounts(),
                accounts.roles(),
                accounts.unknownKeys());
        doReturn(rejected).when(engine).rejected("sales");
        doReturn(told).when(engine).accounts(eq("sales"), any(), any());
        try (Session session = Session.open(project, engine)) {
            assertThat(session.report(report("shop", "sales")).notes())
                    .containsExactly("Actuals as of 2026-05-18.", note);
        }
    }

    private static Session session(Project project) {
        return Session.open(project, engine(project, rows()));
    }

    @Test
    void aDateFarAheadDoesNotSetTheAsOfDateAndIsSaid() {
        List<String> notes =
                notes(project().fact(SALES).build(), rows("2027-06-01,,S1,done,1"), report("year", "sales"));
        assertThat(notes)
                .startsWith(
                        "Actuals as of 2026-05-18; FY2026 is not over.",
                        "1 row of sales from 2027-06-01 on lie too far behind all others to set the as-of date.")
                .contains("Not counted, sales by on: 1 row after the as-of date (amount 1).");
    }

    @Test
    void sentencesWriteDatesAndCountsAsTheProjectDoes() {
        Project project = project()
                .locale(Locale.GERMAN)
                .fact(SALES.withFilter(Condition.column("state").is("done")))
                .build();
        TestRows rows = rows();
        for (int i = 0; i < 1_000; i++) {
            rows.add("2026-01-01", "", "S1", "open", "1");
        }
        rows.add("", "", "S1", "done", "1.50");
        try (Session session = Session.open(project, engine(project, rows))) {
            Report report = report("year", "sales")
                    .withWhen(
                            new When.Dates(DateRange.of(LocalDate.parse("2025-01-01"), LocalDate.parse("2026-12-31"))));
            Grid grid = session.report(report);
            assertThat(grid.choice()).contains("01.01.2025 to 31.12.2026");
            assertThat(grid.header().locale()).isEqualTo(Locale.GERMAN);
            assertThat(grid.notes())
                    .containsExactly(
                            "Actuals as of 18.05.2026; FY2026 is not over.",
                            "FY2025 is not full: sales is covered from 10.02.2025 on.",
                            "sales: `keep` leaves 1.000 rows out.",
                            "Not in any period, sales by on: 1 row without a date (amount 1,50).");
            assertThat(session.explain("ly", Measure.named("ly"), "FY2025")
                            .root()
                            .reason()
                            .orElseThrow())
                    .startsWith("unknown: sales by on covers 10.02.2025 to 18.05.2026, so 01.01.2024 is missing;");
        }
    }

    // ---- opening a period

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            year month shop        | FY2026    | month shop
            year month shop        | FY2026 Q1 | month shop
            year shop              | FY2026    | half shop
            year quarter week shop | FY2026 Q1 | week shop
            month shop             | Mar 2026  | week shop
            year shop              | FY2027 P02 | fiscal.week shop
            fiscal.year fiscal.month shop | FY2027 P02 | fiscal.week shop
            fiscal.year year shop  | FY2026 H1 | quarter shop
            """)
    void aPeriodOpensAtTheNextLevelThatTheReportOrItsCalendarHas(String rows, String period, String opened) {
        Project project = project().fact(SALES).build();
        try (Session session = session(project)) {
            Report drilled = session.drill(report(rows, "sales").withTitle("Sales"), period);
            assertThat(drilled.rows().stream()
                            .map(axis -> ((Report.NamedAxis) axis).text())
                            .collect(Collectors.joining(" ")))
                    .isEqualTo(opened);
            assertThat(drilled.title()).contains("Sales, " + period);
            assertThat(drilled.when()).contains(new When.Labelled(period));
        }
    }

    @Test
    void recentPeriodsGiveWayAndADayHasNoParts() {
        Project project = project().fact(SALES).build();
        Report recent = Report.of("r", List.of(), List.of("sales"))
                .withRows(List.of(
                        new Report.RecentPeriods(List.of(Span.today())),
                        new Report.NamedAxis("date"),
                        new Report.NamedAxis("shop")));
        try (Session session = session(project)) {
            assertThat(session.drill(recent, "Mar 2026").rows())
                    .containsExactly(new Report.NamedAxis("day"), new Report.NamedAxis("shop"));
            assertThat(session.drill(recent, "Mar 2026").title()).contains("r, Mar 2026");
            assertThatThrownBy(() -> session.drill(recent, "2026-03-01"))
                    .hasMessage("'2026-03-01' is a day, which has no parts to open");
        }
    }

    // ---- the way to all figures of a report

    @Test
    void figuresOfAReportAreExplainedOnceForEachMeasureAndPeriod() {
        Project project = project().fact(SALES).build();
        Report report = report("year shop month", "sales", "ly")
                .withWhen(new When.Dates(DateRange.of(LocalDate.parse("2026-01-01"), LocalDate.parse("2026-06-30"))));
        try (Session session = session(project)) {
            Grid grid = session.report(report);
            ReportExplanation all = session.explain(report, 1_000).orElseThrow();
            List<String> seen = new ArrayList<>();
            for (Grid.Row row : grid.rows()) {
                for (int c = 0; c < 2; c++) {
                    Explanation way = all.of(grid.header(), row, c).orElseThrow();
                    assertThat(way.root().value())
                            .as(row.labels() + " " + c)
                            .isEqualTo(row.values().get(c));
                    assertThat(way.days()).isEqualTo(row.days());
                    seen.add(way.measure() + " " + way.root().rowCount());
                }
            }
            assertThat(seen).startsWith("Sales 138", "Ly 98").contains("Sales 31", "Ly 19", "Sales 18");
            assertThat(session.explain(report, 17))
                    .as("8 periods and the total, by 2 measures")
                    .isEmpty();
            assertThat(session.explain(report, 18)).isPresent();
        }
    }

    @Test
    void columnsOfTimeAreExplainedAndColumnsOfMembersAreNot() {
        Project project = project().fact(SALES).build();
        Report byYear = Report.of("r", List.of("month of year"), List.of("sales"))
                .withColumns(List.of(new Report.NamedAxis("year")));
        Report byShop = report("year", "sales").withColumns(List.of(new Report.NamedAxis("shop")));
        try (Session session = session(project)) {
            Grid grid = session.report(byYear);
            Grid.Row march = grid.rows().stream()
                    .filter(row -> row.labels().equals(List.of("P03")))
                    .findFirst()
                    .orElseThrow();
            ReportExplanation all = session.explain(byYear, 1_000).orElseThrow();
            assertThat(all.of(grid.header(), march, 2).orElseThrow().days()).hasToString("2026-03-01..2026-03-31");
            Grid shops = session.report(byShop);
            assertThat(session.explain(byShop, 1_000)
                            .orElseThrow()
                            .of(shops.header(), shops.rows().get(0), 0))
                    .isEqualTo(Optional.empty());
        }
    }

    // ---- days of facts

    @Test
    void factsHaveTheirRowsAndAmountsByDay() {
        Project project = project()
                .fact(SALES)
                .measure("shop_count", Measure.distinct("sales", "shop"))
                .build();
        Report report = report("month", "sales", "paid", "shop_count")
                .withWhere(Condition.column("shop").is("S2"));
        TestRows rows = rows("2026-04-03,2026-04-04,S2,done,0.50");
        try (Session session = Session.open(project, engine(project, rows))) {
            List<FactDays> days = session.factDays(report);
            assertThat(days).extracting(FactDays::role).containsExactly("on", "paid");
            assertThat(days.get(0).amounts()).containsExactly("amount");
            assertThat(days.get(0).days()).hasSize(463);
            assertThat(days.get(0).days().get(LocalDate.parse("2026-04-03"))).hasToString("Total[rows=2, sums=[2.50]]");
            assertThat(days.get(1).days().get(LocalDate.parse("2026-04-04"))).hasToString("Total[rows=2, sums=[2.50]]");
        }
    }
}
