/**
 * What users call: projects, sessions, reports, grids, explanations and findings. {@link dev.mile.report.Session} is the way in; what
 * computes is hidden behind it in the packages below.
 *
 * <p>Values are immutable. They and sessions are safe for use by several threads. No argument may be null.
 */
@API(status = API.Status.STABLE, since = "0.1")
@NullMarked
package dev.mile.report;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
