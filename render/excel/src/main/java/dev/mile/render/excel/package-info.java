/**
 * Grids and date dimensions as workbooks, with typed values, number formats and charts. Called by the command line and by Java
 * programs; calls the core and the layout of grids.
 *
 * <p>Writers that take rows as they come are used once; the others have no state and are safe for use by several threads. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.render.excel;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
