package dev.mile.sql.files;

import dev.mile.sql.dialect.Sql;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.TotalsStatement;
import java.util.List;
import java.util.UUID;

/**
 * The different values of a column in a table of their own, each with a number from 0. Lists of numbers are made, and read, several times as
 * fast as lists of texts, and each text crosses once.
 */
final class DistinctValues {
    private final String table;
    private final List<String> texts;

    private DistinctValues(String table, List<String> texts) {
        this.table = table;
        this.texts = texts;
    }

    /** Makes the table for a value. */
    static DistinctValues of(Database database, TotalsStatement statement, String value) {
        String table = Sql.name("values " + UUID.randomUUID());
        try {
            database.run(
                    "CREATE TABLE " + table + " AS SELECT v, CAST(row_number() OVER () - 1 AS INTEGER) AS code FROM ("
                            + statement.values(value) + ") WHERE v IS NOT NULL");
            return new DistinctValues(
                    table, database.query("SELECT v FROM " + table + " ORDER BY code", row -> row.getString(1)));
        } catch (RuntimeException e) {
            database.drop(table);
            throw e;
        }
    }

    /** Returns the statement that lists numbers in a column instead of texts. */
    TotalsStatement in(TotalsStatement statement, int column) {
        String alias = "w" + column;
        TotalsStatement.Column of = statement.columns().get(column);
        return statement.withColumn(
                column,
                "list(DISTINCT " + alias + ".code) FILTER (WHERE " + alias + ".code IS NOT NULL AND " + of.filter()
                        + ")",
                " LEFT JOIN " + table + " AS " + alias + " ON " + alias + ".v = "
                        + of.distinct().orElseThrow());
    }

    /** Returns the values by their numbers. */
    List<String> texts() {
        return texts;
    }

    String table() {
        return table;
    }
}
