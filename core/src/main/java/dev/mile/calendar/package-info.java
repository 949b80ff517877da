/**
 * Levels, date ranges and fiscal calendars: where every day gets its year, half, quarter, period and week, and where
 * "one year back" is decided. Every package may use this one; it uses only the JDK.
 *
 * <p>All types are immutable and safe for use by several threads. No argument may be null; a null gives a {@link
 * NullPointerException} that names it. An {@code int} for a day is an epoch day, counted as in {@link
 * java.time.LocalDate#toEpochDay()}.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.calendar;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
