package dev.mile.sql;

import dev.mile.calendar.MileException;
import dev.mile.calendar.Texts;
import dev.mile.fact.FactAccounts;
import dev.mile.fact.Source;
import dev.mile.fact.ValueType;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.sql.Types;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/** Makes relations of the tables of PostgreSQL: a subquery in which every column has a type that Mile knows. */
final class WarehouseTables {
    /** What a column is in the database. */
    private record Kind(int type, String name) {}

    private final Database database;
    private final ZoneId zone;

    WarehouseTables(Database database, ZoneId zone) {
        this.database = database;
        this.zone = zone;
    }

    /** Makes a relation, as {@link SourceLoader} does of a file. */
    Relation load(Source source, Map<String, String> roles, Set<String> texts, LocalTime dayStarts) {
        String table = Arrays.stream(source.table().split("\\.")).map(Sql::name).collect(Collectors.joining("."));
        Map<String, Kind> kinds = kinds(table, source);
        roles.forEach((role, column) -> {
            if (!kinds.containsKey(column)) {
                throw MileException.model(
                                "the date role '%s' is the column '%s', which the table %s lacks%s",
                                role, column, source.table(), Texts.nearest(column, kinds.keySet()))
                        .at(source.place());
            }
        });
        List<String> select = new ArrayList<>();
        Map<String, ValueType> types = new LinkedHashMap<>();
        kinds.forEach((column, kind) -> {
            ValueType type = texts.contains(column) ? ValueType.TEXT : type(kind);
            types.put(column, type);
            select.add(value(Sql.name(column), kind, type) + " AS " + Sql.name(column));
        });
        roles.forEach((role, column) ->
                select.add(day(Sql.name(column), kinds.get(column), dayStarts) + " AS " + Relation.dayOf(role)));
        return new Relation(
                "(SELECT " + String.join(", ", select) + " FROM " + table + ")", types, FactAccounts.Rejected.NONE);
    }

    private Map<String, Kind> kinds(String table, Source source) {
        try {
            return database.read("SELECT * FROM " + table + " LIMIT 0", result -> {
                Map<String, Kind> found = new LinkedHashMap<>();
                ResultSetMetaData columns = result.getMetaData();
                for (int c = 1; c <= columns.getColumnCount(); c++) {
                    found.put(
                            columns.getColumnLabel(c),
                            new Kind(columns.getColumnType(c), columns.getColumnTypeName(c)));
                }
                return found;
            });
        } catch (MileException e) {
            boolean missing = e.getCause() != null
                    && e.getCause().getCause() instanceof SQLException cause
                    && "42P01".equals(cause.getSQLState());
            throw missing
                    ? MileException.model(
                                    "the warehouse '%s' has no table %s; check its name, and write another schema as schema.table",
                                    source.warehouse(), source.table())
                            .at(source.place())
                    : e.at(source.place());
        }
    }

    private static ValueType type(Kind kind) {
        return switch (kind.type()) {
            case Types.NUMERIC, Types.DECIMAL, Types.SMALLINT, Types.INTEGER, Types.BIGINT -> ValueType.NUMBER;
            case Types.REAL, Types.FLOAT, Types.DOUBLE -> ValueType.FLOATING;
            case Types.DATE, Types.TIMESTAMP, Types.TIMESTAMP_WITH_TIMEZONE -> ValueType.DATE;
            default -> ValueType.TEXT;
        };
    }

    private String value(String column, Kind kind, ValueType type) {
        return switch (type) {
            case NUMBER -> "CAST(" + column + " AS NUMERIC)";
            case FLOATING -> "CAST(" + column + " AS DOUBLE PRECISION)";
            case DATE -> kind.type() == Types.DATE ? column : "CAST(" + local(column, kind) + " AS DATE)";
            default -> "nullif(CAST(" + column + " AS TEXT), '')";
        };
    }

    /** Returns a time as the clocks of the model's zone show it. */
    private String local(String column, Kind kind) {
        boolean zoned =
                kind.type() == Types.TIMESTAMP_WITH_TIMEZONE || kind.name().equals("timestamptz");
        return zoned ? "timezone(" + Sql.text(zone.getId()) + ", " + column + ")" : column;
    }

    private String day(String column, Kind kind, LocalTime dayStarts) {
        if (type(kind) != ValueType.DATE) {
            return dayOfText("CAST(" + column + " AS TEXT)");
        }
        String date = column;
        if (kind.type() != Types.DATE) {
            String shift = dayStarts.equals(LocalTime.MIDNIGHT)
                    ? ""
                    : " - INTERVAL '" + dayStarts.toSecondOfDay() + " seconds'";
            date = "CAST(" + local(column, kind) + shift + " AS DATE)";
        }
        return "CASE WHEN isfinite(" + column + ") THEN " + date + " - DATE '1970-01-01' WHEN " + column
                + " IS NOT NULL THEN " + SourceLoader.UNREADABLE + " END";
    }

    /** Returns the epoch day of a text with a date in ISO 8601; a mark for another text, null for a blank one. */
    static String dayOfText(String text) {
        String value = "trim(" + text + ")";
        String month = "CAST(left(" + value + ", 7) || '-01' AS DATE)";
        // months are checked before a day is made of them, since a date that is none would be an error there
        return "CASE WHEN " + text + " IS NULL OR " + value + " = '' THEN NULL WHEN " + value
                + " !~ '^(?!0000)[0-9]{4}-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])$' THEN " + SourceLoader.UNREADABLE
                + " WHEN CAST(right(" + value + ", 2) AS INTEGER) > extract(day FROM " + month
                + " + INTERVAL '1 month' - INTERVAL '1 day') THEN " + SourceLoader.UNREADABLE + " ELSE " + month
                + " + CAST(right(" + value + ", 2) AS INTEGER) - 1 - DATE '1970-01-01' END";
    }
}
