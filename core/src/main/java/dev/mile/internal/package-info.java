/**
 * What Mile's own modules share and nobody else may use: the wording of messages, epoch days, names of months and weekdays.
 * Not exported to users.
 *
 * <p>All methods are static or on immutable values, and safe for use by several threads.
 */
@NullMarked
package dev.mile.internal;

import org.jspecify.annotations.NullMarked;
