package dev.mile.cli;

import dev.mile.internal.FileOwner;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import dev.mile.sql.files.TableFiles;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * Writes a report as Parquet: a text column for each part of the rows, then each measure as a decimal with all its digits, or as a
 * double where it holds ratios. Rows go to a text file first, since the digits needed are known only after the last.
 */
final class GridParquet implements GridSink, AutoCloseable {
    private static final int MOST_DIGITS = 38;

    private final boolean totals;
    private final Path rows;
    private final BufferedWriter out;
    private Grid.Header head;
    private int[] whole;
    private int[] places;
    private boolean[] ratio;

    GridParquet(boolean totals, Path folder) throws IOException {
        this.totals = totals;
        this.rows = Files.createTempFile(folder, ".mile-" + FileOwner.ofProcess() + "-", ".part");
        rows.toFile().deleteOnExit();
        this.out = Files.newBufferedWriter(rows);
    }

    @Override
    public void header(Grid.Header known) {
        head = known;
        int size = head.columns().size();
        whole = new int[size];
        places = new int[size];
        ratio = new boolean[size];
        List<String> names = new ArrayList<>();
        columns().forEach((name, type) -> names.add(quoted(name)));
        line(names);
    }

    @Override
    public void row(Grid.Row row) {
        if (row.kind() != Grid.RowKind.LEAF && !totals) {
            return;
        }
        List<String> fields = new ArrayList<>();
        for (int i = 0; i < head.keys().size(); i++) {
            fields.add(i < row.labels().size() ? quoted(row.labels().get(i)) : "");
        }
        for (int c = 0; c < head.columns().size(); c++) {
            Value value = row.values().get(c);
            fields.add(row.status(c).map(TargetStatus::word).orElseGet(value::toString));
            if (!value.isBlank()) {
                measure(c, value);
            }
        }
        line(fields);
    }

    private void measure(int column, Value value) {
        ratio[column] |= !value.isExact();
        if (value.isExact()) {
            int behind = Math.max(value.decimal().scale(), 0);
            places[column] = Math.max(places[column], behind);
            whole[column] = Math.max(
                    whole[column], value.decimal().precision() - value.decimal().scale());
        }
    }

    private static String quoted(String text) {
        return '"' + text.replace("\"", "\"\"") + '"';
    }

    private void line(List<String> fields) {
        try {
            out.append(String.join(",", fields)).append('\n');
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public void notes(List<String> notes) {
        // data files hold data alone
    }

    private Map<String, String> columns() {
        Map<String, String> columns = new LinkedHashMap<>();
        head.keys().forEach(key -> columns.put(key.name(), "VARCHAR"));
        for (int c = 0; c < head.columns().size(); c++) {
            Grid.Column column = head.columns().get(c);
            int digits = Math.max(whole[c], 1) + places[c];
            columns.put(
                    column.header(),
                    column.role() == Grid.ColumnRole.STATUS || digits > MOST_DIGITS
                            ? "VARCHAR"
                            : ratio[c] ? "DOUBLE" : "DECIMAL(" + digits + ", " + places[c] + ")");
        }
        return columns;
    }

    /** Writes the file, once all rows are there. */
    void write(Path target) throws IOException {
        out.close();
        TableFiles.parquet(rows, columns(), target);
    }

    @Override
    public void close() throws IOException {
        out.close();
        Files.deleteIfExists(rows);
    }
}
