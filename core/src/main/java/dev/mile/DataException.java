package dev.mile;

import static java.util.Objects.requireNonNull;

/** Data could not be read, or is not what the model says. */
public final class DataException extends MileException {
    private static final long serialVersionUID = 1L;

    DataException(Details details) {
        super(details);
    }

    /**
     * {@return an error of the data, worded by the pattern and its values}
     *
     * @param pattern the message, with a %s for each value
     * @param values the values
     */
    public static DataException of(String pattern, Object... values) {
        requireNonNull(pattern, "pattern is null");
        return new DataException(Details.of(ErrorCode.INVALID_DATA, pattern, values));
    }

    @Override
    MileException with(Details details) {
        return new DataException(details);
    }
}
