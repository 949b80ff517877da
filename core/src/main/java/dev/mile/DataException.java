package dev.mile;

/** Data could not be read, or is not what the model says. */
public final class DataException extends MileException {
    private static final long serialVersionUID = 1L;

    DataException(Details details) {
        super(details);
    }

    @Override
    MileException with(Details details) {
        return new DataException(details);
    }
}
