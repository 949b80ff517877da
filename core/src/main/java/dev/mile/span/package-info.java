/**
 * Spans: rules that lead from a cell's days to the days a measure looks at, resolved step by step, with a trace of what each step
 * gave. Called by measures and reports; calls calendars.
 *
 * <p>All types are immutable and safe for use by several threads. No argument may be null.
 */
package dev.mile.span;
