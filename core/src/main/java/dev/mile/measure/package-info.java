/**
 * Measures and targets as people say them: a tree that prints itself back in the language; and the values that come of them.
 * Used by reports and by the model reader; uses spans and facts.
 *
 * <p>All types are immutable and safe for use by several threads. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.measure;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
