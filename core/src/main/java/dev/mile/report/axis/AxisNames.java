package dev.mile.report.axis;

import java.util.Set;

/** What the names of an axis may stand for, besides levels and date attributes. */
public interface AxisNames {
    /** Returns whether a fact or lookup has a dimension of the name. */
    boolean isDimension(String name);

    /** Returns every name that stands for something, for messages. */
    Set<String> all();
}
