package dev.mile.report.axis;

import dev.mile.fact.Bands;
import java.util.Optional;
import java.util.Set;

/** What an axis may name, besides levels and date attributes. */
public interface AxisNames {
    /** Returns whether a fact or lookup has a dimension of the name. */
    boolean isDimension(String name);

    /** Returns the bands whose keys the members of a dimension are; empty for a dimension without bands. */
    Optional<Bands> bands(String dimension);

    /** Returns every known name, for messages. */
    Set<String> all();
}
