package dev.mile.testkit;

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

    /**
     * {@return rows}
     *
     * @param header the names of the columns, separated by commas; {@code :number} or {@code :date} stands behind those that hold no texts
     * @param lines the values of each row, separated by commas; nothing between two commas is a blank
     */
    public static TestRows of(String header, String... lines) {
        TestRows rows = new TestRows(header);
        for (String line : lines) {
            rows.add(line.split(",", -1));
        }
        return rows;
    }

    /**
     * Adds a row.
     *
     * @param values a value for each column; an empty text is a blank
     */
    public void add(String... values) {
        if (values.length != names.size()) {
            throw new IllegalArgumentException("a row of " + values.length + " values; expected " + names);
        }
        rows.add(values.clone());
    }

    /** {@return how many rows there are} */
    public int size() {
        return rows.size();
    }

    /**
     * Puts the rows into another order.
     *
     * @param seed which one
     */
    public void shuffle(long seed) {
        java.util.Collections.shuffle(rows, new java.util.Random(seed));
    }

    /**
     * {@return a value; an empty text for a blank}
     *
     * @param row the row, from 0
     * @param column the name of the column
     */
    public String value(int row, String column) {
        return rows.get(row)[names.indexOf(column)].strip();
    }

    /** {@return the names of the columns, in order} */
    public List<String> names() {
        return List.copyOf(names);
    }

    /**
     * {@return whether a column holds numbers}
     *
     * @param column the name of the column
     */
    public boolean isNumber(String column) {
        return types.get(names.indexOf(column)).equals("number");
    }

    /** {@return the rows as the engine in memory takes them} */
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

    /** {@return the rows as CSV} */
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
