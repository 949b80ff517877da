/**
 * Working weeks: which weekdays rest, which days are holidays, and the counts, sums and searches of working days that follow.
 * Called by date dimensions, spans, measures and the command line; calls {@code dev.mile.calendar} only.
 *
 * <p>All types are immutable and safe for use by several threads, builders apart. No argument may be null.
 */
package dev.mile.workday;
