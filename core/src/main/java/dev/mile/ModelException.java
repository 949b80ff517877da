package dev.mile;

import static java.util.Objects.requireNonNull;

import dev.mile.internal.Messages;
import java.util.Collection;
import java.util.List;

/** The model, the command or the call is wrong. */
public final class ModelException extends MileException {
    private static final long serialVersionUID = 1L;

    ModelException(Details details) {
        super(details);
    }

    /**
     * {@return an error of the model, the command or the call, worded by the pattern and its values}
     *
     * @param pattern the message, with a %s for each value
     * @param values the values
     */
    public static ModelException of(String pattern, Object... values) {
        requireNonNull(pattern, "pattern is null");
        return new ModelException(Details.of(ErrorCode.INVALID_MODEL, pattern, values));
    }

    /**
     * {@return the error that nothing has a name}
     *
     * @param kind what is named, such as {@code calendar}
     * @param name the name
     * @param known the names that there are
     */
    public static ModelException unknownName(String kind, String name, Collection<String> known) {
        requireNonNull(kind, "kind is null");
        requireNonNull(name, "name is null");
        requireNonNull(known, "known is null");
        String sentence = "unknown " + kind + " '" + name + "'" + Messages.didYouMean(name, known);
        return new ModelException(new Details(
                ErrorCode.UNKNOWN_NAME, sentence, null, List.of(kind, name, List.copyOf(known)), null, null));
    }

    /**
     * {@return the error that something refers to itself}
     *
     * @param kind what it is, such as {@code measure}
     * @param path the names along the cycle, the first one again at the end
     */
    public static ModelException cycle(String kind, List<String> path) {
        requireNonNull(kind, "kind is null");
        requireNonNull(path, "path is null");
        String sentence = "the " + kind + " '" + path.get(0) + "' refers to itself: " + String.join(" -> ", path)
                + "; define one of them without the others";
        return new ModelException(new Details(ErrorCode.CYCLE, sentence, null, List.copyOf(path), null, null));
    }

    @Override
    MileException with(Details details) {
        return new ModelException(details);
    }
}
