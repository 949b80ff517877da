package dev.mile.examples;

import static dev.mile.calendar.Level.PERIOD;
import static java.time.Month.JANUARY;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.RowExpression.TimeUnit;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.measure.Per;
import dev.mile.render.text.GridText;
import dev.mile.report.DateBound;
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
import java.util.Optional;

/** Sales per working day, where the month will end at that rate, and the working days from order to dispatch. */
public final class WorkingDayRates {
    private WorkingDayRates() {}

    /** Prints the report. */
    public static void main(String[] args) {
        System.out.print(new GridText(false, 160).write(compute()));
    }

    static Grid compute() {
        Measure rate = Measure.sum("sales", "amount").per(Per.workingDay());
        Measure whole = Measure.workingDays().over(Span.whole(PERIOD)).inFull();
        RowExpression waited = RowExpression.Elapsed.of(
                TimeUnit.WORKING_DAYS, new Operand.Name("sales.ordered"), new Operand.Name("sales.dispatched"));
        Project project = Project.named("Fernhollow Garden Centres")
                .asOf(LocalDate.of(2026, 5, 15))
                .calendar("civil", FiscalCalendar.startingIn(JANUARY))
                .working(WorkingWeek.named("shops")
                        .rest(DayOfWeek.SUNDAY)
                        .holiday(HolidayRule.of("Spring holiday", HolidayDate.parse("first monday of may")))
                        .build())
                .dates(DateBound.at(LocalDate.of(2026, 4, 1)), DateBound.at(LocalDate.of(2026, 5, 31)))
                .fact(Fact.of("sales", "ordered", "day").withDate("dispatched", "sent"))
                .measure("rate", rate)
                .measure("days_so_far", Measure.workingDays())
                .measure("at_this_rate", Measure.named("rate").times(whole))
                .measure("waited", new Measure.Aggregate(Measure.Aggregation.AVG, "sales", Optional.of(waited)))
                .build();
        List<LocalDate> days = new ArrayList<>();
        List<LocalDate> sent = new ArrayList<>();
        List<BigDecimal> amounts = new ArrayList<>();
        for (LocalDate day = LocalDate.of(2026, 4, 1); !day.isAfter(LocalDate.of(2026, 5, 15)); day = day.plusDays(1)) {
            days.add(day);
            sent.add(day.plusDays(2));
            amounts.add(BigDecimal.valueOf(24));
        }
        MemoryEngine engine = MemoryEngine.over(project)
                .rows(
                        "sales",
                        Table.ofRows(days.size())
                                .date("day", days)
                                .date("sent", sent)
                                .number("amount", amounts));
        try (Session session = Session.open(project, engine)) {
            return session.report(
                    Report.of("rates", List.of("month"), List.of("rate", "days_so_far", "at_this_rate", "waited"))
                            .withTitle("Sales per working day"));
        }
    }
}
