/** Benchmarks (JMH). Nobody calls this package. */
package dev.mile.bench;
