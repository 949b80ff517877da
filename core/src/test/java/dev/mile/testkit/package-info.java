/**
 * What every engine must answer alike, as tests: cases with known answers, random projects that are held against an evaluator of their own,
 * many threads, interrupts. Published as {@code mile-engine-testkit}; used by the tests of every engine, those of others among them.
 *
 * <p>docs/engines.md builds an engine that passes. No argument may be null.
 */
@API(status = API.Status.EXPERIMENTAL, since = "0.1")
@NullMarked
package dev.mile.testkit;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
