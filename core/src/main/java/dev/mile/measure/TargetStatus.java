package dev.mile.measure;

import java.util.Locale;

/** The status of a value against its goal. */
public enum TargetStatus {
    /** At or beyond what counts as met. */
    MET,
    /** At or beyond what counts as near. */
    NEAR,
    /** Neither. */
    MISSED;

    /** {@return how people read it} */
    public String word() {
        return name().toLowerCase(Locale.ROOT);
    }
}
