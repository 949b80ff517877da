package dev.mile.report;

import java.time.LocalDate;
import java.util.List;

/**
 * Where the date dimension begins or ends: a date, or the first or last date in facts.
 *
 * @param date the date; null for facts
 * @param sources facts, or roles of facts ({@code sales.ordered}); empty for all facts that are not plans
 */
public record DateBound(LocalDate date, List<String> sources) {
    /** The dates in the roles of all facts that are not plans. */
    public static final DateBound FACTS = new DateBound(null, List.of());

    public DateBound {
        sources = List.copyOf(sources);
    }

    /** Returns the end at a date. */
    public static DateBound at(LocalDate date) {
        return new DateBound(date, List.of());
    }
}
