package dev.mile.report.axis;

import java.util.Set;

/** What an axis may name, besides levels and date attributes. */
public interface AxisNames {
    /** Returns whether a fact or lookup has a dimension of the name. */
    boolean isDimension(String name);

    /** Returns every known name, for messages. */
    Set<String> all();
}
