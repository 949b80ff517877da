package dev.mile.sql.query;

import dev.mile.DataException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.DayContext;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.dialect.Sql;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import org.duckdb.DuckDBAppender;
import org.duckdb.DuckDBConnection;

/** The table of days that time between dates of a row is counted with: running working days, and places in month and year. */
public final class DayTable {
    static final String NAME = Sql.name("mile days");

    // names that are words of no database
    private static final List<String> COLUMNS =
            List.of("epoch_day", "period_at", "year_at", "number_in_year", "day_in_unit", "unit_days");

    private DayTable() {}

    /** Returns the column of a working week. */
    static String week(String week) {
        return Sql.name("week " + week);
    }

    /** Returns the values of a day in the order of the columns, weeks last; null for a blank. */
    private static List<Long> values(DayContext days, List<String> weeks, int day) {
        FiscalCalendar calendar = days.calendar();
        // a calendar without months has its places counted in the year
        Level places = calendar.supports(Level.PERIOD) ? Level.PERIOD : Level.YEAR;
        List<Long> values = new ArrayList<>();
        values.add((long) day);
        values.add(whole(calendar.supports(Level.PERIOD) ? calendar.ordinal(Level.PERIOD, day) : FiscalCalendar.NONE));
        values.add(whole(calendar.ordinal(Level.YEAR, day)));
        values.add(whole(calendar.number(places, Level.YEAR, day)));
        values.add(whole(calendar.number(Level.DAY, places, day)));
        values.add(whole(calendar.rangeContaining(places, day).length()));
        weeks.forEach(week -> values.add(days.cumulativeWorkingMillionths(week, day)));
        return values;
    }

    private static Long whole(int value) {
        return value == FiscalCalendar.NONE ? null : Long.valueOf(value);
    }

    /** Writes the table into the embedded database. */
    public static void write(Database database, DayContext days, Set<String> weeks) {
        List<String> names = List.copyOf(weeks);
        StringBuilder columns = new StringBuilder(String.join(" INTEGER, ", COLUMNS)).append(" INTEGER");
        names.forEach(week -> columns.append(", ").append(week(week)).append(" BIGINT"));
        database.run("CREATE OR REPLACE TABLE " + NAME + " (" + columns + ")");
        DateRange range = days.elapsedRange();
        try (DuckDBAppender rows =
                database.connection().unwrap(DuckDBConnection.class).createAppender("main", "mile days")) {
            for (int day = range.firstEpochDay(); day <= range.lastEpochDay(); day++) {
                rows.beginRow();
                List<Long> values = values(days, names, day);
                for (int c = 0; c < values.size(); c++) {
                    if (values.get(c) == null) {
                        rows.appendNull();
                    } else if (c < COLUMNS.size()) {
                        rows.append(values.get(c).intValue());
                    } else {
                        rows.append(values.get(c));
                    }
                }
                rows.endRow();
            }
        } catch (SQLException e) {
            throw DataException.of("the table of days cannot be written: %s", e.getMessage())
                    .withCause(e);
        }
    }

    /** Returns the table as a clause before SELECT, for databases in which nothing is written. */
    public static String clause(Dialect dialect, DayContext days, Set<String> weeks) {
        List<String> names = List.copyOf(weeks);
        List<String> columns = new ArrayList<>(COLUMNS);
        names.forEach(week -> columns.add(week(week)));
        DateRange range = days.elapsedRange();
        List<List<Long>> rows = IntStream.rangeClosed(range.firstEpochDay(), range.lastEpochDay())
                .mapToObj(day -> values(days, names, day))
                .toList();
        return "WITH " + dialect.valuesTable(NAME, columns, rows) + " ";
    }
}
