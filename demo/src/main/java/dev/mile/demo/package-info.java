/**
 * Makes the demo project: Fernhollow Garden Centres, made up by a seeded generator, the same bytes every time. Called by the
 * command line, the examples and the benchmarks; calls the JDK only.
 */
@NullMarked
package dev.mile.demo;

import org.jspecify.annotations.NullMarked;
