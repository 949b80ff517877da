package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import dev.mile.ModelException;
import java.time.LocalDate;
import java.util.Optional;

/**
 * The days on which a fact can have rows, where the rows do not show them.
 *
 * @param from the first day; empty for the one that the rows show
 * @param until the last day; empty for the one that the rows show, or the as-of date
 */
public record CoveredDays(Optional<LocalDate> from, Optional<LocalDate> until) {
    /** What the rows show. */
    public static final CoveredDays OF_ROWS = new CoveredDays(Optional.empty(), Optional.empty());

    public CoveredDays {
        requireNonNull(from, "from is null");
        requireNonNull(until, "until is null");
        if (from.isPresent() && until.isPresent() && until.get().isBefore(from.get())) {
            throw ModelException.of("the covered days begin on %s, after their end on %s", from.get(), until.get())
                    .withModelWords("`covers` begins on %s, after its end on %s", from.get(), until.get());
        }
    }

    /**
     * {@return the days from a first one on}
     *
     * @param day the day
     */
    public static CoveredDays from(LocalDate day) {
        requireNonNull(day, "day is null");
        return new CoveredDays(Optional.of(day), Optional.empty());
    }

    /**
     * {@return the same days up to a last one}
     *
     * @param day the day
     */
    public CoveredDays withUntil(LocalDate day) {
        requireNonNull(day, "day is null");
        return new CoveredDays(from, Optional.of(day));
    }
}
