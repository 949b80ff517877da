/**
 * The Spark engine: facts that are larger than one machine. Called by programs that have a Spark session; it uses the core alone.
 */
@NullMarked
package dev.mile.spark;

import org.jspecify.annotations.NullMarked;
