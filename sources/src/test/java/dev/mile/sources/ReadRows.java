package dev.mile.sources;

import dev.mile.engine.FileFormat;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** The calls of a sink while a file is read, a line each; values that the file itself types are in angle brackets. */
final class ReadRows implements RowSink {
    private final List<String> lines = new ArrayList<>();
    private int size;

    private ReadRows() {}

    static List<String> of(Path file, FileFormat format) {
        ReadRows rows = new ReadRows();
        SourceFile.read(file, format, rows);
        return rows.lines;
    }

    @Override
    public void columns(List<String> names) {
        size = names.size();
        lines.add("names " + names);
    }

    @Override
    public void row(SourceRow row) {
        List<String> values = new ArrayList<>();
        for (int c = 0; c < size; c++) {
            values.add(row.isTyped(c) ? "<" + row.value(c) + ">" : row.value(c));
        }
        lines.add(row.place(0) + " " + values);
    }

    @Override
    public void rejected(String place, String why) {
        lines.add(place + " " + why);
    }

    @Override
    public void afterEnd(long rows) {
        lines.add(rows + " after the end");
    }
}
