/** Runnable programs for common jobs, each run by a test. Nobody calls this package; it calls all others. */
@NullMarked
package dev.mile.examples;

import org.jspecify.annotations.NullMarked;
