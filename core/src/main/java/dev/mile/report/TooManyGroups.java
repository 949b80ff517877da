package dev.mile.report;

/** Ends the work on a report whose groups would not fit into memory together; it is begun again one member at a time. */
final class TooManyGroups extends RuntimeException {
    private static final long serialVersionUID = 1L;

    TooManyGroups() {
        super(null, null, false, false);
    }
}
