/**
 * A web service over a model file: reports as JSON, reloaded without a pause. An example to begin from; nothing calls it.
 *
 * <p>All types are safe for use by several threads. No argument may be null.
 */
@NullMarked
package dev.mile.examples.web;

import org.jspecify.annotations.NullMarked;
