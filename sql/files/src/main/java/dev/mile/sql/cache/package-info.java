/**
 * Totals kept for the next time: an engine around another one that asks it only what has changed. Used by Java programs and the command
 * line; uses files.
 *
 * <p>The engine is safe for use by several threads, and several processes may share the files of a cache. No argument may be null.
 */
@API(status = API.Status.EXPERIMENTAL, since = "0.1")
@NullMarked
package dev.mile.sql.cache;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
