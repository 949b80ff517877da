package dev.mile;

/** The model, the command or the call is wrong. */
public final class ModelException extends MileException {
    private static final long serialVersionUID = 1L;

    ModelException(Details details) {
        super(details);
    }

    @Override
    MileException with(Details details) {
        return new ModelException(details);
    }
}
