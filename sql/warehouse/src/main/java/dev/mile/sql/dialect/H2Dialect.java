package dev.mile.sql.dialect;

import dev.mile.fact.Table;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.ZoneId;

/**
 * The dialect of H2 (2.x). It has no transactions that only read; Mile writes nothing there, and a URL may say
 * {@code ;ACCESS_MODE_DATA=r}. Time between dates of a row is slow there where rows are many, since it joins without hashing.
 */
public class H2Dialect extends Dialect {
    /** Returns the dialect. */
    public H2Dialect() {}

    @Override
    public String urlPrefix() {
        return "jdbc:h2:";
    }

    /** Timestamps with a time zone become local ones in the zone of the session. */
    @Override
    public void prepare(Connection connection, ZoneId zone) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute("SET TIME ZONE "
                    + literal(offset(zone)
                            .map(o -> "UTC" + o.getId().replace("Z", ""))
                            .orElseGet(zone::getId)));
        }
    }

    @Override
    public void restore(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute("SET TIME ZONE LOCAL");
        }
    }

    /** A database that was closed says 90098 or 90121. */
    @Override
    public boolean isConnectionLost(SQLException e) {
        return super.isConnectionLost(e) || state(e).equals("90098") || state(e).equals("90121");
    }

    @Override
    public boolean isMissingTable(SQLException e) {
        return super.isMissingTable(e) || state(e).equals("90079");
    }

    /** Texts are in the order of UTF-16 there, which is not that of code points; the bytes of UTF-8 are. */
    @Override
    public String byCodePoint(String text) {
        return "STRINGTOUTF8(" + text + ")";
    }

    /** It knows a grouped expression again by its alias alone; digits and signs sort alike in UTF-16. */
    @Override
    public String orderOfComputed(String text, String alias) {
        return alias;
    }

    /** It translates halves of characters where UTF-16 needs two, so those letters stay as they are. */
    @Override
    public String lower(String text) {
        return "translate(" + text + ", " + literal(LetterCase.SHORT_CAPITALS) + ", " + literal(LetterCase.SHORT_SMALL)
                + ")";
    }

    /** LIKE takes half a character for one where UTF-16 needs two; expressions do not. */
    @Override
    public String like(String text, String pattern) {
        StringBuilder expression = new StringBuilder("\\A");
        pattern.codePoints()
                .forEach(c -> expression.append(c == '%' ? ".*" : c == '_' ? "." : String.format("\\x{%x}", c)));
        return "REGEXP_LIKE(" + text + ", " + literal(expression.append("\\z").toString()) + ", 'n')";
    }

    @Override
    public String epochDay(String date) {
        return "CAST(" + date + " - DATE '1970-01-01' AS INTEGER)";
    }

    @Override
    public String epochDayOfText(String text) {
        String value = "TRIM(" + text + ")";
        String month = "CAST(LEFT(" + value + ", 7) || '-01' AS DATE)";
        String day = "CAST(RIGHT(" + value + ", 2) AS INTEGER)";
        // months are checked before the day is built, since an impossible date would be an error there
        return "CASE WHEN " + text + " IS NULL OR " + value + " = '' THEN NULL WHEN NOT REGEXP_LIKE(" + value
                + ", '^(?!0000)[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])$') THEN " + Table.UNREADABLE + " WHEN "
                + day + " > EXTRACT(DAY FROM " + month + " + INTERVAL '1' MONTH - INTERVAL '1' DAY) THEN "
                + Table.UNREADABLE
                + " ELSE "
                + epochDay(month)
                + " + " + day + " - 1 END";
    }

    @Override
    public String inZone(String timestamp, ZoneId zone) {
        return "CAST(" + timestamp + " AS TIMESTAMP)";
    }

    @Override
    public String minusSeconds(String timestamp, int seconds) {
        return "(" + timestamp + " - INTERVAL '" + seconds + "' SECOND(5))";
    }
}
