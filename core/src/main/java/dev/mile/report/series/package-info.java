/**
 * The totals of a report in memory: daily totals with running sums, so that any window of any length is two reads. Hidden; used by the
 * run of a report; uses the engine's answers.
 *
 * <p>Not safe for use by several threads.
 */
@NullMarked
package dev.mile.report.series;

import org.jspecify.annotations.NullMarked;
