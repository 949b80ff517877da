package dev.mile.report.axis;

import java.util.Objects;
import java.util.function.IntPredicate;

/**
 * Days that are not one stretch: those of one weekday, one holiday, one event. Filters with equal keys keep the same days.
 *
 * @param name the date attribute, or part of the report, that it belongs to
 * @param key tells it from others of the name; null for blank days
 * @param test the days kept
 */
public record DayFilter(String name, Object key, IntPredicate test) {
    @Override
    public boolean equals(Object other) {
        return other instanceof DayFilter f && f.name.equals(name) && Objects.equals(f.key, key);
    }

    @Override
    public int hashCode() {
        return Objects.hash(name, key);
    }
}
