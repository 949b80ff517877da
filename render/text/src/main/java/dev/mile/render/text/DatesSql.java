package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import dev.mile.dimension.ColumnType;
import dev.mile.dimension.DateColumn;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/**
 * Writes a date dimension as SQL that PostgreSQL and DuckDB run: a new table with types and comments, its rows, and one view a date
 * role whose columns carry the role's name. It drops nothing: a table of the name that is there already ends the script.
 */
public final class DatesSql {
    private static final int ROWS_A_STATEMENT = 500;

    private DatesSql() {}

    /**
     * Writes the script.
     *
     * @param table the table
     * @param name the name of the table
     * @param roles the date roles that get a view
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void write(DatesTable table, String name, List<String> roles, Appendable out) throws IOException {
        requireNonNull(table, "table is null");
        requireNonNull(name, "name is null");
        requireNonNull(roles, "roles is null");
        requireNonNull(out, "out is null");
        out.append("BEGIN;\n");
        for (String statement : statements(table, name, roles)) {
            out.append(statement).append(";\n");
        }
        out.append("COMMIT;\n");
    }

    /**
     * {@return the statements that put new rows into a table that is there already}
     *
     * @param table the table
     * @param name the name
     */
    public static List<String> refresh(DatesTable table, String name) {
        requireNonNull(table, "table is null");
        requireNonNull(name, "name is null");
        List<String> statements = new ArrayList<>(List.of("DELETE FROM " + quoted(name)));
        statements.addAll(rows(table, name));
        return statements;
    }

    /**
     * {@return the statements of the script that {@link #write} writes, without a transaction around them}
     *
     * @param table the table
     * @param name the name
     * @param roles the date roles
     */
    public static List<String> statements(DatesTable table, String name, List<String> roles) {
        requireNonNull(table, "table is null");
        requireNonNull(name, "name is null");
        requireNonNull(roles, "roles is null");
        List<String> statements = new ArrayList<>();
        List<DateColumn> columns = table.columns();
        statements.add("CREATE TABLE " + quoted(name)
                + lines(
                        columns,
                        " (",
                        column -> quoted(column.name()) + " " + type(column.type())
                                + (column.name().equals("date") ? " PRIMARY KEY" : ""))
                + ")");
        statements.add(
                "COMMENT ON TABLE " + quoted(name) + " IS " + text("Date dimension, one row a day, " + table.days()));
        for (DateColumn column : columns) {
            statements.add("COMMENT ON COLUMN " + quoted(name) + "." + quoted(column.name()) + " IS "
                    + text(column.description()));
        }
        statements.addAll(rows(table, name));
        for (String role : roles) {
            statements.add("CREATE VIEW " + quoted(role + "_" + name) + " AS SELECT"
                    + lines(columns, "", column -> quoted(column.name()) + " AS " + quoted(role + "_" + column.name()))
                    + "FROM " + quoted(name));
        }
        return statements;
    }

    private static String lines(List<DateColumn> columns, String before, Function<DateColumn, String> line) {
        return columns.stream().map(line).collect(Collectors.joining(",\n  ", before + "\n  ", "\n"));
    }

    private static List<String> rows(DatesTable table, String name) {
        List<String> statements = new ArrayList<>();
        int last = table.days().lastEpochDay();
        for (int first = table.days().firstEpochDay(); first <= last; first += ROWS_A_STATEMENT) {
            statements.add(IntStream.rangeClosed(first, Math.min(first + ROWS_A_STATEMENT - 1, last))
                    .mapToObj(day -> table.columns().stream()
                            .map(column -> literal(column, column.value(day)))
                            .collect(Collectors.joining(", ", "(", ")")))
                    .collect(Collectors.joining(",\n", "INSERT INTO " + quoted(name) + " VALUES\n", "")));
        }
        return statements;
    }

    private static String type(ColumnType type) {
        return switch (type) {
            case DATE -> "DATE";
            case INTEGER -> "INTEGER";
            case NUMBER -> "DECIMAL(12, 6)";
            case TEXT -> "VARCHAR";
            case BOOLEAN -> "BOOLEAN";
        };
    }

    private static String literal(DateColumn column, Object value) {
        if (value == null) {
            return "NULL";
        }
        return switch (column.type()) {
            case INTEGER, NUMBER, BOOLEAN -> DatesTable.text(value);
            case DATE, TEXT -> text(value.toString());
        };
    }

    private static String quoted(String name) {
        return '"' + name.replace("\"", "\"\"") + '"';
    }

    private static String text(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}
