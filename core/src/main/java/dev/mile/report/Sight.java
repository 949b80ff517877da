package dev.mile.report;

import dev.mile.measure.Value;
import java.io.Serializable;

/**
 * What an aggregate looks at in one place in time: resolved once, for all members.
 *
 * @param first the first epoch day of its window
 * @param last the last day
 * @param filters the number of the filters that its days must pass; {@link #ALL_DAYS} for none
 * @param units what its value is divided by; null for nothing
 * @param from where the first day of the window stands in a series that has rows in every stretch of days; {@link #NOWHERE}
 *     where stretches are not known
 * @param to where the day behind the window stands there, likewise
 * @param own whether rows found there belong to the row, as far as its days tell
 */
public record Sight(int first, int last, int from, int to, int filters, Value units, boolean own)
        implements Serializable {
    static final int ALL_DAYS = -1;
    static final int NOWHERE = -1;

    /** Returns the same with another place in the series. */
    Sight at(int newFrom, int newTo) {
        return new Sight(first, last, newFrom, newTo, filters, units, own);
    }
}
