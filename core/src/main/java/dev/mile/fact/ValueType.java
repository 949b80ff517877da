package dev.mile.fact;

/** What a column of a fact or lookup holds. */
public enum ValueType {
    TEXT,
    /** An exact decimal. */
    NUMBER,
    /** A binary floating number, summed with compensation; results say so. */
    FLOATING,
    DATE,
    /** Blanks only: it may stand wherever any type may. */
    NOTHING
}
