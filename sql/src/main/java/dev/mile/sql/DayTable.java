package dev.mile.sql;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.calendar.MileException;
import dev.mile.fact.DayKnowledge;
import java.sql.SQLException;
import java.util.List;
import java.util.Set;
import org.duckdb.DuckDBAppender;
import org.duckdb.DuckDBConnection;

/** The table of days that time between dates of a row is counted with: running working days, and places in month and year. */
final class DayTable {
    static final String NAME = Sql.name("mile days");

    private DayTable() {}

    /** Returns the column of a working week. */
    static String week(String week) {
        return Sql.name("week " + week);
    }

    static void write(Database database, DayKnowledge days, Set<String> weeks) {
        List<String> names = List.copyOf(weeks);
        StringBuilder columns = new StringBuilder(
                "day INTEGER, period INTEGER, year INTEGER, number INTEGER, day_of INTEGER, days INTEGER");
        names.forEach(week -> columns.append(", ").append(week(week)).append(" BIGINT"));
        database.run("CREATE OR REPLACE TABLE " + NAME + " (" + columns + ")");
        FiscalCalendar calendar = days.calendar("");
        DateRange range = days.counted();
        try (DuckDBAppender rows =
                database.connection().unwrap(DuckDBConnection.class).createAppender("main", "mile days")) {
            for (int day = range.firstDay(); day <= range.lastDay(); day++) {
                rows.beginRow();
                rows.append(day);
                // a calendar without months has its places counted in the year
                Level places = calendar.has(Level.PERIOD) ? Level.PERIOD : Level.YEAR;
                append(rows, calendar.has(Level.PERIOD) ? calendar.ordinal(Level.PERIOD, day) : FiscalCalendar.NONE);
                append(rows, calendar.ordinal(Level.YEAR, day));
                append(rows, calendar.number(places, Level.YEAR, day));
                append(rows, calendar.number(Level.DAY, places, day));
                append(rows, calendar.rangeOf(places, day).days());
                for (String week : names) {
                    rows.append(days.workingIndexMillionths(week, day));
                }
                rows.endRow();
            }
        } catch (SQLException e) {
            throw MileException.data("the table of days cannot be written: %s", e.getMessage())
                    .causedBy(e);
        }
    }

    private static void append(DuckDBAppender rows, int value) throws SQLException {
        if (value == FiscalCalendar.NONE) {
            rows.appendNull();
        } else {
            rows.append(value);
        }
    }
}
