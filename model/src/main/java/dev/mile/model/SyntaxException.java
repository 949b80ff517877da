package dev.mile.model;

/** Text that is not of the language; carries the place, so that whoever knows the file can add line and column. */
final class SyntaxException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final int offset;

    SyntaxException(int at, String message) {
        super(message);
        this.offset = at;
    }

    /** Returns the place in the text, from 0. */
    int offset() {
        return offset;
    }
}
