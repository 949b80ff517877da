package dev.mile.sql.dialect;

import dev.mile.fact.Table;
import java.sql.SQLException;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** The dialect of PostgreSQL (12 and later); texts are compared by code point only on request. */
public class PostgresDialect extends Dialect {
    /** Returns the dialect. */
    public PostgresDialect() {}

    @Override
    public String urlPrefix() {
        return "jdbc:postgresql:";
    }

    /** A server that was shut down says so with 57P01 to 57P03. */
    @Override
    public boolean isConnectionLost(SQLException e) {
        return super.isConnectionLost(e) || state(e).startsWith("57P");
    }

    @Override
    public boolean isMissingTable(SQLException e) {
        return super.isMissingTable(e) || state(e).equals("3F000");
    }

    @Override
    public String text(String value) {
        return "(" + super.text(value) + " COLLATE \"C\")";
    }

    @Override
    public String byCodePoint(String text) {
        return "(" + text + " COLLATE \"C\")";
    }

    @Override
    public String epochDay(String date) {
        return "CASE WHEN isfinite(" + date + ") THEN " + date + " - DATE '1970-01-01' WHEN " + date
                + " IS NOT NULL THEN " + Table.UNREADABLE + " END";
    }

    @Override
    public String epochDayOfText(String text) {
        String value = "trim(" + text + ")";
        String month = "CAST(left(" + value + ", 7) || '-01' AS DATE)";
        // months are checked before the day is built, since an impossible date would be an error there
        return "CASE WHEN " + text + " IS NULL OR " + value + " = '' THEN NULL WHEN " + value
                + " !~ '^(?!0000)[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])$' THEN " + Table.UNREADABLE
                + " WHEN CAST(right(" + value + ", 2) AS INTEGER) > extract(day FROM " + month
                + " + INTERVAL '1 month' - INTERVAL '1 day') THEN " + Table.UNREADABLE + " ELSE " + month
                + " + CAST(right("
                + value + ", 2) AS INTEGER) - 1 - DATE '1970-01-01' END";
    }

    /** A zone such as UTC+2 would be read there as two hours to the west. */
    @Override
    public String inZone(String timestamp, ZoneId zone) {
        return "timezone("
                + offset(zone)
                        .map(offset -> "INTERVAL '" + offset.getTotalSeconds() + " seconds'")
                        .orElseGet(() -> literal(zone.getId()))
                + ", " + timestamp + ")";
    }

    @Override
    public String bucketOf(String epochDay, int[] firsts, int last) {
        String array = Arrays.stream(firsts)
                .mapToObj(Integer::toString)
                .collect(Collectors.joining(",", "CAST('{", "}' AS integer[])"));
        return "CASE WHEN " + epochDay + " BETWEEN " + firsts[0] + " AND " + last + " THEN (" + array
                + ")[width_bucket(" + epochDay + ", " + array + ")] ELSE " + epochDay + " END";
    }

    /** A few long arrays are read in a fraction of the time of many rows. */
    @Override
    public String valuesTable(String name, List<String> columns, List<List<Long>> rows) {
        String arrays = IntStream.range(0, columns.size())
                .mapToObj(c -> rows.stream()
                        .map(row -> String.valueOf(row.get(c)))
                        .collect(Collectors.joining(",", "'{", "}'::bigint[]")))
                .collect(Collectors.joining(", "));
        return name + "(" + String.join(", ", columns) + ") AS MATERIALIZED (SELECT * FROM unnest(" + arrays + "))";
    }

    @Override
    public String minusSeconds(String timestamp, int seconds) {
        return "(" + timestamp + " - INTERVAL '" + seconds + " seconds')";
    }
}
