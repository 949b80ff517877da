/**
 * Projects, reports, the evaluator and the grid: the way from a model and an engine to labels and exact values, without layout.
 * Called by renderers and the command line; calls measures and date dimensions.
 *
 * <p>Values are immutable and safe for use by several threads; a {@link dev.mile.report.Session} is not. No argument may be null
 * unless its description says so.
 */
package dev.mile.report;
