/**
 * The date dimension: one row a day with every attribute of every calendar and working week, and the checks of a dimension made
 * elsewhere. Used by reports, renderers and the command line; uses calendars and working weeks.
 *
 * <p>All types are immutable and safe for use by several threads, builders and checks apart. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.dimension;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
