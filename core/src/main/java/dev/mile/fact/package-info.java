/**
 * Facts: what a fact, a date role, a lookup and a condition on rows are; the question that an engine answers (totals per group
 * and day, or stretch of days that no window parts, with the accounts of every row) and the engine for rows in memory. Called by
 * measures, reports and engines; calls {@code dev.mile.calendar} only, so what it needs to know of working days and day
 * attributes is handed to it as {@link dev.mile.fact.DayKnowledge}.
 *
 * <p>Values are immutable and safe for use by several threads; tables under construction and engines are not. No argument may
 * be null unless its description says so; a blank is a null in arrays of values.
 */
package dev.mile.fact;
