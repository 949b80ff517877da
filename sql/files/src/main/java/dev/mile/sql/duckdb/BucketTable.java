package dev.mile.sql.duckdb;

import dev.mile.DataException;
import dev.mile.engine.TotalsRequest;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.TotalsStatement;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.UUID;
import org.duckdb.DuckDBAppender;
import org.duckdb.DuckDBConnection;

/**
 * The days of a request in a table of the embedded database, each with the first day of its bucket. Joined to the rows, it makes
 * them groups of buckets before they are added up: a few thousand totals stay in the processor's cache.
 */
public final class BucketTable {
    private final Database database;
    private final int size;
    private final String name = "buckets " + UUID.randomUUID();

    public BucketTable(Database database, TotalsRequest request) {
        this.database = database;
        database.run("CREATE TABLE " + Sql.name(name) + " (date DATE, day INTEGER, first INTEGER, bucket INTEGER)");
        int[] firsts = request.buckets().firstEpochDays();
        size = firsts.length;
        try {
            database.withConnection(connection -> {
                try (DuckDBAppender rows =
                        connection.unwrap(DuckDBConnection.class).createAppender("main", name)) {

                    for (int day = request.days().firstEpochDay();
                            day <= request.days().lastEpochDay();
                            day++) {
                        rows.beginRow();
                        rows.append(LocalDate.ofEpochDay(day));
                        rows.append(day);
                        int bucket = request.buckets().bucketOf(day);
                        rows.append(firsts[bucket]);
                        rows.append(bucket);
                        rows.endRow();
                    }
                    return rows;
                }
            });
        } catch (SQLException e) {
            throw DataException.of("the table of days cannot be written: %s", e.getMessage())
                    .withCause(e);
        }
    }

    /** Returns the number of buckets. */
    public int size() {
        return size;
    }

    /** Returns rows of {@code bucket}, its number, and {@code first}, its first day, for use behind FROM. */
    public String firstDays() {
        return "(SELECT DISTINCT bucket, first FROM " + Sql.name(name) + ")";
    }

    /** Returns the statement for buckets, by their first days; rows of other days are left out. */
    public TotalsStatement of(TotalsStatement statement) {
        return of(statement, "s.first");
    }

    /** Returns the statement for buckets, by their numbers from 0; rows of other days are left out. */
    public TotalsStatement numbered(TotalsStatement statement) {
        return of(statement, "s.bucket");
    }

    private TotalsStatement of(TotalsStatement statement, String by) {
        String on = statement.date().map(date -> "s.date = " + date).orElse("s.day = " + statement.day());
        return statement.by(by, " JOIN " + Sql.name(name) + " AS s ON " + on);
    }

    public void drop() {
        database.drop(Sql.name(name));
    }
}
