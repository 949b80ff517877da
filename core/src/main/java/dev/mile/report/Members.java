package dev.mile.report;

import java.io.Serializable;
import java.util.Objects;
import java.util.Set;

/**
 * The members of one dimension that a cell takes: one, or all but some.
 *
 * @param one the member; null for a blank; of no meaning where {@code allBut} is not null
 * @param allBut the members left out; null where there is one member
 */
record Members(String one, Set<String> allBut) implements Serializable {
    static Members of(String member) {
        return new Members(member, null);
    }

    /** Tells whether it is one member. */
    boolean single() {
        return allBut == null;
    }

    boolean has(String member) {
        return allBut == null ? Objects.equals(one, member) : !allBut.contains(member);
    }
}
