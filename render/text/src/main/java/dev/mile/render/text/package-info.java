/**
 * Grids, explanations and date dimensions as texts: terminal, CSV, JSON, SQL, iCalendar. Numbers come from the grid; nothing is
 * computed here. Called by the command line and by Java programs; calls the core.
 *
 * <p>Writers that take rows as they come are used once; the others have no state and are safe for use by several threads. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.render.text;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
