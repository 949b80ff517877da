/**
 * Grids as pictures of charts, PNG and SVG. Called by the command line and by Java programs; calls the core and the layout of grids.
 *
 * <p>All types are without state and safe for use by several threads. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.render.chart;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
