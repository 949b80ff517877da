package dev.mile.sql.warehouse;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.FileFormat;
import dev.mile.engine.SchemaCheck;
import dev.mile.engine.Source;
import dev.mile.fact.ValueType;
import dev.mile.internal.Messages;
import dev.mile.sql.dialect.Dialect;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.Relation;
import java.sql.ResultSet;
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

/** Makes relations of the tables of a warehouse: a subquery in which every column has a type that Mile knows. */
final class WarehouseTables {
    /** What a column is in the database. */
    private record Kind(int type, String name) {}

    private final Database database;
    private final Dialect dialect;
    private final ZoneId zone;

    WarehouseTables(Database database, Dialect dialect, ZoneId zone) {
        this.database = database;
        this.dialect = dialect;
        this.zone = zone;
    }

    /** Makes a relation, as files have one. */
    Relation load(
            String name, Source.InWarehouse source, Map<String, String> roles, Set<String> texts, LocalTime dayStarts) {
        String table = table(source);
        Map<String, Kind> kinds = kinds(table, source);
        SchemaCheck.roles(name, roles, kinds.keySet(), words(source));
        List<String> select = new ArrayList<>();
        Map<String, ValueType> types = new LinkedHashMap<>();
        kinds.forEach((column, kind) -> {
            ValueType type = texts.contains(column) ? ValueType.TEXT : type(kind);
            types.put(column, type);
            select.add(value(Sql.name(column), kind, type) + " AS " + Sql.name(column));
        });
        roles.forEach((role, column) ->
                select.add(day(Sql.name(column), kinds.get(column), dayStarts) + " AS " + Relation.dayColumn(role)));
        return new Relation(
                "(SELECT " + String.join(", ", select) + " FROM " + table + ")", types, FactAccounts.Rejected.NONE);
    }

    private static String words(Source.InWarehouse source) {
        if (source instanceof Source.UnpivotedInWarehouse rows) {
            return words(rows.wide());
        }
        return source instanceof Source.WarehouseTable rows ? "the table " + rows.table() : "the query";
    }

    /** Returns what has the rows, for use behind FROM. */
    private String table(Source.InWarehouse source) {
        if (source instanceof Source.UnpivotedInWarehouse rows) {
            return unpivoted(table(rows.wide()), rows);
        }
        return source instanceof Source.WarehouseQuery rows
                ? ReadOnlyQuery.asTable(rows.query())
                : name(((Source.WarehouseTable) source).table());
    }

    /** Makes a row of each filled value in some columns of a table. */
    private String unpivoted(String table, Source.UnpivotedInWarehouse source) {
        Map<String, Kind> kinds = kinds(table, source.wide());
        FileFormat.Unpivot unpivot = source.columns();
        List<String> range = unpivot.range(List.copyOf(kinds.keySet()));
        List<String> selects = new ArrayList<>();
        for (String column : range) {
            ValueType first = type(kinds.get(range.get(0)));
            ValueType here = type(kinds.get(column));
            if (first != here) {
                throw ModelException.of(
                        "the columns to unpivot are %s..%s, of which %s holds %s and %s holds %s; take columns of one kind",
                        unpivot.first(), unpivot.last(), range.get(0), kindOf(first), column, kindOf(here));
            }
            List<String> select = new ArrayList<>();
            kinds.keySet().stream()
                    .filter(name -> !range.contains(name))
                    .map(Sql::name)
                    .forEach(select::add);
            String member = unpivot
                    .member(column, other -> "coalesce(" + text(Sql.name(other), kinds.get(other)) + ", '')", Sql::text)
                    .stream()
                    .collect(Collectors.joining(" || "));
            select.add(member + " AS " + Sql.name(unpivot.into()));
            select.add(Sql.name(column) + " AS " + Sql.name(unpivot.values()));
            selects.add("SELECT " + String.join(", ", select) + " FROM " + table + " WHERE " + Sql.name(column)
                    + " IS NOT NULL"
                    + (here == ValueType.TEXT ? " AND trim(" + dialect.text(Sql.name(column)) + ") <> ''" : ""));
        }
        return "(" + String.join(" UNION ALL ", selects) + ") AS " + Sql.name("mile unpivoted");
    }

    private static String kindOf(ValueType type) {
        return switch (type) {
            case NUMBER -> "exact numbers";
            case FLOATING -> "binary floating numbers";
            case DATE -> "dates";
            default -> "texts";
        };
    }

    private static String name(String table) {
        return Arrays.stream(table.split("\\.")).map(Sql::name).collect(Collectors.joining("."));
    }

    private Map<String, Kind> kinds(String table, Source.InWarehouse source) {
        try {
            return database.read("SELECT * FROM " + table + " WHERE 1 = 0", result -> {
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
            throw isMissingTable(e) && source instanceof Source.WarehouseTable rows
                    ? ModelException.of(
                                    "the warehouse '%s' has no table %s%s; check its name, and write another schema as schema.table",
                                    rows.warehouse(), rows.table(), alike(rows.table()))
                            .withLocationOf(source)
                    : e.withLocationOf(source);
        }
    }

    private boolean isMissingTable(Throwable error) {
        for (Throwable cause = error.getCause(); cause != null; cause = cause.getCause()) {
            if (cause instanceof SQLException said && dialect.isMissingTable(said)) {
                return true;
            }
        }
        return false;
    }

    /** Returns "; did you mean 'X'" for a table whose name is nearly the same. */
    private String alike(String table) {
        String name = table.substring(table.lastIndexOf('.') + 1);
        List<String> names = new ArrayList<>();
        try {
            database.withConnection(connection -> {
                try (ResultSet row = connection.getMetaData().getTables(null, null, "%", null)) {
                    while (row.next()) {
                        names.add(row.getString("TABLE_NAME"));
                    }
                    return names;
                }
            });
        } catch (SQLException e) {
            return "";
        }
        return Messages.closestMatch(name, names)
                .map(near -> "; did you mean '" + near + "'")
                .orElse("");
    }

    private static ValueType type(Kind kind) {
        return switch (kind.type()) {
            case Types.NUMERIC, Types.DECIMAL, Types.TINYINT, Types.SMALLINT, Types.INTEGER, Types.BIGINT ->
                ValueType.NUMBER;
            case Types.REAL, Types.FLOAT, Types.DOUBLE -> ValueType.FLOATING;
            case Types.DATE, Types.TIMESTAMP, Types.TIMESTAMP_WITH_TIMEZONE -> ValueType.DATE;
            default -> ValueType.TEXT;
        };
    }

    private String value(String column, Kind kind, ValueType type) {
        return switch (type) {
            case NUMBER -> dialect.exact(column, kind.type() != Types.NUMERIC && kind.type() != Types.DECIMAL);
            case FLOATING -> dialect.floating(column);
            case DATE -> kind.type() == Types.DATE ? column : "CAST(" + local(column, kind) + " AS DATE)";
            default -> "nullif(" + text(column, kind) + ", '')";
        };
    }

    private String text(String column, Kind kind) {
        return switch (kind.type()) {
            // databases write truth differently, and some fill a text up to its width
            case Types.BOOLEAN -> "CASE WHEN " + column + " THEN 'true' WHEN NOT " + column + " THEN 'false' END";
            case Types.CHAR, Types.NCHAR -> "RTRIM(" + dialect.text(column) + ")";
            default -> dialect.text(column);
        };
    }

    /** Returns a time as the clocks of the model's zone show it. */
    private String local(String column, Kind kind) {
        boolean zoned =
                kind.type() == Types.TIMESTAMP_WITH_TIMEZONE || kind.name().equals("timestamptz");
        return zoned ? dialect.inZone(column, zone) : column;
    }

    private String day(String column, Kind kind, LocalTime dayStarts) {
        if (type(kind) != ValueType.DATE) {
            return dialect.epochDayOfText(text(column, kind));
        }
        if (kind.type() == Types.DATE) {
            return dialect.epochDay(column);
        }
        String local = local(column, kind);
        return dialect.epochDay("CAST("
                + (dayStarts.equals(LocalTime.MIDNIGHT)
                        ? local
                        : dialect.minusSeconds(local, dayStarts.toSecondOfDay()))
                + " AS DATE)");
    }
}
