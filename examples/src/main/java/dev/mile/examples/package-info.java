/** Runnable programs for common jobs, each run by a test. Nobody calls this package; it calls all others. */
package dev.mile.examples;
