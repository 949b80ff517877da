package dev.mile.sql.query;

import dev.mile.calendar.DateRange;
import dev.mile.engine.FactAccounts;
import dev.mile.fact.ValueType;
import dev.mile.sql.dialect.Sql;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;

/**
 * A source that can be asked.
 *
 * @param sql its quoted name, or a query in brackets
 * @param types the types of its columns
 * @param rejected lines of its files that are no rows
 * @param nonNullColumns columns that are known to have a value in every row
 * @param dictionaryColumns columns of texts of which every part of the source holds a dictionary, and of each row a number in it
 * @param dates by role, the date column that holds its day unchanged; not for roles whose day is computed
 * @param orderedRoles roles in whose order the rows stand, roughly: each part of the source holds few of all days
 * @param ranges by role, the first to the last date of all rows, where the source says so itself
 */
public record Relation(
        String sql,
        Map<String, ValueType> types,
        FactAccounts.Rejected rejected,
        Set<String> nonNullColumns,
        Set<String> dictionaryColumns,
        Map<String, String> dates,
        Set<String> orderedRoles,
        Map<String, DateRange> ranges) {
    public Relation {
        types = new LinkedHashMap<>(types);
    }

    public Relation(String sql, Map<String, ValueType> types, FactAccounts.Rejected rejected) {
        this(sql, types, rejected, Set.of(), Set.of(), Map.of(), Set.of(), Map.of());
    }

    /** Returns it with a name, for use after FROM alone. */
    String from() {
        return sql + " AS r";
    }

    /** Returns the column that holds the epoch day of a role. */
    public static String dayColumn(String role) {
        return Sql.name("@" + role);
    }
}
