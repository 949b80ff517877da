/**
 * The rows and columns of a report: what an axis shows, which keys occur, and the cell in time of each combination. Hidden; used
 * by planning and by the run of a report.
 *
 * <p>All types are immutable and safe for use by several threads.
 */
@NullMarked
package dev.mile.report.axis;

import org.jspecify.annotations.NullMarked;
