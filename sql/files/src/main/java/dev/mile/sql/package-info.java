/**
 * The engine over the sources of a model: each fact is asked of the engine that reads its files or its database. Used by the command
 * line and by Java programs; uses the packages below.
 *
 * <p>Engines are safe for use by several threads; a cursor is read by one. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.sql;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
