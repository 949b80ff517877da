package dev.mile.report.plan;

import dev.mile.calendar.DateRange;
import dev.mile.dimension.DateDimension;
import dev.mile.engine.DayContext;
import dev.mile.report.Project;
import dev.mile.span.SpanContext;

/**
 * What reports are compiled against.
 *
 * @param project the model
 * @param names what names refer to
 * @param spans what spans are resolved against, with the report's calendar as the default
 * @param dimension the date dimension
 * @param days what engines know of days
 * @param coverage the days that facts cover
 */
public record PlanningContext(
        Project project,
        NameResolver names,
        SpanContext spans,
        DateDimension dimension,
        DayContext days,
        Coverage coverage) {
    /** The days that facts cover. */
    @FunctionalInterface
    public interface Coverage {
        /** Returns the days that the fact covers in the role: from the first row to the last, to the as-of date for actuals. */
        DateRange of(String fact, String role);
    }
}
