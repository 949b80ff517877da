package dev.mile.sql.query;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.DayContext;
import dev.mile.fact.RowExpression;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.dialect.Sql;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntToLongFunction;
import java.util.stream.IntStream;

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

    /**
     * The rows of the table.
     *
     * @param columns the names of the columns, quoted
     * @param days a row for each day, in the order of the columns; null for a blank
     */
    public record Rows(List<String> columns, List<List<Long>> days) {}

    /**
     * Returns the rows of the table.
     *
     * @param weeks the working weeks, as running counts of working days by the name of their column
     */
    public static Rows rows(DayContext days, Map<String, IntToLongFunction> weeks) {
        List<String> columns = new ArrayList<>(COLUMNS);
        columns.addAll(weeks.keySet());
        DateRange range = days.elapsedRange();
        return new Rows(
                columns,
                IntStream.rangeClosed(range.firstEpochDay(), range.lastEpochDay())
                        .mapToObj(day -> values(days, weeks.values(), day))
                        .toList());
    }

    /** Returns whether 32 bits hold the values of a column. */
    public static boolean isSmall(String column) {
        return COLUMNS.contains(column);
    }

    /** Returns the clause before SELECT that takes the rows from a table. */
    public static String clause(String table) {
        return "WITH " + NAME + " AS (SELECT * FROM " + Sql.name(table) + ") ";
    }

    /** Returns the rows as a clause before SELECT, for databases in which nothing is written. */
    public static String clause(Dialect dialect, Rows rows) {
        return "WITH " + dialect.valuesTable(NAME, rows.columns(), rows.days()) + " ";
    }
}
