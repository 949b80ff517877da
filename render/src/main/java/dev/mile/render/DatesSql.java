package dev.mile.render;

import dev.mile.dimension.ColumnType;
import dev.mile.dimension.DateColumn;
import java.io.IOException;
import java.util.List;

/**
 * Writes a date dimension as SQL that PostgreSQL and DuckDB run: the table with types and comments, its rows, and one view a date
 * role whose columns carry the role's name.
 */
public final class DatesSql {
    private static final int ROWS_A_STATEMENT = 500;

    private DatesSql() {}

    /**
     * Writes the script.
     *
     * @param name the name of the table
     * @param roles the date roles that get a view
     */
    public static void write(DatesTable table, String name, List<String> roles, Appendable out) throws IOException {
        out.append("BEGIN;\n");
        statements(table, name, roles, out);
        out.append("COMMIT;\n");
    }

    /** Writes the statements that put new rows into a table that is there already, without a transaction around them. */
    public static void refresh(DatesTable table, String name, Appendable out) throws IOException {
        out.append("DELETE FROM ").append(quoted(name)).append(";\n");
        rows(table, name, out);
    }

    /** Writes the script as {@link #write} does, without a transaction around it. */
    public static void statements(DatesTable table, String name, List<String> roles, Appendable out)
            throws IOException {
        for (String role : roles) {
            out.append("DROP VIEW IF EXISTS ").append(quoted(role + "_" + name)).append(";\n");
        }
        out.append("DROP TABLE IF EXISTS ").append(quoted(name)).append(";\n");
        out.append("CREATE TABLE ").append(quoted(name)).append(" (\n");
        for (int c = 0; c < table.columns().size(); c++) {
            DateColumn column = table.columns().get(c);
            out.append("  ").append(quoted(column.name())).append(' ').append(type(column.type()));
            out.append(column.name().equals("date") ? " PRIMARY KEY" : "");
            out.append(c < table.columns().size() - 1 ? ",\n" : "\n");
        }
        out.append(");\n");
        out.append("COMMENT ON TABLE ")
                .append(quoted(name))
                .append(" IS ")
                .append(text("Date dimension, one row a day, " + table.days()))
                .append(";\n");
        for (DateColumn column : table.columns()) {
            out.append("COMMENT ON COLUMN ")
                    .append(quoted(name))
                    .append('.')
                    .append(quoted(column.name()))
                    .append(" IS ")
                    .append(text(column.description()))
                    .append(";\n");
        }
        rows(table, name, out);
        for (String role : roles) {
            out.append("CREATE VIEW ").append(quoted(role + "_" + name)).append(" AS SELECT\n");
            for (int c = 0; c < table.columns().size(); c++) {
                String column = table.columns().get(c).name();
                out.append("  ").append(quoted(column)).append(" AS ").append(quoted(role + "_" + column));
                out.append(c < table.columns().size() - 1 ? ",\n" : "\n");
            }
            out.append("FROM ").append(quoted(name)).append(";\n");
        }
    }

    private static void rows(DatesTable table, String name, Appendable out) throws IOException {
        int first = table.days().firstDay();
        for (int day = first; day <= table.days().lastDay(); day++) {
            boolean begins = (day - first) % ROWS_A_STATEMENT == 0;
            boolean ends = (day - first) % ROWS_A_STATEMENT == ROWS_A_STATEMENT - 1
                    || day == table.days().lastDay();
            if (begins) {
                out.append("INSERT INTO ").append(quoted(name)).append(" VALUES\n");
            }
            out.append("(");
            for (int c = 0; c < table.columns().size(); c++) {
                out.append(c > 0 ? ", " : "")
                        .append(literal(
                                table.columns().get(c), table.columns().get(c).value(day)));
            }
            out.append(ends ? ");\n" : "),\n");
        }
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
