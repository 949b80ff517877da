package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

/**
 * What Mile throws when it cannot go on: a whole sentence that says what was found, what was expected and how to mend it.
 *
 * <p>The {@link Fault} tells whose turn it is, and so the exit code of the command line.
 */
public final class MileException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    /** Who can mend it. */
    public enum Fault {
        /** The model, the command or the call is wrong. */
        MODEL,
        /** Data could not be read, or is not what the model says. */
        DATA
    }

    private final Fault fault;

    private MileException(Fault fault, String message, Throwable cause) {
        super(requireNonNull(message, "message is null"), cause);
        this.fault = requireNonNull(fault, "fault is null");
    }

    /** Returns an error of the model, the command or the call, worded by the pattern and its arguments. */
    public static MileException model(String pattern, Object... arguments) {
        return new MileException(Fault.MODEL, Texts.format(pattern, arguments), null);
    }

    /** Returns an error of the data, worded by the pattern and its arguments. */
    public static MileException data(String pattern, Object... arguments) {
        return new MileException(Fault.DATA, Texts.format(pattern, arguments), null);
    }

    /** Returns the same error with another cause, for {@code --debug}. */
    public MileException causedBy(Throwable cause) {
        return new MileException(fault, getMessage(), cause);
    }

    /** Returns the same error, its place put before it: {@code mile.yaml:12:5: ...}. */
    public MileException at(String place) {
        return new MileException(fault, place + ": " + getMessage(), this);
    }

    public Fault fault() {
        return fault;
    }
}
