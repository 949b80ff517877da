package dev.mile.sql;

import dev.mile.fact.ValueType;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * A source that can be asked: a table or view of the embedded database.
 *
 * @param sql its quoted name
 * @param types the types of its columns
 * @param rejected lines of its files that are no rows
 */
record Relation(String sql, Map<String, ValueType> types, long rejected) {
    Relation {
        types = new LinkedHashMap<>(types);
    }

    /** Returns the column that holds the epoch day of a role. */
    static String dayOf(String role) {
        return Sql.name("@" + role);
    }
}
