package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import java.util.List;
import java.util.Map;

/**
 * One row of a report met with one column: a set of days and the members of each dimension.
 *
 * @param days the first to the last day
 * @param filters what is left of the days, where they are not one stretch
 * @param members the members by dimension; a dimension that is not there is taken whole
 * @param finest the finest level of its row and column; null where it has none
 */
record Cell(DateRange days, List<DayFilter> filters, Map<String, Members> members, Level finest) {}
