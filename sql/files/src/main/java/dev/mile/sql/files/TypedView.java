package dev.mile.sql.files;

import dev.mile.calendar.DateRange;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.SchemaCheck;
import dev.mile.fact.ValueType;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.parquet.ColumnStatistics;
import dev.mile.sql.parquet.ParquetFooter;
import dev.mile.sql.query.Relation;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A view of Parquet files, whose columns keep their types.
 *
 * @param statement makes the view
 * @param relation the view as it can be asked then
 */
record TypedView(String statement, Relation relation) {
    private static final String ZONED = "TIMESTAMP WITH TIME ZONE";

    /** Rows stand in the order of dates, roughly, where a row group spans no more than this share of all days. */
    private static final double SHARE_IN_ORDER = 0.125;

    /**
     * Returns a view.
     *
     * @param name its name
     * @param from what reads the files, for use behind FROM
     * @param kinds the types of their columns, in the words of the database
     * @param footers what the files say of themselves; none where that is not known
     * @param roles date columns by role; empty for a lookup
     * @param fileName the files, for messages
     * @throws dev.mile.MileException if a date column is not there
     */
    static TypedView of(
            String name,
            String from,
            Map<String, String> kinds,
            List<ParquetFooter> footers,
            Map<String, String> roles,
            DaySql days,
            String fileName) {
        SchemaCheck.roles(name, roles, kinds.keySet(), fileName);
        Map<String, ColumnStatistics> statistics = new LinkedHashMap<>();
        kinds.keySet().forEach(column -> statistics.put(column, ColumnStatistics.of(footers, column)));
        List<String> select = new ArrayList<>();
        Map<String, ValueType> types = new LinkedHashMap<>();
        kinds.forEach((column, kind) -> {
            ValueType type = type(kind);
            types.put(column, type);
            String quoted = Sql.name(column);
            String value =
                    switch (type) {
                        case NUMBER ->
                            kind.contains("HUGE") || kind.equals("UBIGINT")
                                    ? "CAST(" + quoted + " AS DECIMAL(38, 0))"
                                    : quoted;
                        case FLOATING ->
                            "CASE WHEN isfinite(" + quoted + ") OR " + quoted + " IS NULL THEN " + quoted
                                    + " ELSE error("
                                    + Sql.text("the column " + column
                                            + " holds an infinite number or NaN; correct the data")
                                    + ") END";
                        case DATE -> "CAST(" + (kind.equals(ZONED) ? days.local(quoted) : quoted) + " AS DATE)";
                        default ->
                            kind.equals("VARCHAR") && statistics.get(column).neverEmpty()
                                    ? quoted
                                    : "nullif(CAST(" + quoted + " AS VARCHAR), '')";
                    };
            select.add(value + " AS " + quoted);
        });
        roles.forEach((role, column) -> {
            String kind = kinds.get(column);
            String quoted = Sql.name(column);
            String day = kind.equals("DATE")
                    ? DaySql.DIALECT.epochDay(quoted)
                    : kind.equals(ZONED)
                            ? days.ofMoment(quoted)
                            : kind.startsWith("TIMESTAMP")
                                    ? days.ofTimestamp(quoted)
                                    : days.ofText("nullif(trim(CAST(" + quoted + " AS VARCHAR)), '')");
            select.add(day + " AS " + Relation.dayColumn(role));
        });
        String statement = "CREATE OR REPLACE VIEW " + Sql.name(name) + " AS SELECT " + String.join(", ", select)
                + " FROM " + from;
        Map<String, String> dates = new LinkedHashMap<>(roles);
        dates.values().removeIf(column -> !kinds.get(column).equals("DATE"));
        return new TypedView(statement, relation(name, types, statistics, dates));
    }

    private static ValueType type(String kind) {
        if (kind.startsWith("DECIMAL") || kind.matches("U?(TINY|SMALL|BIG|HUGE)?INT(EGER)?")) {
            return ValueType.NUMBER;
        }
        if (kind.equals("DOUBLE") || kind.equals("FLOAT")) {
            return ValueType.FLOATING;
        }
        return kind.equals("DATE") || kind.startsWith("TIMESTAMP") ? ValueType.DATE : ValueType.TEXT;
    }

    private static Relation relation(
            String name,
            Map<String, ValueType> types,
            Map<String, ColumnStatistics> statistics,
            Map<String, String> dates) {
        Set<String> full = new HashSet<>();
        Set<String> dictionaries = new HashSet<>();
        statistics.forEach((column, known) -> {
            boolean isText = types.get(column) == ValueType.TEXT;
            // an empty text is a blank too
            if (known.neverNull() && (!isText || known.neverEmpty())) {
                full.add(column);
            }
            if (known.inDictionary() && isText) {
                dictionaries.add(column);
            }
        });
        Map<String, DateRange> ranges = new LinkedHashMap<>();
        Set<String> ordered = new HashSet<>();
        dates.forEach((role, column) -> statistics.get(column).dates().ifPresent(range -> {
            ranges.put(role, range);
            if (statistics.get(column).daysOfRowGroup() <= range.length() * SHARE_IN_ORDER) {
                ordered.add(role);
            }
        }));
        return new Relation(
                Sql.name(name), types, FactAccounts.Rejected.NONE, full, dictionaries, dates, ordered, ranges);
    }
}
