package dev.mile.spark;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Spread;
import dev.mile.measure.Measure;
import dev.mile.measure.Target;
import dev.mile.measure.TargetBands;
import dev.mile.report.DateBound;
import dev.mile.report.Project;
import dev.mile.span.Span;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;

/** The model of the tests that run on a cluster: what can be sent is in every measure. */
final class TestSales {
    private TestSales() {}

    static final LocalDate FIRST = LocalDate.parse("2024-01-01");

    static final Fact SALES = Fact.of("sales", "ordered", "ordered").withDate("dispatched", "dispatched");

    /** A plan that is spread over days, with members that have no sales. */
    static final Fact BUDGET = Fact.of("budget", "of", "of").withGrain(Grain.of(Level.YEAR), Spread.WORKING_DAYS);

    static Project project() {
        Measure sales = Measure.sum("sales", "amount");
        Measure lastYear = Measure.named("sales").over(Span.back(1, Level.YEAR));
        return Project.named("cluster")
                .asOf(LocalDate.parse("2026-05-14"))
                .calendar("c", FiscalCalendar.startingIn(Month.APRIL))
                .dates(DateBound.at(FIRST), DateBound.at(LocalDate.parse("2026-12-31")))
                .working(WorkingWeek.named("shops").rest(DayOfWeek.SUNDAY).build())
                .fact(SALES)
                .fact(BUDGET)
                .measure("sales", sales)
                .measure("so_far", Measure.named("sales").over(Span.toDate(Level.YEAR)))
                .measure("growth", Measure.named("sales").minus(lastYear).dividedBy(lastYear))
                .measure("sent", sales.on("dispatched"))
                .measure("share", sales.dividedBy(sales.across("shop")))
                .measure("best", Measure.max("sales", "amount").over(Span.trailing(12, Level.PERIOD)))
                .measure("channels", Measure.distinct("sales", "channel"))
                .measure("largest", Measure.max("sales", "amount").each("channel"))
                .measure("planned", Measure.sum("budget", "amount"))
                .target(new Target(
                        "aim",
                        "sales",
                        Measure.named("planned"),
                        new TargetBands(TargetBands.Aim.HIGH, BigDecimal.ONE, new BigDecimal("0.9"))))
                .build();
    }

    static final List<String> ALL =
            List.of("sales", "so_far", "growth", "sent", "share", "best", "channels", "largest", "planned", "aim");
}
