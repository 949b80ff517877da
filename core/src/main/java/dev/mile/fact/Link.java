package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import dev.mile.fact.RowExpression.Operand;
import java.util.List;

/**
 * A column that holds the key of a lookup: one of a fact, or of a lookup that hangs on it.
 *
 * @param path the linked columns that are followed from the fact, the last of which holds the key
 * @param lookup the lookup
 */
public record Link(List<String> path, Lookup lookup) {
    public Link {
        path = List.copyOf(path);
        requireNonNull(lookup, "lookup is null");
    }

    /** {@return how messages name the column: {@code shop}, or {@code shop.area} for the area of a shop} */
    public String name() {
        return String.join(".", path);
    }

    /** {@return the key as the column holds it} */
    public Operand.Field key() {
        int last = path.size() - 1;
        return new Operand.Field(path.subList(0, last), path.get(last), ValueType.TEXT);
    }

    /** {@return the key of the lookup's row; blank where it has no such row} */
    public Operand.Field found() {
        return new Operand.Field(path, lookup.key(), ValueType.TEXT);
    }

    /** {@return the condition that the lookup lacks the key of a row} */
    public Condition isUnknown() {
        return new Condition.And(
                List.of(new Condition.Not(new Condition.IsBlank(key())), new Condition.IsBlank(found())));
    }
}
