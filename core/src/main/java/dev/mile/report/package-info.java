/**
 * What users call: projects, sessions, reports, grids, explanations and findings. {@link dev.mile.report.Session} is the way in; what
 * computes is hidden behind it in the packages below.
 *
 * <p>Values are immutable and safe for use by several threads; a session is not. No argument may be null.
 */
@NullMarked
package dev.mile.report;

import org.jspecify.annotations.NullMarked;
