/**
 * Facts in a database: PostgreSQL, H2, or another one with a dialect. Used by Java programs and the command line; uses queries.
 *
 * <p>Engines are safe for use by several threads; a cursor is read by one. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.sql.warehouse;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
