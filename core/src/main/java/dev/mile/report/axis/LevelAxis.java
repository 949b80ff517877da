package dev.mile.report.axis;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.report.Grid;
import java.util.Comparator;
import java.util.Optional;

/** The periods of a level of a calendar; keys are their ordinals. */
public record LevelAxis(String name, FiscalCalendar calendar, Level level) implements DayAxis {
    @Override
    public Grid.AxisKind kind() {
        return Grid.AxisKind.PERIOD;
    }

    @Override
    public Optional<Object> key(int epochDay) {
        int ordinal = calendar.ordinal(level, epochDay);
        return ordinal == FiscalCalendar.NONE ? Optional.empty() : Optional.of(ordinal);
    }

    /** Returns the days of the period. */
    public DateRange range(Object key) {
        return calendar.range(level, (Integer) key);
    }

    @Override
    public Comparator<Object> order() {
        return Comparator.comparingInt(key -> (Integer) key);
    }

    @Override
    public String label(Object key) {
        return calendar.label(level, (Integer) key);
    }
}
