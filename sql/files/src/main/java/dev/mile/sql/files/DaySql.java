package dev.mile.sql.files;

import dev.mile.fact.Table;
import dev.mile.internal.TextTypes;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.dialect.Sql;
import java.time.LocalTime;
import java.time.ZoneId;

/**
 * Writes the epoch days of dates, timestamps and texts as SQL of the embedded database.
 *
 * @param zone the zone in whose days moments lie
 * @param dayStarts when the day of values with times begins
 */
record DaySql(ZoneId zone, LocalTime dayStarts) {
    static final Dialect DIALECT = new DuckDbDialect();

    private static final String TIMES = TextTypes.DATE + "[ T][0-9]{2}:[0-9]{2}(:[0-9]{2}(\\.[0-9]+)?)?";
    private static final String OFFSET = "(Z|[+-][0-9]{2}(:?[0-9]{2})?)";

    /** Returns the day of a text: a date, or a timestamp, whose day depends on the zone and the start of the day. */
    String ofText(String value) {
        String plain = ofTimestamp("try_cast(" + value + " AS TIMESTAMP)");
        String zoned = ofMoment("try_cast(" + value + " AS TIMESTAMPTZ)");
        return "CASE WHEN " + value + " IS NULL THEN NULL"
                + " WHEN " + TextColumns.isDate(value) + " THEN coalesce("
                + DIALECT.epochDay("try_cast(" + value + " AS DATE)")
                + ", " + Table.UNREADABLE + ")"
                + " WHEN regexp_full_match(" + value + ", '[0-9]{8}') THEN coalesce("
                + DIALECT.epochDay("CAST(try_strptime(" + value + ", '%Y%m%d') AS DATE)") + ", " + Table.UNREADABLE
                + ")"
                + " WHEN regexp_full_match(" + value + ", " + Sql.text(TIMES) + ") THEN coalesce(" + plain + ", "
                + Table.UNREADABLE + ")"
                + " WHEN regexp_full_match(" + value + ", " + Sql.text(TIMES + OFFSET) + ") THEN coalesce(" + zoned
                + ", " + Table.UNREADABLE
                + ") ELSE " + Table.UNREADABLE + " END";
    }

    /** Returns the day of a timestamp without a zone. */
    String ofTimestamp(String timestamp) {
        String shifted = dayStarts.equals(LocalTime.MIDNIGHT)
                ? timestamp
                : DIALECT.minusSeconds(timestamp, dayStarts.toSecondOfDay());
        return DIALECT.epochDay("CAST(" + shifted + " AS DATE)");
    }

    /** Returns the day of a timestamp with a zone. */
    String ofMoment(String moment) {
        return ofTimestamp(local(moment));
    }

    /** Returns the timestamp that clocks of the zone show at a moment. */
    String local(String moment) {
        return DIALECT.inZone(moment, zone);
    }
}
