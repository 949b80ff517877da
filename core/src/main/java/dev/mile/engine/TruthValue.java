package dev.mile.engine;

/** What a condition says of a row or a day. */
public enum TruthValue {
    /** It does not hold. */
    FALSE,
    /** It holds. */
    TRUE,
    /** A blank decides. */
    UNKNOWN;

    static TruthValue of(boolean holds) {
        return holds ? TRUE : FALSE;
    }
}
