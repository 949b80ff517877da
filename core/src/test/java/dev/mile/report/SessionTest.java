package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.argThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import dev.mile.StoppedException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.dimension.ExcludedDates;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.DateCount;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Condition;
import dev.mile.fact.CoveredDays;
import dev.mile.fact.Fact;
import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import dev.mile.measure.Measure;
import dev.mile.span.Span;
import dev.mile.testkit.TestRows;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;

/** How a session meets its engine, finds its range and as-of date, explains and checks. */
class SessionTest {
    private static final Fact SALES = Fact.of("sales", "ordered", "day")
            .withDate("paid", "paid")
            .withCoveredDays(CoveredDays.from(LocalDate.parse("2025-01-01")));

    private static Project.Builder project() {
        return Project.named("p")
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .working(WorkingWeek.named("w").rest(DayOfWeek.SUNDAY).build())
                .fact(SALES)
                .measure("sales", Measure.sum("sales", "amount"))
                .measure("ly", Measure.named("sales").over(Span.back(1, Level.YEAR)))
                .measure(
                        "growth",
                        Measure.named("sales").minus(Measure.named("ly")).dividedBy(Measure.named("ly")))
                .measure("paid", Measure.named("sales").on("paid"))
                .report(Report.of("r", List.of("year", "month"), List.of("sales", "ly", "growth")));
    }

    private static int day(String date) {
        return EpochDays.of(LocalDate.parse(date));
    }

    private static Engine engine() {
        Engine engine = mock(Engine.class);
        when(engine.schema()).thenReturn(project().build().schema());
        when(engine.columns("sales"))
                .thenReturn(Map.of(
                        "day",
                        ValueType.DATE,
                        "paid",
                        ValueType.DATE,
                        "amount",
                        ValueType.NUMBER,
                        "shop",
                        ValueType.TEXT));
        when(engine.dates("sales"))
                .thenReturn(List.of(
                        new DateCount("ordered", day("2025-03-04"), 400),
                        new DateCount("ordered", day("2026-02-10"), 400),
                        new DateCount("ordered", -25_567 - 2, 3),
                        new DateCount("paid", day("2026-03-02"), 300),
                        new DateCount("paid", day("2206-03-02"), 1)));
        DailyTotals rows = DailyTotals.counts(new long[] {1, 2});
        GroupTotals all =
                new GroupTotals(new String[0], new int[] {day("2025-02-04"), day("2026-02-10")}, new DailyTotals[] {
                    rows, rows, new DailyTotals.Longs(new long[] {1000, 1500}, 2, null)
                });
        when(engine.totals(any(), any()))
                .thenAnswer(asked -> TotalsCursor.of(List.of(all), Map.of(RoleAccounts.RowOutcome.OUTSIDE, 3L)));
        when(engine.rejected(any())).thenReturn(FactAccounts.Rejected.NONE);
        when(engine.accounts(any(), any(), any()))
                .thenReturn(
                        new FactAccounts("sales", 0, FactAccounts.Rejected.NONE, 0, 0, List.of(), List.of(), Map.of()));
        return engine;
    }

    @Test
    void oneQuestionIsAskedForAllMeasuresOfAFactAndRole() {
        Engine engine = engine();
        try (Session session = Session.open(project().build(), engine)) {
            Grid grid = session.report("r");
            assertThat(grid.rows().stream()
                            .filter(r -> r.labels().equals(List.of("FY2026", "FY2026 P02")))
                            .findFirst()
                            .orElseThrow()
                            .values()
                            .get(2)
                            .toDouble())
                    .isEqualTo(0.5);
        }
        verify(engine, times(1)).totals(any(), any());
        verify(engine)
                .totals(
                        argThat((TotalsRequest r) -> r.groups().isEmpty()
                                && r.days()
                                        .equals(DateRange.of(
                                                LocalDate.parse("2025-01-01"), LocalDate.parse("2026-02-10")))
                                && r.columns().stream()
                                        .map(TotalColumn::kind)
                                        .toList()
                                        .equals(List.of(
                                                TotalColumn.Kind.ROWS, TotalColumn.Kind.COUNT, TotalColumn.Kind.SUM))),
                        any());
        verify(engine, never()).rows(any());
        verify(engine, never()).close();
    }

    @Test
    void aSessionClosesOnlyTheEngineThatItOpened() {
        Engine engine = engine();
        Session over = Session.open(project().build(), engine);
        over.close();
        verify(engine, never()).close();
        assertThatThrownBy(() -> over.report("r"))
                .isInstanceOf(IllegalStateException.class)
                .hasMessage("the session of the project 'p' is closed; open another");
        assertThatThrownBy(over::check).isInstanceOf(IllegalStateException.class);
        Session.open(project().build(), () -> engine, LocalDate.parse("2026-01-01"))
                .close();
        verify(engine).close();
    }

    @Test
    void rangeAndAsOfComeFromTheFactsWithoutSentinelsAndOutliers() {
        try (Session session = Session.open(project().build(), engine())) {
            assertThat(session.dimension().range()).hasToString("2025-01-01..2026-12-31");
            assertThat(session.asOf()).contains(LocalDate.parse("2026-02-10"));
            assertThat(session.excludedDates())
                    .containsExactly(
                            new ExcludedDates(
                                    "sales",
                                    "ordered",
                                    true,
                                    LocalDate.parse("1899-12-30"),
                                    LocalDate.parse("1899-12-30"),
                                    3),
                            new ExcludedDates(
                                    "sales",
                                    "paid",
                                    false,
                                    LocalDate.parse("2206-03-02"),
                                    LocalDate.parse("2206-03-02"),
                                    1));
        }
    }

    @Test
    void rangesMayNameFactsAndRoles() {
        Project one = project()
                .dates(DateBound.fromFacts(List.of("sales.ordered")), DateBound.at(LocalDate.parse("2028-02-01")))
                .build();
        try (Session session = Session.open(one, engine())) {
            assertThat(session.dimension().range()).hasToString("2025-01-01..2028-12-31");
        }
        Project wrong = project()
                .dates(DateBound.at(LocalDate.parse("2028-02-01")), DateBound.at(LocalDate.parse("2027-02-01")))
                .build();
        try (Session session = Session.open(wrong, engine())) {
            assertThatThrownBy(session::dimension)
                    .hasMessage(
                            "the date dimension would begin on 2028-02-01, after its end on 2027-02-01; correct one of them");
        }
        Project far = project()
                .dates(DateBound.at(LocalDate.parse("1066-10-14")), DateBound.fromFacts())
                .build();
        try (Session session = Session.open(far, engine())) {
            assertThatThrownBy(session::dimension).hasMessageContaining("Mile knows the days 1800-01-01..2299-12-31");
        }
    }

    @Test
    void datesLeftOutAtEitherEndOfTheRangeAreTold() {
        Project project = project()
                .dates(DateBound.fromFacts(List.of("sales.ordered")), DateBound.fromFacts(List.of("sales.paid")))
                .build();
        try (Session session = Session.open(project, engine())) {
            assertThat(session.excludedDates())
                    .extracting(left -> left.source() + " " + left.first())
                    .containsExactly("sales.ordered 1899-12-30", "sales.paid 2206-03-02");
        }
    }

    @Test
    void explanationsFollowTheWayToTheFigure() {
        try (Session session = Session.open(project().build(), engine())) {
            Explanation.Operand growth = session.explain("growth", Measure.named("growth"), "FY2026 P02")
                    .root();
            assertThat(growth.text()).isEqualTo("quotient");
            Explanation.Operand ly = growth.operands().get(1);
            assertThat(ly.rows()).contains("sales by ordered");
            assertThat(ly.rowCount()).isEqualTo(1);
            assertThat(ly.steps().stream().map(s -> s.step() + " " + s.days()))
                    .containsExactly(
                            "the cell 2026-02-01..2026-02-28",
                            "cut at the as-of date 2026-02-01..2026-02-10",
                            "1 year back 2025-02-01..2025-02-10");
            assertThat(ly.steps().get(2).workingDays().orElseThrow()).isEqualByComparingTo("8");
            assertThat(reason(session, "growth", "FY2025 P02")).isEqualTo("unknown: both sides are unknown");
            assertThat(reason(session, "ly", "FY2025 P02"))
                    .isEqualTo(
                            "unknown: sales by ordered covers 2025-01-01 to 2026-02-10, so 2024-02-01 is missing; if its rows are"
                                    + " complete from 2024-02-01 on, say `covers: {from: 2024-02-01}` at the fact");
            assertThat(reason(session, "sales", "FY2026 P03"))
                    .isEqualTo("unknown: the cell lies after the as-of date, 2026-02-10");
            assertThat(reason(session, "sales", "2025-11-11"))
                    .isEqualTo("nothing: no rows of sales by ordered from 2025-11-11 to 2025-11-11");
        }
    }

    private static String reason(Session session, String measure, String at) {
        return session.explain(measure, Measure.named(measure), at)
                .root()
                .reason()
                .orElse("");
    }

    @Test
    void checksFindWhatIsWrongWithModelAndData() {
        TestRows rows = TestRows.of("day:date,paid:date,shop,amount:number");
        for (LocalDate d = LocalDate.parse("2026-01-01");
                d.isBefore(LocalDate.parse("2026-05-01"));
                d = d.plusDays(1)) {
            if (!(d.getMonthValue() == 3 && d.getDayOfMonth() < 20)) {
                rows.add(
                        d.toString(),
                        "",
                        d.getDayOfMonth() % 2 == 0 ? "S1" : "S2",
                        d.getMonthValue() == 2 ? "0" : "1.5");
            }
        }
        rows.add("", "2026-01-01", "S1", "7");
        Project project = project()
                .measure("unused", Measure.count("sales"))
                .measure("broken", Measure.named("nothing"))
                .measure("zero", Measure.named("paid").dividedBy(Measure.named("sales")))
                .build();
        MemoryEngine engine = MemoryEngine.over(project().build()).rows("sales", rows.table());
        try (Session session = Session.open(project, engine)) {
            List<String> found = session.check().stream()
                    .map(f -> f.severity() + " " + f.text())
                    .toList();
            assertThat(found)
                    .contains(
                            "ERROR unknown measure 'nothing'; known: sales, ly, growth, paid, unused, broken, zero",
                            "NOTE no report and no measure uses 'unused'",
                            "WARNING 1 row of 102 rows without a date (amount 7.0)",
                            "NOTE 101 rows of 102 rows without a date (amount 109.5)",
                            "WARNING no rows on 16 working days in a row, 2026-03-01..2026-03-19",
                            "WARNING the measure 'zero' divides by `sales`, which is zero in 1 of 4 months");
        }
    }

    @Test
    void explanationsOfLoopsShowEachMember() {
        TestRows rows = TestRows.of(
                "day:date,paid:date,shop,amount:number",
                "2026-01-05,,S1,4",
                "2026-01-06,,S2,-1",
                "2026-01-07,,,2",
                "2025-03-01,,S3,9");
        try (Session session = Session.open(
                project().build(), MemoryEngine.over(project().build()).rows("sales", rows.table()))) {
            Explanation.Operand top = session.explain(
                            "x", Measure.max("sales", "amount").each("shop"), "FY2026 P01")
                    .root();
            assertThat(top.value().decimal()).isEqualByComparingTo("5");
            assertThat(top.operands().stream()
                            .map(p -> p.text() + " = " + p.value() + p.reason().orElse("")))
                    .containsExactly(
                            "shop S1 = 4",
                            "shop S2 = -1",
                            "shop S3 = undefined: no rows to take it of",
                            "shop (blank) = 2");
            Measure sales = Measure.named("sales");
            assertThat(session.explain("x", sales.plus(sales).each("shop"), "FY2026 P01")
                            .root()
                            .value()
                            .decimal())
                    .as("the loop evaluates once what its measure names twice")
                    .isEqualByComparingTo("10");
        }
    }

    @Test
    void namesThatAreNotThereAreRefused() {
        try (Session session = Session.open(project().build(), engine())) {
            assertThatThrownBy(() -> session.report("x")).hasMessage("unknown report 'x'; known: r");
            assertThatThrownBy(() -> session.explain(
                            "sales",
                            Measure.named("sales"),
                            "May",
                            Session.ExplainOptions.DEFAULT.withWhere(
                                    Condition.column("shop").is("S1"))))
                    .hasMessage(
                            "'May' is not a period of the calendar 'civil', whose years read like 'FY2026'; give a period by its label, or a date such as 2026-04-01");
        }
    }

    @Test
    void whoWaitsForAnothersFirstQuestionCanBeInterrupted() throws Exception {
        Engine engine = engine();
        List<DateCount> dates = engine.dates("sales");
        CountDownLatch asked = new CountDownLatch(1);
        CountDownLatch answer = new CountDownLatch(1);
        when(engine.dates("sales")).thenAnswer(call -> {
            asked.countDown();
            answer.await();
            return dates;
        });
        try (Session session = Session.open(project().build(), engine)) {
            FutureTask<DateRange> first =
                    new FutureTask<>(() -> session.dimension().range());
            FutureTask<DateRange> second =
                    new FutureTask<>(() -> session.dimension().range());
            new Thread(first).start();
            asked.await();
            Thread waiting = new Thread(second);
            waiting.start();
            while (waiting.getState() != Thread.State.WAITING) {
                Thread.onSpinWait();
            }
            waiting.interrupt();
            assertThatThrownBy(() -> second.get(10, TimeUnit.SECONDS)).hasCauseInstanceOf(StoppedException.class);
            assertThat(first.isDone()).isFalse();
            answer.countDown();
            assertThat(first.get(10, TimeUnit.SECONDS))
                    .isEqualTo(session.dimension().range());
        }
    }

    @Test
    void aHeldReportTellsItsProgressAndTakesTheThreadsThatItIsGiven() {
        Project project = project().build();
        int rows = 600_000;
        Table table = Table.ofRows(rows)
                .date("day", Collections.nCopies(rows, LocalDate.parse("2026-03-02")))
                .date("paid", Collections.nCopies(rows, LocalDate.parse("2026-03-02")))
                .number("amount", Collections.nCopies(rows, new BigDecimal("0.01")));
        assertThatThrownBy(() -> MemoryEngine.over(project).threads(0))
                .hasMessage("0 threads cannot add anything up; give at least 1");
        for (int threads : new int[] {1, 3}) {
            MemoryEngine engine =
                    MemoryEngine.over(project).rows("sales", table).threads(threads);
            try (Session session = Session.open(project, engine)) {
                List<Double> fractions = new ArrayList<>();
                session.onProgress(fractions::add);
                Grid grid = session.report(Report.of("x", List.of("year"), List.of("sales", "paid")));
                assertThat(grid.rows().get(0).values()).hasToString("[6000.00, 6000.00]");
                assertThat(fractions).isSorted().containsExactly(0.5, 1.0);
            }
            assertThatThrownBy(() -> engine.threads(2)).hasMessageContaining("the engine was asked before");
        }
    }
}
