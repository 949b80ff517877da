package dev.mile.report.axis;

import java.util.Objects;
import java.util.function.IntPredicate;

/**
 * Days that are not consecutive: those of one weekday, one holiday, one event. Filters with equal names and keys keep the same days.
 *
 * @param name the axis that it belongs to
 * @param key distinguishes it from others of the axis
 * @param test whether an epoch day is kept
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
