/**
 * Spans: rules that lead from a cell's days to the days that a measure looks at, resolved step by step, with a trace of what each
 * step gave. Used by measures and reports; uses calendars.
 *
 * <p>All types are immutable and safe for use by several threads. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.span;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
