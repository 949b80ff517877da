/**
 * The date dimension: one row a day with every attribute of every calendar and working week, the range found in facts, and the
 * checks of a dimension made elsewhere. Called by reports, renderers and the command line; calls calendars and working weeks.
 *
 * <p>All types are immutable and safe for use by several threads, builders and surveys apart. No argument may be null.
 */
package dev.mile.dimension;
