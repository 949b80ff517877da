package dev.mile.report.series;

import java.io.Serializable;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Which members of one dimension a cell takes. Immutable. */
public sealed interface MemberFilter extends Serializable {
    /** Returns whether the member, null for a blank, is taken. */
    boolean accepts(@Nullable String member);

    /** One member; null for a blank. */
    record Only(@Nullable String member) implements MemberFilter {
        @Override
        public boolean accepts(@Nullable String other) {
            return Objects.equals(member, other);
        }
    }

    /** All members but some. */
    record Excluding(Set<String> members) implements MemberFilter {
        @Override
        public boolean accepts(@Nullable String member) {
            return !members.contains(member);
        }
    }

    /** Returns the filter of one member; null for a blank. */
    static MemberFilter only(@Nullable String member) {
        return new Only(member);
    }

    /** Returns the filter of all members except some; null is a blank among them. */
    static MemberFilter excluding(Set<String> members) {
        return new Excluding(members);
    }
}
