/**
 * The model file and the measure language: text in, the core's own objects out, with errors that say the file, line and column.
 * Called by the command line and by Java programs that keep their models in files; calls the core.
 *
 * <p>All types are immutable and safe for use by several threads, readers apart. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.model;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
