package dev.mile.report;

import java.time.LocalDate;
import java.util.List;

/**
 * Where the date dimension begins or ends: a date, or the first or last date in facts.
 *
 * @param date the date; null for facts
 * @param sources facts, or roles of facts ({@code sales.ordered}); empty for all facts that are not plans
 */
public record RangeEnd(LocalDate date, List<String> sources) {
    /** The dates in the roles of all facts that are not plans. */
    public static final RangeEnd FACTS = new RangeEnd(null, List.of());

    public RangeEnd {
        sources = List.copyOf(sources);
    }

    /** Returns the end at a date. */
    public static RangeEnd on(LocalDate date) {
        return new RangeEnd(date, List.of());
    }
}
