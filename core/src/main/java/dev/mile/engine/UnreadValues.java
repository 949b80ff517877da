package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.internal.Messages;
import java.util.Optional;

/**
 * The values of a column of a file that cannot be read as what the column is used as.
 *
 * @param column the column
 * @param values how many values the column has
 * @param unread how many of them cannot be read
 * @param first the first of these
 * @param place where it stands, such as {@code sales.csv:17}
 * @param remedy what a model would say at the source to have all values read, such as {@code dates: "31.12.2025"}; empty where nothing
 *     is known to do so
 */
public record UnreadValues(
        String column, long values, long unread, String first, String place, Optional<String> remedy) {
    public UnreadValues {
        requireNonNull(column, "column is null");
        requireNonNull(first, "first is null");
        requireNonNull(place, "place is null");
        requireNonNull(remedy, "remedy is null");
    }

    /** {@return the first of them, its place and the remedy, in words} */
    public String example() {
        return "'" + first + "' in " + place
                + remedy.map(said -> " (`" + said + "` at the source would read all)")
                        .orElse("");
    }

    /**
     * {@return how many there are, the first of them, its place and the remedy, in words}
     *
     * @param as what they should be: numbers, dates
     */
    public String describe(String as) {
        return Messages.format(
                "of %s in the column '%s' %d cannot be read as %s, the first is %s",
                Messages.quantity(values, "value"), column, unread, as, example());
    }
}
