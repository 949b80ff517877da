package dev.mile;

/** The kind of error of a {@link MileException}, for programs that react to it. */
public enum ErrorCode {
    /** The model, the command or the call says something that makes no sense. */
    INVALID_MODEL,
    /** Nothing has a name that is used; {@link MileException#values} holds what it names, the name, and the known names. */
    UNKNOWN_NAME,
    /** Something refers to itself; {@link MileException#values} holds the names along the cycle. */
    CYCLE,
    /** Data could not be read, or is not what the model says. */
    INVALID_DATA
}
