package dev.mile.report.axis;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.dimension.DateColumn;
import dev.mile.dimension.DateDimension;
import dev.mile.report.Report;
import dev.mile.span.Span;
import dev.mile.span.SpanContext;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Looks up the names in the rows and columns of a report. */
final class AxisResolver {
    private static final String OF_YEAR = " of year";

    private final SpanContext context;
    private final DateDimension dimension;
    private final AxisNames names;

    AxisResolver(SpanContext context, DateDimension dimension, AxisNames names) {
        this.context = context;
        this.dimension = dimension;
        this.names = names;
    }

    /**
     * Returns the axis: a level of the report's calendar or of a named one, a period of the year, a dimension, or a date attribute.
     *
     * @throws MileException if nothing has the name, or the calendar lacks the level
     */
    Axis resolve(Report.AxisSpec spec) {
        if (spec instanceof Report.RecentPeriods recent) {
            DateRange asOf = DateRange.ofEpochDays(context.asOf(), context.asOf());
            return new RecentAxis(
                    "when",
                    recent.spans().stream().map(Span::toString).toList(),
                    recent.spans().stream().map(s -> s.resolve(asOf, context)).toList());
        }
        String name = ((Report.NamedAxis) spec).text();
        Optional<Axis> level = level(name);
        if (level.isPresent()) {
            return level.get();
        }
        if (names.isDimension(name)) {
            return new MemberAxis(name, names.bands(name).orElse(null));
        }
        Optional<DateColumn> column = dimension.column(name);
        if (column.isPresent()) {
            DateColumn sortedBy = dimension.column(column.get().sortBy()).orElse(column.get());
            return new AttributeAxis(name, column.get(), sortedBy);
        }
        List<String> known = new ArrayList<>(List.of("year", "half", "quarter", "month", "week", "day"));
        known.addAll(names.all());
        throw ModelException.unknownName("level, dimension or date attribute", name, known);
    }

    private Optional<Axis> level(String name) {
        if (name.equals("date")) {
            // the column `date` of the date dimension is the level day
            return Optional.of(new LevelAxis(name, context.calendar(), Level.DAY));
        }
        boolean ofYear = name.endsWith(OF_YEAR);
        String word = ofYear ? name.substring(0, name.length() - OF_YEAR.length()) : name;
        int dot = word.indexOf('.');
        boolean calendarNamed = dot > 0 && context.calendars().containsKey(word.substring(0, dot));
        if (dot >= 0 && !calendarNamed) {
            return Optional.empty();
        }
        Optional<Level> level = Level.parse(word.substring(dot + 1));
        if (level.isEmpty()) {
            return Optional.empty();
        }
        FiscalCalendar calendar = calendarNamed
                ? context.calendarWith(level.get(), word.substring(0, dot))
                : context.calendarWith(level.get());
        if (!ofYear) {
            return Optional.of(new LevelAxis(name, calendar, level.get()));
        }
        if (level.get() == Level.YEAR || level.get() == Level.DAY) {
            throw ModelException.of(
                    "'%s' is not a place in the year; write month, week, quarter or half of year", name);
        }
        return Optional.of(new PeriodOfYearAxis(name, calendar, level.get()));
    }
}
