package dev.mile.report.axis;

import static java.util.Objects.requireNonNull;

import dev.mile.dimension.DateColumn;
import dev.mile.engine.Comparisons;
import dev.mile.report.Grid;
import java.io.Serializable;
import java.util.Comparator;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** The values of a date attribute. Keys hold all that orders and labels them, so only {@link #key} needs the date dimension. */
public final class AttributeAxis implements DayAxis {
    private static final long serialVersionUID = 1L;

    private final String name;
    private final transient @Nullable DateColumn column;
    private final transient @Nullable DateColumn sortedBy;

    /** Returns the axis of a column of the date dimension, which sorts by another one or by itself. */
    public AttributeAxis(String name, DateColumn column, DateColumn sortedBy) {
        this.name = name;
        this.column = column;
        this.sortedBy = sortedBy;
    }

    /** A value and what it sorts by. */
    private record AttributeKey(Serializable value, @Nullable Serializable sort) implements Serializable {
        @Override
        public boolean equals(Object other) {
            return other instanceof AttributeKey key && key.value.equals(value);
        }

        @Override
        public int hashCode() {
            return value.hashCode();
        }
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public Grid.AxisKind kind() {
        return Grid.AxisKind.ATTRIBUTE;
    }

    @Override
    public Optional<Object> key(int epochDay) {
        Object value = requireNonNull(column, "column is null").value(epochDay);
        Object sort = requireNonNull(sortedBy, "sortedBy is null").value(epochDay);
        return Optional.of(
                value == null ? BlankKey.BLANK : new AttributeKey((Serializable) value, (Serializable) sort));
    }

    @Override
    @SuppressWarnings({"unchecked", "rawtypes"})
    public Comparator<Object> order() {
        return (a, b) -> {
            if (a == BlankKey.BLANK || b == BlankKey.BLANK) {
                return Boolean.compare(a == BlankKey.BLANK, b == BlankKey.BLANK);
            }
            Object x = ((AttributeKey) a).sort();
            Object y = ((AttributeKey) b).sort();
            if (x == null || y == null) {
                return Boolean.compare(x == null, y == null);
            }
            return x instanceof String s
                    ? Comparisons.BY_CODE_POINT.compare(s, (String) y)
                    : ((Comparable) x).compareTo(y);
        };
    }

    @Override
    public String label(Object key) {
        return key == BlankKey.BLANK ? "" : ((AttributeKey) key).value().toString();
    }
}
