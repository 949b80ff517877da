package dev.mile;

import static java.util.Objects.requireNonNull;

import dev.mile.internal.Messages;

/**
 * What Mile throws when it cannot go on: a whole sentence that says what was found, what was expected and how to mend it.
 *
 * <p>The {@link Category} tells whose turn it is, and so the exit code of the command line.
 */
public final class MileException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    /** Who can mend it. */
    public enum Category {
        /** The model, the command or the call is wrong. */
        MODEL,
        /** Data could not be read, or is not what the model says. */
        DATA
    }

    private final Category category;
    private final boolean placed;

    private MileException(Category fault, String message, Throwable cause, boolean placed) {
        super(requireNonNull(message, "message is null"), cause);
        this.category = requireNonNull(fault, "fault is null");
        this.placed = placed;
    }

    /** Returns an error of the model, the command or the call, worded by the pattern and its arguments. */
    public static MileException invalidModel(String pattern, Object... arguments) {
        return new MileException(Category.MODEL, Messages.format(pattern, arguments), null, false);
    }

    /** Returns an error of the data, worded by the pattern and its arguments. */
    public static MileException invalidData(String pattern, Object... arguments) {
        return new MileException(Category.DATA, Messages.format(pattern, arguments), null, false);
    }

    /** Returns the same error with another cause, for {@code --debug}. */
    public MileException withCause(Throwable cause) {
        return new MileException(category, getMessage(), cause, placed);
    }

    /**
     * Returns the same error, its place put before it: {@code mile.yaml:12:5: ...}. An error that has a place keeps it, and an empty
     * place changes nothing.
     */
    public MileException withLocation(String place) {
        return placed || place.isEmpty()
                ? this
                : new MileException(category, place + ": " + getMessage(), getCause(), true);
    }

    /** Returns whose fault it is. */
    public Category category() {
        return category;
    }
}
