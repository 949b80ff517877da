package dev.mile.model;

import java.util.List;
import java.util.function.Supplier;

/**
 * Keeps the days that iCalendar files name, since their recurrence rules take long to compute. Implemented by whoever has a place for them;
 * safe for use by several threads.
 */
@FunctionalInterface
public interface HolidayCache {
    /** Keeps nothing. */
    HolidayCache NONE = (key, compute) -> compute.get();

    /**
     * Returns the rows of a key: those that were kept, or else those that are computed now.
     *
     * @param key all that the rows depend on, but for the version of Mile and of Java
     * @param compute computes them
     * @return the rows, as they were computed
     */
    List<List<String>> rows(List<String> key, Supplier<List<List<String>>> compute);
}
