package dev.mile.examples;

import static dev.mile.calendar.Level.YEAR;
import static java.time.Month.APRIL;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.render.text.GridText;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.span.Span;
import dev.mile.workday.HolidayDate;
import dev.mile.workday.HolidayRule;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/** Sales against last year by month and shop, by two date roles, from rows that the program has in memory. */
public final class YearOverYear {
    private YearOverYear() {}

    /** Prints the report. */
    public static void main(String[] args) {
        System.out.print(new GridText(false, 160).write(compute()));
    }

    static Grid compute() {
        Measure sales = Measure.sum("sales", "net_amount");
        Measure lastYear = sales.over(Span.back(1, YEAR));
        Project project = Project.named("Fernhollow Garden Centres")
                .asOf(LocalDate.of(2026, 8, 14))
                .calendar("fiscal", FiscalCalendar.startingIn(APRIL))
                .working(WorkingWeek.named("shops")
                        .rest(DayOfWeek.SUNDAY)
                        .holiday(HolidayRule.of("Spring holiday", HolidayDate.parse("first monday of may")))
                        .build())
                .fact(Fact.of("sales", "ordered", "order_date").withDate("dispatched", "dispatch_date"))
                .measure("sales", sales)
                .measure("sales_ly", lastYear)
                .measure("growth", sales.minus(lastYear).dividedBy(lastYear))
                .measure("sales_ytd", sales.over(Span.toDate(YEAR)))
                .measure("daily", sales.per(Per.workingDay()))
                .measure("dispatched", sales.on("dispatched"))
                .build();
        MemoryEngine engine = MemoryEngine.over(project).rows("sales", rows());
        try (Session session = Session.open(project, engine)) {
            return session.report(Report.of(
                            "trading",
                            List.of("year", "month", "shop"),
                            List.of("sales", "sales_ly", "growth", "sales_ytd", "daily", "dispatched"))
                    .withTitle("Year over year by shop"));
        }
    }

    /** An order of a shop; not dispatched yet where that date is null. */
    private record Sale(LocalDate ordered, LocalDate dispatched, String shop, BigDecimal net) {}

    /** Two shops, an order every other day; the second shop grows. */
    private static List<Sale> sales() {
        List<Sale> sales = new ArrayList<>();
        for (LocalDate day = LocalDate.of(2025, 4, 1); day.isBefore(LocalDate.of(2026, 8, 15)); day = day.plusDays(2)) {
            for (String shop : List.of("Alderwick", "Brambleford")) {
                LocalDate dispatched = day.plusDays(3).isAfter(LocalDate.of(2026, 8, 14)) ? null : day.plusDays(3);
                int growth = shop.startsWith("B") && day.getYear() == 2026 ? 12 : 0;
                sales.add(new Sale(
                        day, dispatched, shop, BigDecimal.valueOf(10_000L + 100L * growth + day.getDayOfMonth(), 2)));
            }
        }
        return sales;
    }

    private static Table rows() {
        return Table.of(sales(), c -> c.date("order_date", Sale::ordered)
                .date("dispatch_date", Sale::dispatched)
                .text("shop", Sale::shop)
                .number("net_amount", Sale::net));
    }
}
