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
 * @param own whether rows found there belong to the row, as far as its days tell
 */
record Sight(int first, int last, int filters, Value units, boolean own) implements Serializable {
    static final int ALL_DAYS = -1;
}
