package dev.mile.sources;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.engine.FileFormat;
import java.io.IOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;

/**
 * A copy of rows that every engine can read: one text with commas in UTF-8, numbers such as 1234.56, dates as ISO 8601 has them.
 *
 * @param columns the names of its columns
 * @param hasLineBreaks whether a value has a line break, so that a value goes on in the next line
 * @param rejected how many lines of the files are no rows
 * @param firstRejected the first of them and why; empty where there is none
 * @param afterEnd how many rows come after the end of the table
 */
public record PlainCopy(
        List<String> columns, boolean hasLineBreaks, long rejected, String firstRejected, long afterEnd) {
    public PlainCopy {
        columns = List.copyOf(columns);
    }

    /**
     * Writes a copy.
     *
     * @param sources what is copied, all with the same columns
     * @param format how their values are written
     * @param texts columns that stay as they are, whatever their values look like: keys
     * @param dateColumns columns of date roles: each of their values that reads like the example is a date, whatever the others are
     * @param copy where to
     * @return what was written
     * @throws MileException if a file cannot be read, or a column's values do not read like the example that is given for them
     */
    public static PlainCopy write(
            List<RowReader> sources, FileFormat format, Set<String> texts, Set<String> dateColumns, Path copy) {
        requireNonNull(sources, "sources is null");
        requireNonNull(copy, "copy is null");
        PlainColumns columns = new PlainColumns(format, texts, dateColumns);
        while (true) {
            try {
                return write(sources, columns, copy);
            } catch (PlainColumns.OtherKind e) {
                // a value shows that its column is of another kind than those before it
                columns = columns.without(e);
            }
        }
    }

    private static PlainCopy write(List<RowReader> sources, PlainColumns columns, Path copy) {
        try (Writer out = Files.newBufferedWriter(copy, StandardCharsets.UTF_8)) {
            Lines lines = new Lines(columns, out);
            for (RowReader source : sources) {
                lines.file = source.name();
                ReadAhead.read(source, lines);
            }
            lines.flush();
            columns.check();
            return new PlainCopy(
                    columns.names(), lines.hasLineBreaks, lines.rejected, lines.firstRejected, lines.afterEnd);
        } catch (IOException e) {
            throw DataException.of(
                            "the copy of %s cannot be written: %s",
                            sources.get(0).name(), e.getMessage())
                    .withCause(e);
        }
    }

    /** Writes rows as lines. */
    private static final class Lines implements RowSink {
        private static final int FULL = 1 << 15;

        private final PlainColumns columns;
        private final Writer out;
        private final StringBuilder line = new StringBuilder(2 * FULL);
        String file = "";
        boolean hasLineBreaks;
        long rejected;
        String firstRejected = "";
        long afterEnd;

        Lines(PlainColumns columns, Writer out) {
            this.columns = columns;
            this.out = out;
        }

        @Override
        public void columns(List<String> names) {
            if (columns.begin(names, file)) {
                for (int c = 0; c < names.size(); c++) {
                    append(names.get(c), c, names.size());
                }
            }
        }

        @Override
        public void row(SourceRow row) {
            int size = columns.size();
            for (int c = 0; c < size; c++) {
                append(columns.plain(row, c), c, size);
            }
            if (line.length() > FULL) {
                flush();
            }
        }

        private void append(String value, int column, int size) {
            boolean quoted = size == 1 && value.isEmpty();
            for (int i = 0; i < value.length() && !quoted; i++) {
                char c = value.charAt(i);
                quoted = c == ',' || c == '"' || c == '\n' || c == '\r';
            }
            if (quoted) {
                hasLineBreaks |= value.indexOf('\n') >= 0 || value.indexOf('\r') >= 0;
                line.append('"').append(value.replace("\"", "\"\"")).append('"');
            } else {
                line.append(value);
            }
            line.append(column + 1 < size ? ',' : '\n');
        }

        void flush() {
            try {
                out.append(line);
                line.setLength(0);
            } catch (IOException e) {
                throw DataException.of("the copy of %s cannot be written: %s", file, e.getMessage())
                        .withCause(e);
            }
        }

        @Override
        public void rejected(String place, String why) {
            firstRejected = rejected++ == 0 ? place + ": " + why : firstRejected;
        }

        @Override
        public void afterEnd(long count) {
            afterEnd += count;
        }
    }
}
