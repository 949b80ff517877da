package dev.mile.sql.files;

import dev.mile.sources.RowReader;
import dev.mile.sources.RowSink;
import dev.mile.sources.SourceRow;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.query.Database;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The rows of files whose values have types, of which texts may be numbers and dates by example. */
final class TypedRows implements RowReader {
    private final Database database;
    private final String name;
    private final String from;
    private final Map<String, String> kinds;

    private TypedRows(Database database, String name, String from, Map<String, String> kinds) {
        this.database = database;
        this.name = name;
        this.from = from;
        this.kinds = kinds;
    }

    /**
     * Returns the rows of files.
     *
     * @param name their name, for messages
     * @param from what reads them, for use behind FROM; values of JSON as JSON
     */
    static TypedRows of(Database database, String name, String from) {
        Map<String, String> kinds = new LinkedHashMap<>();
        database.query("DESCRIBE SELECT * FROM " + from, row -> kinds.put(row.getString(1), row.getString(2)));
        return new TypedRows(database, name, from, kinds);
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public void read(RowSink sink) {
        sink.columns(List.copyOf(kinds.keySet()));
        List<String> select = new ArrayList<>();
        kinds.forEach((column, kind) -> {
            String quoted = Sql.name(column);
            boolean isJson = kind.equals("JSON");
            select.add(isJson ? quoted + " ->> '$'" : "CAST(" + quoted + " AS VARCHAR)");
            select.add(isJson ? "json_type(" + quoted + ") <> 'VARCHAR'" : kind.equals("VARCHAR") ? "false" : "true");
        });
        database.read("SELECT " + String.join(", ", select) + " FROM " + from, result -> {
            long number = 0;
            while (result.next()) {
                sink.row(row(result, ++number));
            }
            return number;
        });
    }

    private SourceRow row(ResultSet row, long number) throws SQLException {
        List<String> values = new ArrayList<>(kinds.size());
        BitSet typed = new BitSet();
        for (int c = 0; c < kinds.size(); c++) {
            String value = row.getString(2 * c + 1);
            values.add(value == null ? "" : value);
            typed.set(c, row.getBoolean(2 * c + 2));
        }
        return new TypedRow(values, typed, name, number);
    }

    /** A row, and its number in all files, from 1. */
    private record TypedRow(List<String> values, BitSet typed, String name, long number) implements SourceRow {
        @Override
        public int size() {
            return values.size();
        }

        @Override
        public String value(int column) {
            return values.get(column);
        }

        @Override
        public boolean isTyped(int column) {
            return typed.get(column);
        }

        @Override
        public String place(int column) {
            return name + ", row " + number;
        }
    }
}
