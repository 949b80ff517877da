package dev.mile.examples;

import static dev.mile.calendar.Level.YEAR;
import static java.time.Month.JANUARY;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Spread;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.measure.Target;
import dev.mile.measure.TargetBands;
import dev.mile.render.text.GridText;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.span.Span;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.List;

/** A yearly budget, spread over working days, beside what was sold: so far, with its status. */
public final class BudgetAgainstActual {
    private BudgetAgainstActual() {}

    /** Prints the report. */
    public static void main(String[] args) {
        System.out.print(new GridText(false, 160).write(compute()));
    }

    static Grid compute() {
        Measure actual = Measure.sum("sales", "amount").over(Span.toDate(YEAR));
        Measure budget = Measure.sum("budget", "amount");
        // the budget is a plan, which the as-of date does not cut: this cuts it, to compare like days
        Measure soFar = budget.over(Span.soFar().then(Span.toDate(YEAR)));
        Project project = Project.named("Fernhollow Garden Centres")
                .asOf(LocalDate.of(2026, 3, 31))
                .calendar("civil", FiscalCalendar.startingIn(JANUARY))
                .working(WorkingWeek.named("shops").rest(DayOfWeek.SUNDAY).build())
                .dates(DateBound.at(LocalDate.of(2026, 1, 1)), DateBound.at(LocalDate.of(2026, 12, 31)))
                .fact(Fact.of("sales", "ordered", "day"))
                .fact(Fact.of("budget", "for", "year").withGrain(Grain.of(YEAR), Spread.WORKING_DAYS))
                .measure("actual", actual)
                .measure("budget", budget)
                .measure("so_far", soFar)
                .measure("gap", Measure.named("actual").minus(Measure.named("so_far")))
                .target(new Target(
                        "standing",
                        "actual",
                        Measure.named("so_far"),
                        new TargetBands(TargetBands.Aim.HIGH, BigDecimal.ONE, new BigDecimal("0.95"))))
                .build();
        MemoryEngine engine = MemoryEngine.over(project)
                .rows(
                        "sales",
                        Table.ofRows(4)
                                .date(
                                        "day",
                                        List.of(
                                                LocalDate.of(2026, 1, 15),
                                                LocalDate.of(2026, 2, 10),
                                                LocalDate.of(2026, 2, 20),
                                                LocalDate.of(2026, 3, 31)))
                                .text("shop", List.of("Alderwick", "Alderwick", "Brambleford", "Brambleford"))
                                .number(
                                        "amount",
                                        List.of(
                                                new BigDecimal("1200.00"),
                                                new BigDecimal("1800.00"),
                                                new BigDecimal("900.00"),
                                                new BigDecimal("1000.00"))))
                .rows(
                        "budget",
                        Table.ofRows(2)
                                .text("year", List.of("FY2026", "FY2026"))
                                .text("shop", List.of("Alderwick", "Brambleford"))
                                .number("amount", List.of(new BigDecimal("12000"), new BigDecimal("8000"))));
        try (Session session = Session.open(project, engine)) {
            return session.report(Report.of(
                            "budget", List.of("year", "shop"), List.of("budget", "so_far", "actual", "gap", "standing"))
                    .withTitle("Actual against budget, year to date"));
        }
    }
}
