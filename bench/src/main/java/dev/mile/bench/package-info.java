/** Benchmarks (JMH). Nobody calls this package. */
@NullMarked
package dev.mile.bench;

import org.jspecify.annotations.NullMarked;
