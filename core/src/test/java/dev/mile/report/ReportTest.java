package dev.mile.report;

import static java.time.Month.APRIL;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.dimension.Event;
import dev.mile.dimension.EventColumn;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.measure.Target;
import dev.mile.measure.TargetBands;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.span.Span;
import dev.mile.testkit.TestRows;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;

/** Reports over a handful of rows, computed by hand. */
class ReportTest {
    private static final TestRows SALES = TestRows.of(
            "day:date,shop,item,amount:number",
            "2025-05-05,S1,pot,100",
            "2025-05-06,S2,pot,40",
            "2025-06-07,S1,rake,10",
            "2026-04-04,S1,pot,60",
            "2026-05-04,S1,pot,120",
            "2026-05-05,S2,rake,30",
            "2026-05-09,S3,rake,5",
            "2026-06-06,S2,pot,80",
            "2026-06-20,S1,pot,1000");

    private static final TestRows SHOPS = TestRows.of("shop,region", "S1,North", "S2,South");
    private static final TestRows BUDGET =
            TestRows.of("day:date,shop,amount:number", "2026-05-15,S1,110", "2026-07-15,S1,90", "2026-06-15,S2,70");

    private Project project = Project.named("reports")
            .asOf(LocalDate.parse("2026-06-10"))
            .calendar("fiscal", FiscalCalendar.startingIn(APRIL))
            .working(WorkingWeek.named("w").rest(DayOfWeek.SUNDAY).build())
            .dates(DateBound.at(LocalDate.parse("2025-04-01")), DateBound.at(LocalDate.parse("2027-03-31")))
            .fact(Fact.of("sales", "on", "day").withLink("shop", "shops"))
            .fact(Fact.of("budget", "for", "day").withLink("shop", "shops").asPlan())
            .lookup(new Lookup("shops", "shop", Map.of()))
            .events(EventColumn.of(
                    "promotions",
                    List.of(Event.of(
                            DateRange.of(LocalDate.parse("2026-05-04"), LocalDate.parse("2026-05-05")), "Week"))))
            .measure("sales", Measure.sum("sales", "amount"))
            .measure("sales_ly", Measure.named("sales").over(Span.back(1, Level.YEAR)))
            .measure("budget", Measure.sum("budget", "amount"))
            .measure("days", Measure.days())
            .build();

    private Grid grid(Report report) {
        MemoryEngine engine = MemoryEngine.over(project)
                .rows("sales", SALES.table())
                .rows("budget", BUDGET.table())
                .rows("shops", SHOPS.table());
        try (Session session = Session.open(project, engine)) {
            return session.report(report);
        }
    }

    /** Returns rows as texts: the first letter of their kind, labels, values. */
    private static List<String> lines(Grid grid) {
        List<String> lines = new ArrayList<>();
        for (Grid.Row row : grid.rows()) {
            List<String> fields = new ArrayList<>();
            fields.add(row.kind().name().substring(0, 1) + ":" + String.join("/", row.labels()));
            for (int c = 0; c < row.values().size(); c++) {
                Value value = row.values().get(c);
                fields.add(row.status(c)
                        .map(TargetStatus::word)
                        .orElse(
                                value.isExact()
                                        ? value.decimal().stripTrailingZeros().toPlainString()
                                        : value.toString()));
            }
            lines.add(String.join("|", fields));
        }
        return lines;
    }

    private static Report report(List<String> rows, String... show) {
        return Report.of("r", rows, List.of(show));
    }

    private static List<Report.AxisSpec> parts(String... names) {
        return List.of(names).stream()
                .map(n -> (Report.AxisSpec) new Report.NamedAxis(n))
                .toList();
    }

    @Test
    void subtotalsStandBeforeTheirPartsAndTheTotalFirst() {
        assertThat(lines(grid(report(List.of("year", "quarter"), "sales", "days"))))
                .containsExactly(
                        "T:|445|436",
                        "S:FY2026|150|365",
                        "L:FY2026/FY2026 Q1|150|91",
                        "S:FY2027|295|71",
                        "L:FY2027/FY2027 Q1|295|71");
    }

    @Test
    void dateInTheRowsIsTheLevelDay() {
        Grid grid = grid(report(List.of("month", "date"), "sales").withWhen(new When.Labelled("FY2027 P03")));
        assertThat(lines(grid)).containsExactly("T:|80", "S:FY2027 P03|80", "L:FY2027 P03/2026-06-06|80");
        assertThat(grid.header().keys()).extracting(Grid.Key::name).containsExactly("month", "date");
    }

    @Test
    void cellsKnowTheirDaysWhereTimeStandsInTheColumns() {
        Grid grid = grid(report(List.of(), "sales")
                .withRows(Report.axes("month of year"))
                .withColumns(Report.axes("year")));
        Grid.Row june = grid.rows().get(grid.rows().size() - 1);
        assertThat(june.labels()).containsExactly("P03");
        assertThat(List.of(june.cellDays(0), june.cellDays(1)))
                .hasToString("[2025-06-01..2025-06-30, 2026-06-01..2026-06-30]");
    }

    @Test
    void rowsOfMembersComeByCodePointAndBlankLast() {
        assertThat(lines(grid(report(List.of("shops.region"), "sales"))))
                .containsExactly("T:|445", "L:North|290", "L:South|150", "L:|5");
    }

    @Test
    void aFactWithoutADimensionIsBlankThereWithANote() {
        Grid grid = grid(report(List.of("item"), "sales", "budget"));
        assertThat(lines(grid)).containsExactly("T:|445|270", "L:pot|400|", "L:rake|45|");
        assertThat(grid.notes()).contains("sum(budget.amount) is blank by item: the fact 'budget' has no 'item'.");
        project = project.withMeasure("all", Measure.named("budget").across("item"));
        assertThat(lines(grid(report(List.of("item"), "sales", "all")))).contains("L:pot|400|270");
    }

    @Test
    void membersStandSideBySideInColumns() {
        Grid grid = grid(report(List.of("year"), "sales")
                .withRows(Report.axes("year"))
                .withColumns(Report.axes("shops.region")));
        assertThat(grid.columns().stream().map(Grid.Column::header))
                .containsExactly("sales North", "sales South", "sales ");
        assertThat(lines(grid)).contains("L:FY2026|110|40|", "L:FY2027|180|110|5");
    }

    @Test
    void yearsStandSideBySide() {
        Grid grid = grid(report(List.of(), "sales")
                .withRows(Report.axes("month of year"))
                .withColumns(Report.axes("year")));
        assertThat(grid.columns().stream().map(Grid.Column::header)).containsExactly("sales FY2026", "sales FY2027");
        assertThat(lines(grid)).containsExactly("T:|150|295", "L:P01||60", "L:P02|140|155", "L:P03|10|80");
    }

    @Test
    void daysThatAreNotOneStretchAreAFilterAfterTheSteps() {
        // May 4 and 5, 2026 are the event; a year back its days are still those of 2026, and no day is covered whole
        assertThat(lines(grid(report(List.of("promotions"), "sales", "sales_ly", "days"))))
                .containsExactly("T:|445||436", "L:Week|150||2", "L:|295||434");
        assertThat(lines(grid(report(List.of("weekday_name"), "sales"))))
                .containsExactly("T:|445", "L:Monday|220", "L:Tuesday|70", "L:Saturday|155");
    }

    @Test
    void whenKeepsExactlyItsDays() {
        When may = new When.Dates(DateRange.of(LocalDate.parse("2026-04-20"), LocalDate.parse("2026-06-01")));
        assertThat(lines(grid(
                        report(List.of("year", "month"), "sales", "sales_ly").withWhen(may))))
                // of April and June only the days of `when` are left, on which nothing was sold
                .containsExactly("T:|155|", "S:FY2027|155|", "L:FY2027/FY2027 P02|155|");
        When label = new When.Labelled("FY2026 Q1");
        assertThat(lines(grid(report(List.of("item"), "sales").withWhen(label))))
                .containsExactly("T:|150", "L:pot|140", "L:rake|10");
        When quarter = new When.OnAsOf(Span.toDate(Level.QUARTER));
        assertThat(lines(grid(report(List.of("shop"), "sales").withWhen(quarter))))
                .startsWith("T:|295", "L:S1|180");
        assertThatThrownBy(() -> grid(report(List.of("item"), "sales").withWhen(new When.Labelled("FY26"))))
                .hasMessage(
                        "'FY26' is not a period of the calendar 'fiscal', whose years read like 'FY2027'; give a period by its label, or a date such as 2026-04-01");
    }

    @Test
    void recentPeriodsMayOverlapAndHaveNoTotal() {
        Report.AxisSpec recent = new Report.RecentPeriods(
                List.of(Span.toDate(Level.PERIOD), Span.previous(1, Level.PERIOD), Span.last(2, Level.PERIOD)));
        assertThat(lines(grid(report(List.of(), "sales", "days").withRows(List.of(recent)))))
                .containsExactly("L:month to date|80|10", "L:previous month|155|31", "L:last 2 months|235|41");
    }

    @Test
    void sortIsWithinTheParentAndTimeAboveKeepsItsOrder() {
        Report sorted = report(List.of("year", "shop"), "sales").withSort(new Report.Sort("sales", true));
        assertThat(lines(grid(sorted)))
                .containsExactly(
                        "T:|445",
                        "S:FY2026|150",
                        "L:FY2026/S1|110",
                        "L:FY2026/S2|40",
                        "S:FY2027|295",
                        "L:FY2027/S1|180",
                        "L:FY2027/S2|110",
                        "L:FY2027/S3|5");
        Report regions = report(List.of("shops.region", "shop"), "sales").withSort(new Report.Sort("sales", false));
        assertThat(lines(grid(regions))).startsWith("T:|445", "S:|5", "L:/S3|5", "S:South|150");
    }

    @Test
    void topLeavesTheRestInOneRowOfItsOwnMembersAndDays() {
        Report top = report(List.of("shop"), "sales", "days").withTop(new Report.Top(1, "sales"));
        assertThat(lines(grid(top))).containsExactly("T:|445|436", "L:S1|290|436", "R:2 others|155|436");
        project = project.withMeasure("rate", Measure.named("sales").per(Per.unit(Level.PERIOD)));
        Report months = report(List.of("month"), "sales", "rate").withTop(new Report.Top(2, "sales"));
        // May 2026 and May 2025 first; the rest is 60 + 10 + 80 in three months
        assertThat(lines(grid(months)).stream().map(l -> l.split("\\|")[0] + "|" + l.split("\\|")[1]))
                .containsExactly("T:|445", "L:FY2027 P02|155", "L:FY2026 P02|140", "R:3 others|150");
        assertThat(grid(months).rows().get(3).values().get(1).toDouble()).isEqualTo(50);
    }

    @Test
    void emptyRowsStayWhereTheReportSaysSo() {
        Report report = report(List.of("quarter", "shop"), "sales");
        Report all = report.withTotals(false).withEmptyRows(true);
        assertThat(lines(grid(all))).hasSize(8 * 3).contains("L:FY2026 Q2/S3|");
        assertThat(lines(grid(report))).doesNotContain("L:FY2026 Q2/S3|");
    }

    @Test
    void targetsShowValueGoalAndStatus() {
        project = project.toBuilder()
                .target(new Target(
                        "goal",
                        "sales",
                        Measure.named("budget"),
                        new TargetBands(TargetBands.Aim.HIGH, new BigDecimal("1.05"), BigDecimal.ONE)))
                .target(new Target(
                        "floor",
                        "sales",
                        Measure.number(new BigDecimal("-5")),
                        new TargetBands(TargetBands.Aim.LOW, BigDecimal.ONE, new BigDecimal("1.1"))))
                .build();

        Grid grid = grid(report(List.of("shop"), "goal", "floor"));
        assertThat(grid.columns().stream().map(Grid.Column::header))
                .containsExactly(
                        "goal_value", "goal_against", "goal_status", "floor_value", "floor_against", "floor_status");
        assertThat(lines(grid))
                .contains("L:S1|290|200|met|290|-5|missed", "L:S2|150|70|met|150|-5|missed", "L:S3|5||met|5|-5|missed");
    }

    @Test
    void conditionsOfAReportBlankFactsThatLackTheName() {
        Grid grid = grid(report(List.of("year"), "sales", "budget")
                .withWhere(Condition.column("item").is("pot")));
        assertThat(lines(grid)).containsExactly("T:|400|", "L:FY2026|140|", "L:FY2027|260|");
        assertThat(grid.notes())
                .contains(
                        "Only rows where item = 'pot'.",
                        "sum(budget.amount) is blank: the fact 'budget' has no 'item'.");
    }

    @Test
    void theCutPeriodIsNoted() {
        assertThat(grid(report(List.of("month"), "sales")).notes())
                .first()
                .isEqualTo("Actuals as of 2026-06-10; FY2027 P03 is not over.");
    }

    @Test
    void thePeriodInWhichRowsBeginIsNotedAndToldToCharts() {
        // Sunday, 4 May 2025, is a day off right before the first sale
        Grid drawn = grid(report(List.of("month"), "sales", "sales_ly", "budget", "days")
                .withChart(new Chart(Chart.Kind.TREND, List.of())));
        assertThat(drawn.notes())
                .contains(
                        "FY2026 P02 is not full: sales is covered from 2025-05-04 on.",
                        "FY2027 P02 is not full: budget is covered from 2026-05-15 on.");
        assertThat(drawn.columns())
                .extracting(Grid.Column::coveredFrom)
                .as("what is moved is blank where it is not covered")
                .containsExactly(
                        Optional.of(LocalDate.parse("2025-05-04")),
                        Optional.empty(),
                        Optional.of(LocalDate.parse("2026-05-15")),
                        Optional.empty());
    }

    @Nested
    class Mistakes {
        private void fails(Report report, String message) {
            assertThatThrownBy(() -> grid(report)).hasMessage(message);
        }

        @Test
        void areNamed() {
            fails(
                    report(List.of("yaer"), "sales"),
                    "unknown level, dimension or date attribute 'yaer'; did you mean 'year'?");
            fails(report(List.of("year", "year"), "sales"), "'year' is named twice in rows and columns; name it once");
            fails(report(List.of("year"), "salse"), "unknown measure or target 'salse'; did you mean 'sales'?");
            fails(report(List.of("year")), "the report 'r' shows nothing; name measures for it to show");
            fails(report(List.of("year"), "sales").withCalendar("retail"), "unknown calendar 'retail'; known: fiscal");
            fails(
                    report(List.of("day of year"), "sales"),
                    "'day of year' is not a place in the year; write month, week, quarter or half of year");
        }

        @Test
        void ofMembersDaysNameTheMember() {
            project = Project.named("members")
                    .calendar("fiscal", FiscalCalendar.startingIn(APRIL))
                    .fact(Fact.of("sales", "on", "day").withLink("shop", "shops"))
                    .lookup(new Lookup("shops", "shop", Map.of())
                            .withMemberDays(new Lookup.MemberDays(Optional.of("opened"), Optional.of("closed"))))
                    .measure("sales", Measure.sum("sales", "amount"))
                    .measure("sales_ly", Measure.named("sales").over(Span.back(1, Level.YEAR)))
                    .build();
            fails(
                    TestRows.of("shop,opened,closed", "S1,2024-01-01,", "S2,2025-13-08,"),
                    "shop 'S2' in the lookup 'shops': '2025-13-08' in the column opened is not a date; expected one such as"
                            + " 2026-04-01");
            fails(
                    TestRows.of("shop,opened,closed", "S2,2026-05-01,2025-05-01"),
                    "shop 'S2' in the lookup 'shops' is open from 2026-05-01, which is after its last day, 2025-05-01; correct the"
                            + " columns opened and closed");
            fails(
                    TestRows.of("shop,open,closed", "S2,,"),
                    "the days on which members are open are in the column 'opened', which the lookup lacks");
        }

        private void fails(TestRows shops, String message) {
            MemoryEngine engine =
                    MemoryEngine.over(project).rows("sales", SALES.table()).rows("shops", shops.table());
            try (Session session = Session.open(project, engine)) {
                assertThatThrownBy(() -> session.report(report(List.of("shop"), "sales_ly")))
                        .hasMessageContaining(message);
            }
        }

        @Test
        void ofMeasuresAreNamed() {
            project = project.toBuilder()
                    .measure(
                            "ratio",
                            Measure.named("sales")
                                    .dividedBy(Measure.named("budget"))
                                    .per(Per.workingDay()))
                    .measure("role", Measure.named("sales").on("paid"))
                    .measure("week", new Measure.DayCount(true, Optional.of("office")))
                    .measure("each", Measure.days().each("shop"))
                    .build();
            fails(
                    report(List.of("year"), "ratio"),
                    "`(sales / budget) per working day` divides a ratio by `per working day`; put `per` after the sums, before they are divided");
            fails(report(List.of("year"), "role"), "the fact 'sales' has no date role 'paid'; known: on");
            fails(report(List.of("year"), "week"), "unknown working week 'office'; known: w");
            project = project.toBuilder()
                    .measure(
                            "rate",
                            Measure.named("sales")
                                    .per(Per.workingDay())
                                    .over(Span.toDate(Level.YEAR))
                                    .negated())
                    .measure("twice", Measure.named("rate").per(Per.unit(Level.PERIOD)))
                    .measure(
                            "there", Measure.named("sales").per(Per.workingDay().withWeek("office")))
                    .build();
            fails(
                    report(List.of("year"), "twice"),
                    "`rate per month` divides a ratio by `per month`; put `per` after the sums, before they are divided");
            fails(report(List.of("year"), "there"), "unknown working week 'office'; known: w");
            fails(
                    report(List.of("year"), "sales").withBars(List.of("days")),
                    "the report 'r' does not show 'days', which the list of bars names; known: sales");
            fails(
                    report(List.of("year"), "each"),
                    "`days()` looks at no rows, so `each shop` finds no members; take `each` away");
        }

        private Measure sum(RowExpression of) {
            return new Measure.Aggregate(Measure.Aggregation.SUM, "sales", Optional.of(of));
        }

        @Test
        void ofRowExpressionsAreNamed() {
            RowExpression amount = new RowExpression.Value(new Operand.Name("sales.amount"));
            RowExpression item = new RowExpression.Value(new Operand.Name("sales.item"));
            RowExpression left = new RowExpression.Arithmetic(item, RowExpression.Sign.TIMES, amount);
            RowExpression right = new RowExpression.Arithmetic(
                    amount, RowExpression.Sign.PLUS, new RowExpression.OrElse(item, BigDecimal.ONE));
            RowExpression elapsed = RowExpression.Elapsed.of(
                            RowExpression.TimeUnit.WORKING_DAYS, new Operand.Name("sales.on"), Operand.Name.AS_OF)
                    .withWeek("office");
            project = project.toBuilder()
                    .measure("left", sum(left))
                    .measure("right", sum(right))
                    .measure("elapsed", sum(elapsed))
                    .measure("deep", sum(new RowExpression.Arithmetic(amount, RowExpression.Sign.PLUS, elapsed)))
                    .build();
            String text =
                    "the column 'item' of the fact 'sales' holds values that are not numbers; correct the data, or count them with"
                            + " count() or distinct()";
            fails(report(List.of("year"), "left"), "`sum(sales.item * sales.amount)` needs numbers, but " + text);
            fails(
                    report(List.of("year"), "right"),
                    "`sum(sales.amount + (sales.item or 1))` needs numbers, but " + text);
            fails(report(List.of("year"), "elapsed"), "unknown working week 'office'; known: w");
            fails(report(List.of("year"), "deep"), "unknown working week 'office'; known: w");
        }
    }

    /** The days that each part of a measure looked at, by column; targets have those of their goal too, statuses none. */
    @Test
    void windowsAreShownWhereTheyAreAskedFor() {
        project = project.toBuilder()
                .measure("both", Measure.named("sales").minus(Measure.named("sales_ly")))
                .target(new Target(
                        "goal",
                        "sales",
                        Measure.named("budget"),
                        new TargetBands(TargetBands.Aim.HIGH, BigDecimal.ONE, BigDecimal.ONE)))
                .build();
        MemoryEngine engine = MemoryEngine.over(project)
                .rows("sales", SALES.table())
                .rows("budget", BUDGET.table())
                .rows("shops", SHOPS.table());
        try (Session session = Session.open(project, engine)) {
            Grid grid = session.report(
                    report(List.of("year", "month"), "both", "days", "goal"), ReportOptions.DEFAULT.withWindows());
            List<String> found = new ArrayList<>();
            for (Grid.Row row : grid.rows()) {
                row.windows()
                        .forEach(windows -> found.add(row.labels() + " "
                                + windows.stream()
                                        .map(window -> window.expression() + " " + window.days())
                                        .toList()));
            }
            assertThat(found)
                    .hasSize(5 * grid.rows().size())
                    .startsWith(
                            "[] [sum(sales.amount) 2025-04-01..2026-06-10, sum(sales.amount) over 1 year back"
                                    + " 2024-04-01..2025-06-10]",
                            "[] [days() 2025-04-01..2026-06-10]",
                            "[] [sum(sales.amount) 2025-04-01..2026-06-10]",
                            "[] [sum(budget.amount) 2025-04-01..2027-03-31]",
                            "[] []")
                    .endsWith(
                            "[FY2027, FY2027 P03] [sum(sales.amount) 2026-06-01..2026-06-10, sum(sales.amount) over 1 year back"
                                    + " 2025-06-01..2025-06-10]",
                            "[FY2027, FY2027 P03] [days() 2026-06-01..2026-06-10]",
                            "[FY2027, FY2027 P03] [sum(sales.amount) 2026-06-01..2026-06-10]",
                            "[FY2027, FY2027 P03] [sum(budget.amount) 2026-06-01..2026-06-30]",
                            "[FY2027, FY2027 P03] []",
                            "[FY2027, FY2027 P04] [sum(sales.amount) no days, sum(sales.amount) over 1 year back no days]",
                            "[FY2027, FY2027 P04] [days() no days]",
                            "[FY2027, FY2027 P04] [sum(sales.amount) no days]",
                            "[FY2027, FY2027 P04] [sum(budget.amount) 2026-07-01..2026-07-31]",
                            "[FY2027, FY2027 P04] []");
            assertThat(session.report(report(List.of("year"), "both")).rows())
                    .allSatisfy(row -> assertThat(row.windows()).isEmpty());
        }
    }
}
