/**
 * Reports, explanations and findings as JSON, so that a controller of a web service may return them. Called by Java programs that use
 * Jackson; calls the core and its writers of texts.
 *
 * <p>All types are safe for use by several threads. No argument may be null.
 */
@API(status = API.Status.EXPERIMENTAL, since = "0.1")
@NullMarked
package dev.mile.jackson;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
