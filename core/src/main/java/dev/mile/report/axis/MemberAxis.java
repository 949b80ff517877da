package dev.mile.report.axis;

import dev.mile.engine.Comparisons;
import dev.mile.fact.Bands;
import dev.mile.report.Grid;
import java.util.Comparator;
import org.jspecify.annotations.Nullable;

/**
 * The members of a dimension of facts; keys are the members, {@link BlankKey#BLANK} for none.
 *
 * @param name the dimension
 * @param bands the bands whose keys the members are; null for a dimension without bands
 */
public record MemberAxis(String name, @Nullable Bands bands) implements Axis {
    @Override
    public Grid.AxisKind kind() {
        return Grid.AxisKind.MEMBER;
    }

    @Override
    public Comparator<Object> order() {
        return (a, b) -> Comparisons.BY_CODE_POINT.compare(member(a), member(b));
    }

    /** Returns the member of the key; null for a blank. */
    public static @Nullable String member(Object key) {
        return key == BlankKey.BLANK ? null : (String) key;
    }

    /** Returns the key of the member, which is null for a blank. */
    public static Object key(@Nullable String member) {
        return member == null ? BlankKey.BLANK : member;
    }

    @Override
    public String label(Object key) {
        if (key == BlankKey.BLANK) {
            return "";
        }
        return bands == null ? (String) key : bands.label((String) key);
    }
}
