/**
 * The engine for rows that a Java program hands over. Used by Java programs; uses the engine interface.
 *
 * <p>The engine is safe for use by several threads once it has its rows. No argument may be null.
 */
@API(status = API.Status.EXPERIMENTAL, since = "0.1")
@NullMarked
package dev.mile.engine.memory;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
