/**
 * The Spark engine: facts that are larger than one machine. Called by programs that have a Spark session; it uses the core alone.
 */
@API(status = API.Status.EXPERIMENTAL, since = "0.1")
@NullMarked
package dev.mile.spark;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
