package dev.mile.report.axis;

import dev.mile.calendar.CalendarPeriod;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.report.Grid;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Periods by their number in the year, {@code month of year}, the same for every year; keys are these numbers. */
public record PeriodOfYearAxis(String name, FiscalCalendar calendar, Level level) implements DayAxis {
    @Override
    public Grid.AxisKind kind() {
        return Grid.AxisKind.OF_YEAR;
    }

    @Override
    public Optional<Object> key(int epochDay) {
        int number = calendar.number(level, Level.YEAR, epochDay);
        return number == FiscalCalendar.NONE ? Optional.empty() : Optional.of(number);
    }

    /** Returns the days of the period of the year with the ordinal; no days where the year lacks it. */
    public DateRange range(Object key, int year) {
        List<CalendarPeriod> periods = calendar.periodsOverlapping(level, calendar.range(Level.YEAR, year));
        return periods.stream()
                .filter(p -> p.number() == (Integer) key)
                .map(CalendarPeriod::range)
                .findFirst()
                .orElse(DateRange.EMPTY);
    }

    @Override
    public Comparator<Object> order() {
        return Comparator.comparingInt(key -> (Integer) key);
    }

    @Override
    public String label(Object key) {
        return switch (level) {
            case PERIOD -> String.format(Locale.ROOT, "P%02d", (Integer) key);
            case WEEK -> String.format(Locale.ROOT, "W%02d", (Integer) key);
            default -> (level == Level.QUARTER ? "Q" : "H") + key;
        };
    }
}
