/**
 * The run of a report: totals loaded, rows evaluated, put in order and handed over, with the notes that go with them; and explanations
 * and checks, which evaluate too. Hidden; used by sessions; uses plans, axes and series.
 *
 * <p>{@link dev.mile.report.run.ProjectData} is safe for use by several threads; the rest belongs to one run.
 */
@NullMarked
package dev.mile.report.run;

import org.jspecify.annotations.NullMarked;
