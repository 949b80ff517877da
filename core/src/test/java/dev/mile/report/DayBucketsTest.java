package dev.mile.report;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.atLeastOnce;
import static org.mockito.Mockito.spy;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.BucketingCursor;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.DayBuckets;
import dev.mile.engine.Engine;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.ValueType;
import dev.mile.measure.Measure;
import dev.mile.span.Span;
import dev.mile.testkit.TestRows;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.Month;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.mockito.ArgumentCaptor;

/** Days that no window parts are asked for together, and only those. */
class DayBucketsTest {
    private static final Fact SALES = Fact.of("sales", "ordered", "day");

    private static Project project() {
        Measure sales = Measure.named("sales");
        return Project.named("p")
                .asOf(LocalDate.parse("2026-06-17"))
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(LocalDate.parse("2024-01-01")), DateBound.at(LocalDate.parse("2026-12-31")))
                .fact(SALES)
                .measure("sales", Measure.sum("sales", "amount"))
                .measure("so_far", sales.over(Span.toDate(Level.YEAR)))
                .measure("year_ago", sales.over(Span.back(1, Level.YEAR)))
                .measure("week", sales.over(Span.trailing(7, Level.DAY)))
                .measure("closing", Measure.last("sales", "amount"))
                .measure("most", Measure.max("sales", "amount").over(Span.trailing(3, Level.PERIOD)))
                .measure("shops", Measure.distinct("sales", "shop"))
                .measure("weight", Measure.sum("sales", "kilos"))
                .build();
    }

    /** The days that are covered are those of 14 months; the as-of date cuts the last, and the days before them are one bucket. */
    @ParameterizedTest
    @CsvSource({
        "month, sales, 15",
        "month;shop, sales so_far, 16",
        "shop;month, sales so_far most shops, 19",
        "month, sales year_ago, 16",
        "year, sales, 3",
        "shop, sales, 1",
        "month, sales week, 29",
        "month, closing sales, 0",
        "month, weight sales, 0",
        "weekday_name, sales, 0",
        "month;weekday_name, sales, 0",
        "date, sales, 384",
    })
    void onlyWhatWindowsPartIsAskedFor(String parts, String measures, int buckets) {
        Engine engine = spy(MemoryEngine.over(project())
                .rows(
                        "sales",
                        TestRows.of("day:date,shop,amount:number", "2026-06-01,S1,2", "2025-05-31,,3")
                                .table()
                                .floating("kilos", new double[] {0.5, 1.5})));
        Report report = Report.of("r", List.of(parts.split(";")), List.of(measures.split(" ")));
        try (Session session = Session.open(project(), engine)) {
            assertThat(session.report(report).rows()).isNotEmpty();
        }
        ArgumentCaptor<TotalsRequest> asked = ArgumentCaptor.forClass(TotalsRequest.class);
        verify(engine, atLeastOnce()).totals(asked.capture(), any());
        assertThat(asked.getAllValues())
                .allSatisfy(request ->
                        assertThat(request.buckets().firstEpochDays()).hasSize(buckets));
    }

    /** The rest of the first months is a set of days, which are read one by one. */
    @Test
    void firstRowsOfTimeAreReadDayByDay() {
        Engine engine = spy(MemoryEngine.over(project())
                .rows(
                        "sales",
                        TestRows.of(
                                        "day:date,amount:number",
                                        "2026-05-01,2",
                                        "2026-06-01,1",
                                        "2026-06-17,4",
                                        "2026-03-31,8")
                                .table()));
        Report report = Report.of("r", List.of("month"), List.of("sales")).withTop(new Report.Top(1, "sales"));
        try (Session session = Session.open(project(), engine)) {
            assertThat(session.report(report).rows().stream()
                            .filter(row -> row.kind() == Grid.RowKind.REST)
                            .map(row -> row.values().toString()))
                    .containsExactly("[7]");
        }
        verify(engine).totals(any(), any());
    }

    /** Each has its own days and totals; weight is floating, so that days are asked for one by one. */
    @Test
    void reportsOfAPackShareAPass() {
        Engine engine = spy(MemoryEngine.over(project())
                .rows(
                        "sales",
                        TestRows.of("day:date,shop,amount:number", "2026-06-01,S1,2", "2025-05-31,S2,3")
                                .table()
                                .floating("kilos", new double[] {0.5, 1.5})));
        List<Report> reports = List.of(
                Report.of("a", List.of("month", "shop"), List.of("sales", "closing")),
                Report.of("b", List.of("shop", "year"), List.of("so_far", "most")),
                Report.of("c", List.of("shop"), List.of("weight")),
                Report.of("d", List.of("year"), List.of("sales")));
        List<Grid> together;
        try (Session session = Session.open(project(), engine)) {
            together = session.reports(reports);
        }
        verify(engine, times(2)).totals(any(), any());
        try (Session session = Session.open(project(), engine)) {
            assertThat(together).isEqualTo(reports.stream().map(session::report).toList());
            session.limitHeldBytes(1);
            assertThat(session.reports(reports)).isEqualTo(together);
        }
    }

    private static final TotalColumn SUM = new TotalColumn(
            TotalColumn.Kind.SUM,
            Optional.of(
                    new RowExpression.Value(new RowExpression.Operand.Field(List.of(), "amount", ValueType.NUMBER))),
            Optional.empty());

    private static GroupTotals bucketed(TotalColumn column, DailyTotals values, DayBuckets buckets, int... days) {
        TotalsRequest request = new TotalsRequest(
                "sales", "ordered", DateRange.ofEpochDays(0, 99), buckets, List.of(), List.of(column));
        GroupTotals daily = new GroupTotals(new String[0], days, new DailyTotals[] {values});
        try (TotalsCursor totals = new BucketingCursor(
                TotalsCursor.of(List.of(daily), Map.of(RoleAccounts.RowOutcome.PLACED, 3L)), request)) {
            return totals.next();
        }
    }

    @Test
    void sumsThatOutgrowALongAreExact() {
        DayBuckets tens = DayBuckets.of(DateRange.ofEpochDays(0, 99), List.of(10, 20, 20, -5, 100));
        assertThat(tens.firstEpochDays()).containsExactly(0, 10, 20);
        long large = Long.MAX_VALUE - 1;
        GroupTotals totals =
                bucketed(SUM, new DailyTotals.Longs(new long[] {large, large, large, 5}, 2, null), tens, 1, 9, 10, 99);
        assertThat(totals.days()).containsExactly(0, 10, 20);
        assertThat(totals.values()[0].amount(0))
                .isEqualTo(BigDecimal.valueOf(large, 2).multiply(BigDecimal.valueOf(2)));
        assertThat(totals.values()[0].amount(1)).isEqualTo(BigDecimal.valueOf(large, 2));
        assertThat(totals.values()[0].amount(2)).isEqualTo(BigDecimal.valueOf(5, 2));
        boolean[] none = {true, true, false, true};
        DailyTotals blanks = bucketed(SUM, new DailyTotals.Longs(new long[] {7, 7, 7, 7}, 0, none), tens, 1, 9, 10, 99)
                .values()[0];
        assertThat(Arrays.asList(blanks.amount(0), blanks.amount(1), blanks.amount(2)))
                .containsExactly(null, BigDecimal.valueOf(7), null);
    }

    /** Their last digits would depend on what else a report shows. */
    @Test
    void floatingSumsAreNeverMadeOfSums() {
        DayBuckets all = DayBuckets.of(DateRange.ofEpochDays(0, 99), List.of());
        DailyTotals values = new DailyTotals.Doubles(new double[] {0.1, 0.2});
        assertThatThrownBy(() -> bucketed(SUM, values, all, 3, 4)).isInstanceOf(IllegalStateException.class);
        TotalColumn least = new TotalColumn(TotalColumn.Kind.MIN, SUM.value(), Optional.empty());
        assertThat(bucketed(least, values, all, 3, 4).values()[0].amount(0)).isEqualTo(0.1);
    }

    @Test
    void windowsBeginWhereNoStretchIsParted() {
        DayBuckets two = DayBuckets.of(DateRange.ofEpochDays(10, 19), List.of(15));
        assertThat(List.of(5, 10, 15, 20, 25)).allMatch(two::isBoundary);
        assertThat(List.of(11, 14, 16, 19)).noneMatch(two::isBoundary);
        assertThat(List.of(5, 10, 14, 15, 19, 20).stream().map(two::boundaryIndex))
                .containsExactly(0, 0, 0, 1, 1, 2);
        assertThat(List.of(11, 14).stream().map(DayBuckets.DAILY::isBoundary)).containsOnly(true);
    }
}
