/**
 * Levels, date ranges and fiscal calendars: where every day gets its year, half, quarter, period and week, and where
 * "one year back" is decided. Everything in Mile may call this package; it calls only the JDK.
 *
 * <p>All types are immutable and safe for use by several threads. No argument may be null unless its description says so;
 * a null gives a {@link java.lang.NullPointerException} that names it. Days are counted as in
 * {@link java.time.LocalDate#toEpochDay()} wherever an {@code int} stands for a day.
 */
package dev.mile.calendar;
