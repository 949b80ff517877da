package dev.mile.report;

/**
 * Something that a check found.
 *
 * @param severity how bad it is
 * @param place where: a place in the model, a fact, a file; may be empty
 * @param text what was found
 * @param remedy what to do about it
 */
public record Finding(Severity severity, String place, String text, String remedy) {
    /** How bad a finding is, worst first. */
    public enum Severity {
        /** Wrong numbers, or none, come of it. */
        ERROR,
        /** Somebody should look at it. */
        WARNING,
        /** Good to know. */
        NOTE
    }
}
