/**
 * Reports computed where their rows are: what a cluster engine is asked, and the compiled report that it sends to its machines. Used by
 * cluster engines.
 *
 * <p>A {@link dev.mile.report.distributed.DistributedReport} is immutable; its workers are for one thread each.
 */
@API(status = API.Status.EXPERIMENTAL, since = "0.1")
@NullMarked
package dev.mile.report.distributed;

import dev.mile.API;
import org.jspecify.annotations.NullMarked;
