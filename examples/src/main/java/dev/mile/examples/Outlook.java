package dev.mile.examples;

import static dev.mile.calendar.Level.PERIOD;
import static dev.mile.calendar.Level.YEAR;
import static java.time.Month.JANUARY;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.memory.MemoryEngine;
import dev.mile.fact.Fact;
import dev.mile.fact.Grain;
import dev.mile.fact.Spread;
import dev.mile.fact.Table;
import dev.mile.measure.Measure;
import dev.mile.render.chart.GridChart;
import dev.mile.render.text.GridText;
import dev.mile.report.Chart;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.span.Span;
import java.io.IOException;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/** Actuals up to the as-of date and the forecast after it, each day once; by month, cumulative, and as a chart. */
public final class Outlook {
    private Outlook() {}

    /** Prints the report; with an argument, draws it into that PNG file. */
    public static void main(String[] args) throws IOException {
        Grid grid = compute();
        System.out.print(new GridText(false, 160).write(grid));
        if (args.length > 0) {
            try (OutputStream out = Files.newOutputStream(Path.of(args[0]))) {
                GridChart.png(grid, out);
            }
        }
    }

    static Grid compute() {
        Measure outlook = Measure.sum("sales", "amount").then(Measure.sum("forecast", "amount"));
        Project project = Project.named("Fernhollow Garden Centres")
                .asOf(LocalDate.of(2026, 4, 15))
                .calendar("civil", FiscalCalendar.startingIn(JANUARY))
                .dates(DateBound.at(LocalDate.of(2026, 1, 1)), DateBound.at(LocalDate.of(2026, 12, 31)))
                .fact(Fact.of("sales", "ordered", "day"))
                .fact(Fact.of("forecast", "for", "month").withGrain(Grain.of(PERIOD), Spread.DAYS))
                .measure("outlook", outlook)
                .measure("outlook_ytd", outlook.over(Span.toDate(YEAR)))
                .build();
        try (Session session = Session.open(project, rows(project))) {
            return session.report(Report.of("outlook", List.of("year", "month"), List.of("outlook", "outlook_ytd"))
                    .withTitle("Outlook 2026")
                    .withChart(new Chart(Chart.Kind.LINES, List.of("outlook_ytd"))));
        }
    }

    /** Ten a day were sold up to the as-of date; twelve a day are forecast, for every month. */
    private static MemoryEngine rows(Project project) {
        List<LocalDate> days = new ArrayList<>();
        List<BigDecimal> sold = new ArrayList<>();
        for (LocalDate day = LocalDate.of(2026, 1, 1); !day.isAfter(LocalDate.of(2026, 4, 15)); day = day.plusDays(1)) {
            days.add(day);
            sold.add(BigDecimal.TEN);
        }
        List<String> months = new ArrayList<>();
        List<BigDecimal> forecast = new ArrayList<>();
        for (int month = 1; month <= 12; month++) {
            LocalDate first = LocalDate.of(2026, month, 1);
            months.add(first.toString());
            forecast.add(BigDecimal.valueOf(12L * first.lengthOfMonth()));
        }
        return MemoryEngine.over(project)
                .rows("sales", Table.ofRows(days.size()).date("day", days).number("amount", sold))
                .rows("forecast", Table.ofRows(12).text("month", months).number("amount", forecast));
    }
}
