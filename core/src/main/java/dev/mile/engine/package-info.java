/**
 * What an engine must do, and what helps to write one: the question (totals per group and bucket of days), its answer, the accounts
 * of every row, and what engines know of days. Used by reports, which ask, and by engines, which answer; uses facts.
 *
 * <p>Values are immutable. They and engines are safe for use by several threads; a cursor is read by one. No argument may be null; a null in
 * arrays of members and of values is a blank. An {@code int} for a day is an epoch day.
 */
@API(status = API.Status.EXPERIMENTAL, since = "0.1")
@NullMarked
package dev.mile.engine;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
