package dev.mile.sql.cache;

import dev.mile.fact.Table;
import dev.mile.fact.ValueType;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;

/** Writes a table as rows of texts, names and types first, and reads it back. */
final class TableCodec {
    private TableCodec() {}

    static List<List<String>> written(Table table) {
        List<String> names = List.copyOf(table.types().keySet());
        List<List<String>> rows = new ArrayList<>();
        rows.add(List.of(Integer.toString(table.rows())));
        rows.add(names);
        rows.add(table.types().values().stream().map(ValueType::name).toList());
        for (int i = 0; i < table.rows(); i++) {
            List<String> row = new ArrayList<>();
            for (String name : names) {
                row.add(table.textAt(name, i));
            }
            rows.add(row);
        }
        return rows;
    }

    static Table read(List<List<String>> rows) {
        List<List<String>> values = rows.subList(3, rows.size());
        Table table = Table.ofRows(Integer.parseInt(rows.get(0).get(0)));
        for (int c = 0; c < rows.get(1).size(); c++) {
            int column = c;
            List<String> texts = new ArrayList<>();
            values.forEach(row -> texts.add(row.get(column)));
            add(table, rows.get(1).get(c), ValueType.valueOf(rows.get(2).get(c)), texts);
        }
        return table;
    }

    /** Adds a column whose values are texts, null for a blank. */
    static void add(Table table, String name, ValueType type, List<String> texts) {
        switch (type) {
            case NUMBER ->
                table.number(
                        name,
                        texts.stream()
                                .map(v -> v == null ? null : new BigDecimal(v))
                                .toList());
            case FLOATING ->
                table.floating(
                        name,
                        texts.stream()
                                .mapToDouble(v -> v == null ? Double.NaN : Double.parseDouble(v))
                                .toArray());
            case DATE ->
                table.date(
                        name,
                        texts.stream()
                                .map(v -> v == null ? null : LocalDate.parse(v))
                                .toList());
            default -> table.text(name, texts);
        }
    }
}
