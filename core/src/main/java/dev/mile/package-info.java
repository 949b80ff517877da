/**
 * The errors that Mile throws, and where in a file something is. Every package may use this one; it uses only the JDK.
 *
 * <p>All types are immutable and safe for use by several threads.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile;

import org.jspecify.annotations.NullMarked;
