package dev.mile.report.distributed;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.measure.Measure;
import dev.mile.measure.Target;
import dev.mile.measure.TargetBands;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.span.Span;
import dev.mile.testkit.TestRows;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A report that machines of a cluster evaluate, one combination of members after the other, has the rows of the report itself. */
class DistributedReportTest {
    private static final LocalDate FIRST = LocalDate.parse("2024-01-01");

    private static final Fact SALES = Fact.of("sales", "ordered", "ordered").withDate("dispatched", "dispatched");

    private static MemoryEngine engine() {
        Random random = new Random(11);
        TestRows rows = TestRows.of("ordered:date,dispatched:date,shop,channel,amount:number");
        for (int i = 0; i < 1_500; i++) {
            int day = random.nextInt(900);
            rows.add(
                    FIRST.plusDays(day).toString(),
                    random.nextInt(9) == 0
                            ? ""
                            : FIRST.plusDays(day + random.nextInt(9)).toString(),
                    random.nextInt(30) == 0 ? "" : "S" + random.nextInt(6),
                    random.nextBoolean() ? "web" : "counter",
                    random.nextInt(30) == 0 ? "" : random.nextInt(99_999) / 100 + ".2" + random.nextInt(10));
        }
        return MemoryEngine.over(project()).rows("sales", rows.table());
    }

    private static Project project() {
        Measure sales = Measure.named("sales");
        Measure lastYear = sales.over(Span.back(1, Level.YEAR));
        return Project.named("groups")
                .asOf(LocalDate.parse("2026-05-14"))
                .calendar("c", FiscalCalendar.startingIn(Month.APRIL))
                .working(WorkingWeek.named("shops").rest(DayOfWeek.SUNDAY).build())
                .dates(DateBound.at(FIRST), DateBound.at(LocalDate.parse("2026-12-31")))
                .fact(SALES)
                .measure("sales", Measure.sum("sales", "amount"))
                .measure("so_far", sales.over(Span.toDate(Level.YEAR)))
                .measure("last_year", lastYear)
                .measure("growth", sales.minus(lastYear).dividedBy(lastYear))
                .measure("sent", sales.on("dispatched"))
                .measure("share", sales.dividedBy(sales.across("shop")))
                .measure("best", Measure.max("sales", "amount").over(Span.trailing(12, Level.PERIOD)))
                .measure("channels", Measure.distinct("sales", "channel"))
                .measure("largest", Measure.max("sales", "amount").each("channel"))
                .target(new Target(
                        "aim",
                        "sales",
                        Measure.named("last_year"),
                        new TargetBands(TargetBands.Aim.HIGH, new BigDecimal("1.05"), BigDecimal.ONE)))
                .build();
    }

    private static final List<String> ALL =
            List.of("sales", "so_far", "growth", "sent", "share", "best", "channels", "largest", "aim");

    @ParameterizedTest
    @CsvSource({
        "shop;month, ''",
        "month;shop, ''",
        "year;channel;shop, ''",
        "shop;weekday_name, ''",
        "shop, month of year;year",
        "quarter, ''",
        "channel;week, ''"
    })
    void rowsAreThoseOfTheReport(String rows, String columns) {
        Report named = Report.of("r", List.of(rows.split(";")), ALL);
        Report report = columns.isEmpty() ? named : named.withColumns(Report.axes(columns.split(";")));
        try (Session session = Session.open(project(), engine())) {
            DistributedReport distributed = session.distribute(report);
            assertThat(DistributedRows.evaluate(distributed))
                    .isEqualTo(DistributedRows.ofGrid(session.report(report)))
                    .isNotEmpty();
            assertThat(distributed.columns())
                    .extracting(Grid.Column::header)
                    .contains(columns.isEmpty() ? "aim_status" : "aim_status P01 FY2026");
        }
    }

    @Test
    void whatNeedsAllRowsInOnePlaceIsRefused() {
        try (Session session = Session.open(project(), engine())) {
            Report report = Report.of("r", List.of("shop"), ALL);
            assertThatThrownBy(() -> session.distribute(report.withTop(new Report.Top(3, "sales"))))
                    .isInstanceOf(MileException.class)
                    .hasMessageContaining("takes the first of them, which needs all rows in one place");
            assertThatThrownBy(() -> session.distribute(
                            report.withRows(Report.axes("month")).withColumns(report.rows())))
                    .hasMessageContaining("has members side by side, which needs all rows in one place");
            assertThatThrownBy(() -> session.distribute(Report.of("r", List.of("shop"), List.of("nothing"))))
                    .hasMessageContaining("unknown measure or target 'nothing'");
        }
    }
}
