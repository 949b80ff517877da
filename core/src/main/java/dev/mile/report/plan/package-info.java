/**
 * From what a report shows to what is asked of an engine: names looked up, clauses carried down to aggregates, windows resolved to
 * days, requests gathered. Its result is a {@link dev.mile.report.plan.CompiledReport}. Hidden; used by the run of a report; uses
 * axes.
 *
 * <p>Results are immutable and safe for use by several threads; planners are not.
 */
@NullMarked
package dev.mile.report.plan;

import org.jspecify.annotations.NullMarked;
