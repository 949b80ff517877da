/**
 * Working weeks: which weekdays rest, which days are holidays, and the counts, sums and searches of working days that follow.
 * Used by date dimensions, spans, measures and the command line; uses calendars only.
 *
 * <p>All types are immutable and safe for use by several threads, builders apart. No argument may be null. An {@code int} for a day is an epoch day.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.workday;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
