package dev.mile.report.axis;

/** The key of a blank: of a blank attribute, or of rows without a member. */
public enum BlankKey {
    /** The only one. */
    BLANK
}
