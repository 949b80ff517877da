package dev.mile.report;

import dev.mile.fact.Table;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/** The rows of a table of a test, as texts, so that every engine can be given the same. A type stands behind each name: {@code units:number}. */
public final class TestRows {
    private final List<String> names = new ArrayList<>();
    private final List<String> types = new ArrayList<>();
    private final List<String[]> rows = new ArrayList<>();

    private TestRows(String header) {
        for (String column : header.split(",")) {
            String[] parts = column.strip().split(":");
            names.add(parts[0]);
            types.add(parts.length > 1 ? parts[1] : "text");
        }
    }

    public static TestRows of(String header, String... lines) {
        TestRows rows = new TestRows(header);
        for (String line : lines) {
            rows.add(line.split(",", -1));
        }
        return rows;
    }

    public void add(String... values) {
        if (values.length != names.size()) {
            throw new IllegalArgumentException("a row of " + values.length + " values; expected " + names);
        }
        rows.add(values.clone());
    }

    public int size() {
        return rows.size();
    }

    public void shuffle(long seed) {
        java.util.Collections.shuffle(rows, new java.util.Random(seed));
    }

    /** Returns the value; an empty text for a blank. */
    public String value(int row, String column) {
        return rows.get(row)[names.indexOf(column)].strip();
    }

    public List<String> names() {
        return names;
    }

    public boolean isNumber(String column) {
        return types.get(names.indexOf(column)).equals("number");
    }

    /** Returns the rows as the in-memory engine takes them. */
    public Table table() {
        Table table = Table.ofRows(rows.size());
        for (int c = 0; c < names.size(); c++) {
            int at = c;
            List<String> values = rows.stream().map(r -> r[at].strip()).toList();
            switch (types.get(c)) {
                case "number" ->
                    table.number(
                            names.get(c),
                            values.stream()
                                    .map(v -> v.isEmpty() ? null : new BigDecimal(v))
                                    .toList());
                case "date" ->
                    table.date(
                            names.get(c),
                            values.stream()
                                    .map(v -> v.isEmpty() ? null : LocalDate.parse(v))
                                    .toList());
                default -> table.text(names.get(c), values);
            }
        }
        return table;
    }

    /** Returns the rows as CSV. */
    public String csv() {
        StringBuilder out = new StringBuilder(String.join(",", names)).append('\n');
        for (String[] row : rows) {
            List<String> fields = new ArrayList<>();
            for (String value : row) {
                fields.add(
                        value.contains("\"") || value.contains("\n")
                                ? '"' + value.replace("\"", "\"\"") + '"'
                                : value.strip());
            }
            out.append(String.join(",", fields)).append('\n');
        }
        return out.toString();
    }
}
