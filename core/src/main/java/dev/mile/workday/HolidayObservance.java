package dev.mile.workday;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.internal.Messages;
import java.util.Arrays;

/** What happens to a holiday that falls on a rest day. */
public enum HolidayObservance {
    /** It stays where it falls. */
    STAYS("stays"),
    /** It goes to the next day that neither rests nor is a holiday. */
    NEXT_WORKING_DAY("next working day"),
    /** It goes to the last day before it that neither rests nor is a holiday. */
    PREVIOUS_WORKING_DAY("previous working day"),
    /** It goes to the nearest day that does not rest, the later one on a tie. */
    NEAREST_WEEKDAY("nearest weekday"),
    /** It goes to exactly the day after. */
    THE_DAY_AFTER("the day after");

    private final String describe;

    HolidayObservance(String words) {
        this.describe = words;
    }

    /** {@return the words of the model file} */
    public String describe() {
        return describe;
    }

    /**
     * {@return the move of the words}
     *
     * @param words the words, as the model file has them
     * @throws MileException if the text is anything else
     */
    public static HolidayObservance parse(String words) {
        requireNonNull(words, "words is null");
        for (HolidayObservance move : values()) {
            if (move.describe.equals(words.strip())) {
                return move;
            }
        }
        throw ModelException.of(
                "'%s' is not a way to move a holiday%s",
                words,
                Messages.didYouMean(
                        words,
                        Arrays.stream(values()).map(HolidayObservance::describe).toList()));
    }
}
