package dev.mile.fact;

/** What a column of a fact or lookup holds. */
public enum ValueType {
    /** Texts, compared by code point. */
    TEXT,
    /** An exact decimal. */
    NUMBER,
    /** A binary floating number, summed with compensation; results say so. */
    FLOATING,
    /** Days. */
    DATE,
    /** Blanks only: it fits any type. */
    BLANK_ONLY
}
