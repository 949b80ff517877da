package dev.mile.report.plan;

import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.calendar.SupportedDates;
import dev.mile.measure.Per;
import dev.mile.measure.Value;
import dev.mile.report.axis.DayFilter;
import dev.mile.report.axis.TimeCell;
import dev.mile.span.SpanContext;
import dev.mile.workday.WorkingWeek;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Resolves what aggregates look at in a cell to days. It keeps the masks of filters; not for use by several threads. */
public final class WindowResolver {
    private final SpanContext spans;
    private final Map<String, WorkingWeek> weeks;
    private final DateRange dimension;
    private final PlanningContext.Coverage coverage;
    private final Map<List<DayFilter>, DayMask> masks = new HashMap<>();

    /** Returns a resolver of windows in the project. */
    public WindowResolver(PlanningContext context) {
        this.spans = context.spans();
        this.weeks = context.project().workingWeeks();
        this.dimension = context.dimension().range();
        this.coverage = context.coverage();
    }

    /** Returns what all aggregates and day counts of the measures look at in the cell. */
    public CellWindows resolve(CompiledMeasures measures, TimeCell cell) {
        List<PlanNode.AggregateNode> aggregates = measures.aggregates();
        ResolvedWindow[] windows = new ResolvedWindow[aggregates.size()];
        for (int a = 0; a < windows.length; a++) {
            windows[a] = resolve(aggregates.get(a), cell, SupportedDates.RANGE);
        }
        return new CellWindows(
                windows,
                limited(aggregates, cell),
                measures.dayCounts().stream().map(count -> count(count, cell)).toArray(Value[]::new),
                cell.finest().orElse(null));
    }

    /** Returns the windows for members that could have rows on some days only: by the days, then by the number of the aggregate. */
    private Map<DateRange, ResolvedWindow[]> limited(List<PlanNode.AggregateNode> aggregates, TimeCell cell) {
        Map<DateRange, ResolvedWindow[]> limited = new HashMap<>();
        for (int a = 0; a < aggregates.size(); a++) {
            for (DateRange limit : limits(aggregates.get(a).limits())) {
                limited.computeIfAbsent(limit, l -> new ResolvedWindow[aggregates.size()])[a] =
                        resolve(aggregates.get(a), cell, limit);
            }
        }
        return limited;
    }

    /** Returns every range that members may have, alone and with a member of another dimension. */
    private static Set<DateRange> limits(List<MemberLimit> limits) {
        Set<DateRange> ranges = new HashSet<>();
        for (MemberLimit limit : limits) {
            Set<DateRange> before = new HashSet<>(ranges);
            Set<DateRange> own = new HashSet<>(limit.daysByMember().values());
            ranges.addAll(own);
            own.forEach(range -> before.forEach(other -> ranges.add(range.intersect(other))));
        }
        return ranges;
    }

    /** Returns the days that an aggregate or a day count looks at, before the filters. */
    public DateRange window(PlanNode.WindowSpec spec, TimeCell cell) {
        DateRange days = cellDays(spec, cell);
        return days.isEmpty() ? days : spec.span().resolve(days, spans);
    }

    private DateRange cellDays(PlanNode.WindowSpec spec, TimeCell cell) {
        return spec.cutAtAsOf() ? cell.days().notAfter(spans.asOf()) : cell.days();
    }

    private @Nullable ResolvedWindow resolve(PlanNode.AggregateNode aggregate, TimeCell cell, DateRange limit) {
        DateRange window = window(aggregate.window(), cell);
        List<DayFilter> filters = filters(cell, aggregate.across());
        DateRange covered = window.intersect(
                coverage.of(aggregate.series().fact(), aggregate.series().role())
                        .intersect(limit));
        if (days(covered, filters) == 0 || aggregate.needsWhole() && !isCovered(aggregate, cell, window, covered)) {
            return null;
        }
        return new ResolvedWindow(
                window.firstEpochDay(),
                window.lastEpochDay(),
                ResolvedWindow.UNKNOWN_INDEX,
                ResolvedWindow.UNKNOWN_INDEX,
                filters.isEmpty()
                        ? null
                        : masks.computeIfAbsent(filters, kept -> new DayMask(dimension, day -> isKept(kept, day))),
                aggregate
                        .window()
                        .per()
                        .map(per -> units(per, covered, filters))
                        .orElse(null),
                filters.size() == cell.filters().size());
    }

    /** Returns whether all days are covered that must be: of a first or last value, or of a window without a first day, only one. */
    private boolean isCovered(PlanNode.AggregateNode aggregate, TimeCell cell, DateRange window, DateRange covered) {
        if (covered.equals(window)) {
            return true;
        }
        List<DayFilter> filters = filters(cell, aggregate.across());
        boolean start = days(DateRange.ofEpochDays(window.firstEpochDay(), covered.firstEpochDay() - 1), filters) == 0;
        boolean end = days(DateRange.ofEpochDays(covered.lastEpochDay() + 1, window.lastEpochDay()), filters) == 0;
        boolean fromDimension =
                aggregate.window().span().beginsWithDimension(cellDays(aggregate.window(), cell), spans);
        return switch (aggregate.aggregation()) {
            case FIRST -> start || fromDimension && end;
            case LAST -> end;
            default -> end && (start || fromDimension);
        };
    }

    private Value count(PlanNode.DayCount count, TimeCell cell) {
        DateRange window = window(count.window(), cell);
        List<DayFilter> filters = filters(cell, count.across());
        if (days(window, filters) == 0) {
            return Value.UNKNOWN;
        }
        Value value = count.working() ? workingDays(window, filters, count.week()) : Value.of(days(window, filters));
        return count.window()
                .per()
                .map(per -> value.dividedBy(units(per, window, filters)))
                .orElse(value);
    }

    /** Returns the filters of the cell that the aggregate does not ignore. */
    private static List<DayFilter> filters(TimeCell cell, List<String> across) {
        return across.isEmpty() || cell.filters().isEmpty()
                ? cell.filters()
                : cell.filters().stream()
                        .filter(f -> !across.contains(f.name()))
                        .toList();
    }

    private static boolean isKept(List<DayFilter> filters, int day) {
        for (DayFilter filter : filters) {
            if (!filter.test().test(day)) {
                return false;
            }
        }
        return true;
    }

    private static int days(DateRange window, List<DayFilter> filters) {
        if (filters.isEmpty() || window.isEmpty()) {
            return window.length();
        }
        int days = 0;
        for (int day = window.firstEpochDay(); day <= window.lastEpochDay(); day++) {
            days += isKept(filters, day) ? 1 : 0;
        }
        return days;
    }

    private Value workingDays(DateRange window, List<DayFilter> filters, Optional<String> name) {
        WorkingWeek week =
                name.map(weeks::get).orElseGet(() -> weeks.values().iterator().next());
        if (filters.isEmpty()) {
            return Value.of(week.workingDaysIn(window));
        }
        BigDecimal sum = BigDecimal.ZERO;
        for (int day = window.firstEpochDay(); day <= window.lastEpochDay(); day++) {
            sum = isKept(filters, day) ? sum.add(week.workedShare(day)) : sum;
        }
        return Value.of(sum);
    }

    /**
     * Returns how many units the window touches; days and working days as they are.
     *
     * @throws MileException if the calendar lacks the unit
     */
    private Value units(Per per, DateRange window, List<DayFilter> filters) {
        if (per.working()) {
            return workingDays(window, filters, per.week());
        }
        if (per.unit() == Level.DAY) {
            return Value.of(days(window, filters));
        }
        FiscalCalendar calendar = per.calendar()
                .map(name -> spans.calendarWith(per.unit(), name))
                .orElseGet(() -> spans.calendarWith(per.unit()));
        if (filters.isEmpty()) {
            int crossed = calendar.boundariesCrossed(window.firstEpochDay(), window.lastEpochDay(), per.unit());
            return crossed == FiscalCalendar.NONE ? Value.UNKNOWN : Value.of(crossed + 1);
        }
        int units = 0;
        int last = FiscalCalendar.NONE;
        for (int day = window.firstEpochDay(); day <= window.lastEpochDay(); day++) {
            int unit = calendar.ordinal(per.unit(), day);
            if (isKept(filters, day) && unit != FiscalCalendar.NONE && unit != last) {
                units++;
                last = unit;
            }
        }
        return Value.of(units);
    }
}
