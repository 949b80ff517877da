package dev.mile.internal;

/**
 * The texts of data files that are numbers or dates, for every engine that reads such files: a column has the type that all its texts
 * have. A number with leading zeros is a code, so it is a text.
 */
public final class TextTypes {
    /** A number, as a regular expression of the whole text: group 1 holds the digits before the point, group 3 those behind it. */
    public static final String NUMBER = "[+-]?(0|[1-9][0-9]*)(\\.([0-9]+))?";

    /** A date in ISO 8601, as a regular expression of the whole text. */
    public static final String DATE = "[0-9]{4}-[0-9]{2}-[0-9]{2}";

    private TextTypes() {}
}
