package dev.mile.report;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.SupportedDates;
import dev.mile.dimension.DateColumn;
import dev.mile.dimension.DateDimension;
import dev.mile.engine.DayContext;
import dev.mile.fact.ValueType;
import dev.mile.internal.Messages;
import dev.mile.workday.WorkingWeek;

/** What a project knows of days, for engines. */
final class ProjectDays implements DayContext {
    // far enough for any date of a row that is meant, near enough to leave out those that stand for none
    private static final int YEARS_AROUND = 10;

    private final Project project;
    private final DateDimension dimension;
    private final int asOf;

    ProjectDays(Project project, DateDimension dimension, int asOf) {
        this.project = project;
        this.dimension = dimension;
        this.asOf = asOf;
    }

    @Override
    public DateRange dimensionRange() {
        return dimension.range();
    }

    private DateColumn column(String name) {
        return dimension
                .column(name)
                .orElseThrow(() -> MileException.invalidModel("unknown date attribute '%s'", name));
    }

    @Override
    public Object attribute(String name, int day) {
        return AxisPart.comparable(column(name), day);
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
    public FiscalCalendar calendar(String name) {
        String wanted = name.isEmpty() ? project.defaultCalendar() : name;
        FiscalCalendar calendar = project.calendars().get(wanted);
        if (calendar == null) {
            throw MileException.invalidModel(
                    "unknown calendar '%s'%s",
                    wanted, Messages.didYouMean(wanted, project.calendars().keySet()));
        }
        return calendar;
    }

    @Override
    public int asOf() {
        return asOf;
    }

    @Override
    public long cumulativeWorkingMillionths(String week, int day) {
        if (project.workingWeeks().isEmpty()) {
            throw MileException.invalidModel("the model has no working week; add `working: {shops: {rest: [sunday]}}`");
        }
        WorkingWeek found = week.isEmpty()
                ? project.workingWeeks().values().iterator().next()
                : project.workingWeeks().get(week);
        if (found == null) {
            throw MileException.invalidModel(
                    "unknown working week '%s'%s",
                    week, Messages.didYouMean(week, project.workingWeeks().keySet()));
        }
        return found.cumulativeMillionths(day);
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
