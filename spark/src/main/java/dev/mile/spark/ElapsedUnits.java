package dev.mile.spark;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.DayContext;
import dev.mile.fact.RowExpression;
import java.io.Serializable;
import java.util.function.IntToLongFunction;

/** What must be known of each day to count the time between two dates of a row, in arrays that are sent to every machine. */
final class ElapsedUnits implements Serializable {
    private static final long serialVersionUID = 1L;
    private static final int NONE = FiscalCalendar.NONE;

    private final RowExpression.TimeUnit unit;
    private final int first;
    private final int last;
    private final long[] working;
    private final int[] units;
    private final int[] place;
    private final int[] dayOf;
    private final int[] length;

    /** Collects what an expression needs. */
    ElapsedUnits(RowExpression.Elapsed elapsed, DayContext days) {
        DateRange range = days.elapsedRange();
        this.unit = elapsed.unit();
        this.first = range.firstEpochDay();
        this.last = range.lastEpochDay();
        FiscalCalendar calendar = FiscalCalendar.civil();
        Level places = Level.PERIOD;
        boolean months = unit == RowExpression.TimeUnit.MONTHS;
        boolean counted = months || unit == RowExpression.TimeUnit.YEARS;
        this.working = unit == RowExpression.TimeUnit.WORKING_DAYS ? new long[range.length()] : null;
        this.units = counted ? new int[range.length()] : null;
        this.place = counted ? new int[range.length()] : null;
        this.dayOf = counted ? new int[range.length()] : null;
        this.length = counted ? new int[range.length()] : null;
        IntToLongFunction worked = working == null ? day -> 0 : days.cumulativeWorkingMillionths(elapsed);
        for (int day = first; day <= last; day++) {
            int i = day - first;
            if (working != null) {
                working[i] = worked.applyAsLong(day);
            }
            if (counted) {
                units[i] = months
                        ? calendar.supports(Level.PERIOD) ? calendar.ordinal(Level.PERIOD, day) : NONE
                        : calendar.ordinal(Level.YEAR, day);
                place[i] = months ? 0 : calendar.number(places, Level.YEAR, day);
                dayOf[i] = calendar.number(Level.DAY, places, day);
                length[i] = calendar.rangeContaining(places, day).length();
            }
        }
    }

    /** Returns the time from one day to another, working days in millionths; null if a day is missing or outside. */
    Long between(Integer from, Integer to) {
        if (from == null || to == null || from < first || from > last || to < first || to > last) {
            return null;
        }
        int a = from - first;
        int b = to - first;
        if (unit == RowExpression.TimeUnit.DAYS) {
            return (long) b - a;
        }
        if (unit == RowExpression.TimeUnit.WEEKS) {
            return ((long) b - a) / 7;
        }
        if (unit == RowExpression.TimeUnit.WORKING_DAYS) {
            return working[b] - working[a];
        }
        if (units[a] == NONE || units[b] == NONE) {
            return null;
        }
        return b >= a ? complete(a, b) : -complete(b, a);
    }

    /** Units whose boundary was crossed, less one where the place in the unit is not reached yet. */
    private long complete(int from, int to) {
        boolean before =
                place[to] < place[from] || place[to] == place[from] && dayOf[to] < Math.min(dayOf[from], length[to]);
        return units[to] - units[from] - (before ? 1 : 0);
    }
}
