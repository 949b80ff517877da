package dev.mile.dimension;

import static java.util.Objects.requireNonNull;

import java.util.function.IntFunction;
import java.util.function.IntUnaryOperator;

/**
 * One attribute of every day.
 *
 * @param name snake_case
 * @param type what its values are
 * @param description one sentence for people
 * @param sortBy the column by which its values sort; its own name where they sort by themselves
 * @param visible whether a reader should see it; keys and helpers are better hidden
 * @param hierarchy the hierarchy that it is a step of, such as {@code fiscal}; empty where it is none
 * @param step its place in the hierarchy from 1, the coarsest; 0 where it is none
 * @param of its value for an epoch day; null for a blank
 * @param steadyUntil the last day, from a day on, up to which its value is surely the same; the day itself where it may change daily
 */
public record DateColumn(
        String name,
        ColumnType type,
        String description,
        String sortBy,
        boolean visible,
        String hierarchy,
        int step,
        IntFunction<Object> of,
        IntUnaryOperator steadyUntil) {
    public DateColumn {
        requireNonNull(name, "name is null");
        requireNonNull(type, "type is null");
        requireNonNull(description, "description is null");
        requireNonNull(of, "of is null");
    }

    static DateColumn of(String name, ColumnType type, String description, IntFunction<Object> of) {
        return new DateColumn(name, type, description, name, true, "", 0, of, day -> day);
    }

    DateColumn sortedBy(String column) {
        return new DateColumn(name, type, description, column, visible, hierarchy, step, of, steadyUntil);
    }

    DateColumn steady(IntUnaryOperator until) {
        return new DateColumn(name, type, description, sortBy, visible, hierarchy, step, of, until);
    }

    DateColumn hidden() {
        return new DateColumn(name, type, description, sortBy, false, hierarchy, step, of, steadyUntil);
    }

    DateColumn in(String hierarchyName, int place) {
        return new DateColumn(name, type, description, sortBy, visible, hierarchyName, place, of, steadyUntil);
    }

    /** Returns the value for the epoch day, null for a blank. It is defined on days outside the dimension too. */
    public Object value(int day) {
        return of.apply(day);
    }
}
