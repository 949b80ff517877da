package dev.mile.sql.query;

import dev.mile.DataException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.DayContext;
import dev.mile.fact.RowExpression;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.dialect.Sql;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntToLongFunction;
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

    /** Returns the column of the working week that the expression counts in. */
    static String week(RowExpression.Elapsed elapsed) {
        return Sql.name(elapsed.week().map(name -> "week " + name).orElse("first week"));
    }

    /** Returns the working weeks that the expressions count in: running counts of working days, by the name of their column. */
    static Map<String, IntToLongFunction> weeks(List<RowExpression.Elapsed> elapsed, DayContext days) {
        Map<String, IntToLongFunction> weeks = new LinkedHashMap<>();
        elapsed.stream()
                .filter(e -> e.unit() == RowExpression.TimeUnit.WORKING_DAYS)
                .forEach(e -> weeks.put(week(e), days.cumulativeWorkingMillionths(e)));
        return weeks;
    }

    /** Returns the values of a day in the order of the columns, weeks last; null for a blank. */
    private static List<Long> values(DayContext days, Collection<IntToLongFunction> weeks, int day) {
        FiscalCalendar calendar = FiscalCalendar.civil();
        List<Long> values = new ArrayList<>();
        values.add((long) day);
        values.add(whole(calendar.ordinal(Level.PERIOD, day)));
        values.add(whole(calendar.ordinal(Level.YEAR, day)));
        values.add(whole(calendar.number(Level.PERIOD, Level.YEAR, day)));
        values.add(whole(calendar.number(Level.DAY, Level.PERIOD, day)));
        values.add(whole(calendar.rangeContaining(Level.PERIOD, day).length()));
        weeks.forEach(worked -> values.add(worked.applyAsLong(day)));
        return values;
    }

    private static Long whole(int value) {
        return value == FiscalCalendar.NONE ? null : Long.valueOf(value);
    }

    /** Writes the table into the embedded database. */
    public static void write(Database database, DayContext days, Map<String, IntToLongFunction> weeks) {
        StringBuilder columns = new StringBuilder(String.join(" INTEGER, ", COLUMNS)).append(" INTEGER");
        weeks.keySet().forEach(week -> columns.append(", ").append(week).append(" BIGINT"));
        database.run("CREATE OR REPLACE TABLE " + NAME + " (" + columns + ")");
        DateRange range = days.elapsedRange();
        try (DuckDBAppender rows =
                database.connection().unwrap(DuckDBConnection.class).createAppender("main", "mile days")) {
            for (int day = range.firstEpochDay(); day <= range.lastEpochDay(); day++) {
                rows.beginRow();
                List<Long> values = values(days, weeks.values(), day);
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
    public static String clause(Dialect dialect, DayContext days, Map<String, IntToLongFunction> weeks) {
        List<String> columns = new ArrayList<>(COLUMNS);
        columns.addAll(weeks.keySet());
        DateRange range = days.elapsedRange();
        List<List<Long>> rows = IntStream.rangeClosed(range.firstEpochDay(), range.lastEpochDay())
                .mapToObj(day -> values(days, weeks.values(), day))
                .toList();
        return "WITH " + dialect.valuesTable(NAME, columns, rows) + " ";
    }
}
