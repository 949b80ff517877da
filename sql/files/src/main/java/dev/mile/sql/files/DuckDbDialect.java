package dev.mile.sql.files;

import dev.mile.fact.Table;
import dev.mile.sql.dialect.Dialect;
import java.time.ZoneId;

/** The dialect of the embedded database; it compares texts by code point. */
final class DuckDbDialect extends Dialect {
    @Override
    public String urlPrefix() {
        return "jdbc:duckdb:";
    }

    /** Its own small letters are those of Unicode, letter by letter. */
    @Override
    public String lower(String text) {
        return "lower(" + text + ")";
    }

    @Override
    public String trim(String text, String characters) {
        return "trim(" + text + ", " + literal(characters) + ")";
    }

    @Override
    public String like(String text, String pattern) {
        return text + " LIKE " + literal(pattern);
    }

    /** Of two decimals that fit into longs each, the sum and the product would have to fit too. */
    @Override
    public String wide(String number) {
        return "(CAST(1 AS DECIMAL(19, 0)) * " + number + ")";
    }

    @Override
    public String floatingSum(String value) {
        // compensated, as the core adds floating numbers
        return "fsum(" + value + ")";
    }

    /** Infinity is a day there, far outside any calendar, and is accounted for as such. */
    @Override
    public String epochDay(String date) {
        return "CAST(" + date + " - DATE '1970-01-01' AS INTEGER)";
    }

    /** Texts in a file that are not dates were reported when the file was read. */
    @Override
    public String epochDayOfText(String text) {
        return "coalesce(" + epochDay("try_cast(" + text + " AS DATE)") + ", CASE WHEN " + text + " IS NOT NULL THEN "
                + Table.UNREADABLE + " END)";
    }

    @Override
    public String inZone(String timestamp, ZoneId zone) {
        return offset(zone)
                .map(offset ->
                        "timezone('UTC', " + timestamp + " + INTERVAL '" + offset.getTotalSeconds() + " seconds')")
                .orElseGet(() -> "timezone(" + literal(zone.getId()) + ", " + timestamp + ")");
    }

    @Override
    public String minusSeconds(String timestamp, int seconds) {
        return "(" + timestamp + " - INTERVAL '" + seconds + " seconds')";
    }
}
