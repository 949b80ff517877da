package dev.mile.examples;

import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.calendar.PeriodEnd;
import dev.mile.dimension.DateDimension;
import dev.mile.render.text.DatesCsv;
import dev.mile.render.text.DatesTable;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/** A calendar that no rule gives: its period ends are listed. Here a year has four long periods that end on Fridays. */
public final class CustomCalendar {
    private CustomCalendar() {}

    /** Prints the periods, then a few days of the date dimension as CSV. */
    public static void main(String[] args) throws IOException {
        periods().forEach(System.out::println);
        DateDimension dimension = DateDimension.over(DateRange.of(LocalDate.of(2025, 12, 29), LocalDate.of(2026, 1, 6)))
                .calendar("periods", calendar())
                .build();
        List<String> names = List.of("date", "weekday_name", "periods_period_label", "periods_day_of_period");
        DateRange days = DateRange.of(LocalDate.of(2026, 1, 1), LocalDate.of(2026, 1, 5));
        DatesTable table = new DatesTable(
                dimension,
                names.stream().flatMap(n -> dimension.column(n).stream()).toList(),
                days);
        DatesCsv.write(table, System.out);
    }

    static FiscalCalendar calendar() {
        List<PeriodEnd> ends = new ArrayList<>();
        LocalDate end = LocalDate.of(2025, 1, 3);
        for (int year = 2025; year <= 2026; year++) {
            for (int period = 1; period <= 4; period++) {
                end = end.plusWeeks(13);
                ends.add(PeriodEnd.of(end, year, period));
            }
        }
        return FiscalCalendar.listed(LocalDate.of(2025, 1, 4), ends);
    }

    static List<String> periods() {
        FiscalCalendar calendar = calendar();
        DateRange all = DateRange.of(LocalDate.of(2025, 1, 4), LocalDate.of(2027, 1, 1));
        return calendar.periodsOverlapping(Level.PERIOD, all).stream()
                .map((CalendarPeriod p) -> p.label() + "  " + p.range())
                .toList();
    }
}
