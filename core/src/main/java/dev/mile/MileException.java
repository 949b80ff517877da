package dev.mile;

import static java.util.Objects.requireNonNull;

import dev.mile.internal.Messages;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What Mile throws when it cannot go on: a whole sentence that says what was found, what was expected and how to fix it. A {@link
 * ModelException} is for whoever wrote the model, the command or the call; a {@link DataException} for whoever has the data.
 */
public abstract class MileException extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final ErrorCode code;
    private final String sentence;
    private final @Nullable String modelSentence;
    private final transient List<Object> values;
    private final @Nullable SourceLocation location;

    MileException(Details details) {
        super(
                Messages.limited(Messages.escaped(
                        details.location() == null ? details.said() : details.location() + ": " + details.said())),
                details.cause());
        code = details.code();
        sentence = Messages.limited(Messages.escaped(details.said()));
        modelSentence = details.modelSentence();
        values = details.values();
        location = details.location();
    }

    /**
     * What an error is made of.
     *
     * @param sentence what is wrong, in words for whoever made the call
     * @param modelSentence the same for whoever wrote a model file; null where there is no difference
     */
    record Details(
            ErrorCode code,
            String sentence,
            @Nullable String modelSentence,
            List<Object> values,
            @Nullable SourceLocation location,
            @Nullable Throwable cause) {
        Details {
            requireNonNull(sentence, "sentence is null");
        }

        static Details of(ErrorCode code, String pattern, Object... values) {
            return new Details(
                    code,
                    Messages.format(pattern, values),
                    null,
                    Collections.unmodifiableList(Arrays.asList(values.clone())),
                    null,
                    null);
        }

        /** What stands in a file is told in the words of the file. */
        String said() {
            return location != null && modelSentence != null ? modelSentence : sentence;
        }
    }

    /** Returns an error of the same class. */
    abstract MileException with(Details details);

    /**
     * {@return the same error with another cause}
     *
     * @param cause what led to it
     */
    public MileException withCause(Throwable cause) {
        return with(
                new Details(code, sentence, modelSentence, values(), location, requireNonNull(cause, "cause is null")));
    }

    /**
     * {@return the same error at a location, which its message begins with} An error that has a location keeps it.
     *
     * @param where the location
     */
    public MileException withLocation(SourceLocation where) {
        requireNonNull(where, "where is null");
        return location == null ? with(new Details(code, sentence, modelSentence, values(), where, getCause())) : this;
    }

    /**
     * {@return the same error at the location of what it is about; the error itself if that is defined in no file}
     *
     * @param about what the error is about
     */
    public MileException withLocationOf(Located about) {
        requireNonNull(about, "about is null");
        return about.location().map(this::withLocation).orElse(this);
    }

    /**
     * {@return the same error, worded otherwise for whoever wrote a model file: what to change there rather than what to call} An error at a
     * location is read in these words; others by {@link #inModelWords()}.
     *
     * @param pattern the message, with a %s for each value
     * @param said the values
     */
    public MileException withModelWords(String pattern, Object... said) {
        requireNonNull(pattern, "pattern is null");
        return with(new Details(code, sentence, Messages.format(pattern, said), values(), location, getCause()));
    }

    /** {@return the same error in words for whoever wrote a model file, as a program that reads model files shows it} */
    public MileException inModelWords() {
        return modelSentence == null
                ? this
                : with(new Details(code, modelSentence, modelSentence, values(), location, getCause()));
    }

    /** {@return what kind of error it is} */
    public ErrorCode code() {
        return code;
    }

    /** {@return where the mistake is; empty if it is in no file, or unknown} */
    public Optional<SourceLocation> location() {
        return Optional.ofNullable(location);
    }

    /** {@return the message without its location} */
    public String sentence() {
        return sentence;
    }

    /** {@return the values that the message is about, as {@link #code} says; none after the error was serialized} */
    public List<Object> values() {
        return values == null ? List.of() : values;
    }
}
