package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.report.axis.DayFilter;
import java.util.List;
import java.util.Map;

/**
 * One row of a report met with one column: a place in time and the members of each dimension.
 *
 * @param moment the place in time
 * @param members the members by dimension; a dimension that is not there is taken whole
 */
record Cell(Moment moment, Map<String, Members> members) {
    DateRange days() {
        return moment.days();
    }

    List<DayFilter> filters() {
        return moment.filters();
    }

    Level finest() {
        return moment.finest();
    }
}
