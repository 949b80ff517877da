package dev.mile.sql;

import dev.mile.calendar.MileException;
import dev.mile.fact.TotalsRequest;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.UUID;
import org.duckdb.DuckDBAppender;
import org.duckdb.DuckDBConnection;

/**
 * The days of a request in a table of the embedded database, each with the first day of its stretch. Joined to the rows, it makes
 * them groups of stretches before they are added up: a few thousand totals stay in the processor's cache.
 */
final class StretchTable {
    private final Database database;
    private final String name = "stretches " + UUID.randomUUID();

    StretchTable(Database database, TotalsRequest request) {
        this.database = database;
        database.run("CREATE TABLE " + Sql.name(name) + " (date DATE, day INTEGER, first INTEGER)");
        int[] firsts = request.stretches().firsts();
        try (DuckDBAppender rows =
                database.connection().unwrap(DuckDBConnection.class).createAppender("main", name)) {
            for (int day = request.days().firstDay(); day <= request.days().lastDay(); day++) {
                rows.beginRow();
                rows.append(LocalDate.ofEpochDay(day));
                rows.append(day);
                rows.append(firsts[request.stretches().number(day)]);
                rows.endRow();
            }
        } catch (SQLException e) {
            throw MileException.data("the table of days cannot be written: %s", e.getMessage())
                    .causedBy(e);
        }
    }

    /** Returns the statement for stretches; rows of other days are left out. */
    TotalsStatement of(TotalsStatement statement) {
        String on = statement.date().map(date -> "s.date = " + date).orElse("s.day = " + statement.day());
        return statement.by("s.first", " JOIN " + Sql.name(name) + " AS s ON " + on);
    }

    void drop() {
        database.run("DROP TABLE IF EXISTS " + Sql.name(name));
    }
}
