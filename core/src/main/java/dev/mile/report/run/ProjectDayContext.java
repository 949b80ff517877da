package dev.mile.report.run;

import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.SupportedDates;
import dev.mile.dimension.ColumnType;
import dev.mile.dimension.DateColumn;
import dev.mile.dimension.DateDimension;
import dev.mile.engine.DayContext;
import dev.mile.fact.ValueType;
import dev.mile.span.SpanContext;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.util.Map;
import java.util.function.IntToLongFunction;
import org.jspecify.annotations.Nullable;

/** What a project knows of days, for engines. */
final class ProjectDayContext implements DayContext {
    // far enough for any real date of a row, near enough to leave out dates that mean none
    private static final int YEARS_AROUND = 10;

    private final DateDimension dimension;
    private final SpanContext spans;
    private final Map<String, WorkingWeek> workingWeeks;

    ProjectDayContext(DateDimension dimension, SpanContext spans, Map<String, WorkingWeek> workingWeeks) {
        this.dimension = dimension;
        this.spans = spans;
        this.workingWeeks = workingWeeks;
    }

    @Override
    public DateRange dimensionRange() {
        return dimension.range();
    }

    private DateColumn column(String name) {
        return dimension.column(name).orElseThrow(() -> ModelException.of("unknown date attribute '%s'", name));
    }

    /** Attributes are compared as texts, numbers and dates; yes and no are texts there. */
    @Override
    public @Nullable Object attribute(String name, int epochDay) {
        DateColumn column = column(name);
        Object value = column.value(epochDay);
        if (value instanceof Integer number) {
            return BigDecimal.valueOf(number);
        }
        return value instanceof Boolean || column.type() == ColumnType.TEXT && value != null ? value.toString() : value;
    }

    @Override
    public ValueType attributeType(String name) {
        return switch (column(name).type()) {
            case DATE -> ValueType.DATE;
            case INTEGER, NUMBER -> ValueType.NUMBER;
            case TEXT, BOOLEAN -> ValueType.TEXT;
        };
    }

    @Override
    public FiscalCalendar calendar() {
        return spans.calendar();
    }

    @Override
    public FiscalCalendar calendar(String name) {
        return spans.calendar(name);
    }

    @Override
    public int asOf() {
        return spans.asOf();
    }

    @Override
    public IntToLongFunction cumulativeWorkingMillionths() {
        WorkingWeek first = workingWeeks.values().stream().findFirst().orElseThrow(() -> ModelException.of(
                        "the project has no working week; add one, such as"
                                + " working(WorkingWeek.named(\"shops\").rest(SUNDAY).build())")
                .withModelWords("the model has no working week; add `working: {shops: {rest: [sunday]}}`"));
        return first::cumulativeMillionths;
    }

    @Override
    public IntToLongFunction cumulativeWorkingMillionths(String week) {
        WorkingWeek found = workingWeeks.get(week);
        if (found == null) {
            throw ModelException.unknownName("working week", week, workingWeeks.keySet());
        }
        return found::cumulativeMillionths;
    }

    @Override
    public DateRange elapsedRange() {
        DateRange placed = dimensionRange();
        return placed.isEmpty()
                ? placed
                : DateRange.of(
                                placed.first().minusYears(YEARS_AROUND),
                                placed.last().plusYears(YEARS_AROUND))
                        .intersect(SupportedDates.RANGE);
    }
}
