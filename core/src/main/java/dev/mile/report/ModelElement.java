package dev.mile.report;

/** What a model may define under a name. */
public enum ModelElement {
    /** A fact. */
    FACT,
    /** A lookup. */
    LOOKUP,
    /** A measure. */
    MEASURE,
    /** A target. */
    TARGET,
    /** A report. */
    REPORT,
    /** A pack. */
    PACK
}
