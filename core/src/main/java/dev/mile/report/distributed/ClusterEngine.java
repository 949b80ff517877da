package dev.mile.report.distributed;

import dev.mile.engine.Engine;
import java.nio.file.Path;

/** An engine over machines that also evaluate reports, so that the groups of a report never meet on one of them. */
public interface ClusterEngine extends Engine {
    /**
     * Writes the rows of a report, those of its finest level, as Parquet: a folder of parts, in no order, with the columns of a
     * report's data files. It has its name only when it is complete, and takes the place of what was written there before.
     *
     * @param report a report of a session over this engine
     * @param folder a place that every machine of the cluster reaches under this name
     * @throws dev.mile.MileException if the folder cannot be written
     */
    void write(DistributedReport report, Path folder);
}
