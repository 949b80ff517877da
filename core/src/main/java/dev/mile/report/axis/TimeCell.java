package dev.mile.report.axis;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import java.io.Serializable;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** The time of a cell: its days, what is left of them where they are not consecutive, and the finest level that made it. Immutable. */
public final class TimeCell implements Serializable {
    private static final long serialVersionUID = 1L;

    private final int index;
    private final DateRange days;
    private final transient List<DayFilter> filters;
    private final @Nullable Level finest;

    /**
     * Returns a cell.
     *
     * @param index its place in the table of the report's windows
     * @param days its first to its last day; no days where its periods have none in common
     * @param filters which of the days are its own; empty for all
     * @param finest the finest level of its row and column; null where neither has one
     */
    public TimeCell(int index, DateRange days, List<DayFilter> filters, @Nullable Level finest) {
        this.index = index;
        this.days = days;
        this.filters = List.copyOf(filters);
        this.finest = finest;
    }

    /** Returns its place in the table of the report's windows. */
    public int index() {
        return index;
    }

    /** Returns its first to its last day. */
    public DateRange days() {
        return days;
    }

    /** Returns which of the days are its own; empty for all. Known where the report was compiled. */
    public List<DayFilter> filters() {
        return filters;
    }

    /** Returns the finest level of its row and column. */
    public Optional<Level> finest() {
        return Optional.ofNullable(finest);
    }
}
