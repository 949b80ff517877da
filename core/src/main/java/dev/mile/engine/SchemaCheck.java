package dev.mile.engine;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.ModelException;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.internal.Messages;
import java.util.Map;
import java.util.Set;

/** Refuses tables that lack what the schema names; every engine does it in the same words. */
public final class SchemaCheck {
    private SchemaCheck() {}

    /**
     * Checks that a fact's rows have its date roles and links.
     *
     * @param fact the fact
     * @param columns the columns of its rows
     * @param rows what lacks them, for the message: the name of a file, {@code its table}
     * @throws ModelException if one is missing
     */
    public static void fact(Fact fact, Set<String> columns, String rows) {
        requireNonNull(columns, "columns is null");
        roles(fact.name(), fact.dates(), columns, rows);
        links("fact", fact.name(), fact.links(), columns);
    }

    /**
     * Checks that a fact's rows have its date roles.
     *
     * @param fact the name of the fact
     * @param roles the columns by role
     * @param columns the columns of its rows
     * @param rows what lacks them, for the message
     * @throws ModelException if one is missing
     */
    public static void roles(String fact, Map<String, String> roles, Set<String> columns, String rows) {
        requireNonNull(columns, "columns is null");
        roles.forEach((role, column) -> {
            if (!columns.contains(column)) {
                throw ModelException.of(
                        "the date role '%s' of '%s' is the column '%s', which %s lacks%s",
                        role, fact, column, rows, Messages.didYouMean(column, columns));
            }
        });
    }

    /**
     * Checks that a lookup's rows have its key and its links.
     *
     * @param lookup the lookup
     * @param columns the columns of its rows
     * @throws ModelException if one is missing
     */
    public static void lookup(Lookup lookup, Set<String> columns) {
        requireNonNull(columns, "columns is null");
        if (!columns.contains(lookup.key())) {
            throw ModelException.of(
                    "the key '%s' of the lookup '%s' is not one of its columns%s",
                    lookup.key(), lookup.name(), Messages.didYouMean(lookup.key(), columns));
        }
        links("lookup", lookup.name(), lookup.links(), columns);
    }

    /**
     * Checks that rows have the linked columns.
     *
     * @param noun what has the rows: fact or lookup
     * @param name its name
     * @param links the lookups by linked column
     * @param columns the columns of the rows
     * @throws ModelException if one is missing
     */
    public static void links(String noun, String name, Map<String, String> links, Set<String> columns) {
        requireNonNull(columns, "columns is null");
        links.keySet().forEach(column -> {
            if (!columns.contains(column)) {
                throw ModelException.of(
                        "the %s '%s' links the column '%s', which it lacks%s",
                        noun, name, column, Messages.didYouMean(column, columns));
            }
        });
    }

    /**
     * {@return the error that a lookup has two rows with a key}
     *
     * @param lookup the lookup
     * @param key the key
     */
    public static DataException keyTwice(Lookup lookup, String key) {
        requireNonNull(lookup, "lookup is null");
        return DataException.of("the lookup '%s' has the key '%s' twice; each key needs one row", lookup.name(), key);
    }
}
