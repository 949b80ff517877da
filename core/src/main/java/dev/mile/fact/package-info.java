/**
 * What users say of their tables: facts, date roles, lookups, conditions, row expressions, grains and spreads, and rows in memory.
 * Used by measures, engines and reports; uses calendars only.
 *
 * <p>Values are immutable and safe for use by several threads; a {@link dev.mile.fact.Table} under construction is not. No argument
 * may be null; a blank is a null in lists of values.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.fact;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
