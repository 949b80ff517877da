package dev.mile.dimension;

import static java.util.Objects.requireNonNull;

import java.time.LocalDate;
import java.util.Optional;
import java.util.function.IntFunction;
import java.util.function.IntUnaryOperator;

/**
 * One attribute of every day. A date dimension makes its columns; immutable and safe for use by several threads.
 */
public final class DateColumn {
    /**
     * The level of a column in a hierarchy, along which people open years to quarters to months.
     *
     * @param hierarchy the name, such as {@code fiscal}
     * @param depth 1 for the coarsest level
     */
    public record HierarchyLevel(String hierarchy, int depth) {}

    private final String name;
    private final ColumnType type;
    private final String description;
    private final IntFunction<Object> values;
    private final String sortBy;
    private final boolean visible;
    private final Optional<String> calendar;
    private final Optional<HierarchyLevel> level;
    private final IntUnaryOperator constantUntil;
    private final IntUnaryOperator risesUntil;

    private DateColumn(Builder builder) {
        name = builder.name;
        type = builder.type;
        description = builder.description;
        values = builder.values;
        sortBy = builder.sortBy;
        visible = builder.visible;
        calendar = builder.calendar;
        level = builder.level;
        constantUntil = builder.constantUntil;
        risesUntil = builder.risesUntil;
    }

    /** Returns the builder of a column. */
    static Builder named(String name, ColumnType type, String description, IntFunction<Object> values) {
        return new Builder(name, type, description, values);
    }

    /** {@return its name, in snake_case} */
    public String name() {
        return name;
    }

    /** {@return what its values are} */
    public ColumnType type() {
        return type;
    }

    /** {@return one sentence for people} */
    public String description() {
        return description;
    }

    /** {@return the name of the column by which its values sort; its own where they sort by themselves} */
    public String sortBy() {
        return sortBy;
    }

    /** {@return whether a reader should see it; keys and helpers are better hidden} */
    public boolean visible() {
        return visible;
    }

    /** {@return the name of its calendar; empty for columns of the civil calendar, of working time and of events} */
    public Optional<String> calendar() {
        return calendar;
    }

    /** {@return its level in a hierarchy; empty if it is not one} */
    public Optional<HierarchyLevel> level() {
        return level;
    }

    /**
     * {@return the value on the day, null for a blank: a {@link LocalDate} for {@link ColumnType#DATE}, an {@link Integer} for {@code
     * INTEGER}, a {@link java.math.BigDecimal} for {@code NUMBER}, a {@link String} for {@code TEXT}, a {@link Boolean} for {@code
     * BOOLEAN}} It is defined on days outside the dimension too.
     *
     * @param day the day
     */
    public Object value(LocalDate day) {
        return value(Math.toIntExact(day.toEpochDay()));
    }

    /**
     * {@return the value on the epoch day, as {@link #value(LocalDate)} does}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public Object value(int epochDay) {
        return values.apply(epochDay);
    }

    /**
     * {@return the last epoch day through which the value is sure to be that of the given day; the day itself where it may change daily}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public int constantUntil(int epochDay) {
        return constantUntil.applyAsInt(epochDay);
    }

    /**
     * {@return the last epoch day through which the date or number is sure to rise by one a day, as the number of a day in its month
     * does; the day itself where it may not}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public int risesUntil(int epochDay) {
        return risesUntil.applyAsInt(epochDay);
    }

    /** Returns the name and the type. */
    @Override
    public String toString() {
        return name + " " + type;
    }

    /** Collects what a column is; not for use by several threads. */
    static final class Builder {
        private final String name;
        private final ColumnType type;
        private final String description;
        private final IntFunction<Object> values;
        private String sortBy;
        private boolean visible = true;
        private Optional<String> calendar = Optional.empty();
        private Optional<HierarchyLevel> level = Optional.empty();
        private IntUnaryOperator constantUntil = day -> day;
        private IntUnaryOperator risesUntil = day -> day;

        private Builder(String name, ColumnType type, String description, IntFunction<Object> values) {
            this.name = requireNonNull(name, "name is null");
            this.type = requireNonNull(type, "type is null");
            this.description = requireNonNull(description, "description is null");
            this.values = requireNonNull(values, "values is null");
            this.sortBy = name;
        }

        Builder sortedBy(String column) {
            sortBy = column;
            return this;
        }

        Builder hidden() {
            visible = false;
            return this;
        }

        Builder ofCalendar(String name) {
            calendar = Optional.of(name);
            return this;
        }

        Builder inHierarchy(String hierarchy, int depth) {
            level = Optional.of(new HierarchyLevel(hierarchy, depth));
            return this;
        }

        Builder constantUntil(IntUnaryOperator lastDay) {
            constantUntil = lastDay;
            return this;
        }

        Builder risesUntil(IntUnaryOperator lastDay) {
            risesUntil = lastDay;
            return this;
        }

        DateColumn build() {
            return new DateColumn(this);
        }
    }
}
