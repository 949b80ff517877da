package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import dev.mile.dimension.DateColumn;
import dev.mile.render.layout.Csv;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.IntStream;

/** Writes a date dimension as CSV. */
public final class DatesCsv {
    // two years: enough for a part to be worth its start, and too little to be a large object for the collector
    private static final int PART = 730;

    private DatesCsv() {}

    /**
     * Writes the table so that no spreadsheet runs a text as a formula.
     *
     * @param table the table
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void write(DatesTable table, Appendable out) throws IOException {
        requireNonNull(table, "table is null");
        requireNonNull(out, "out is null");
        write(table, true, (bytes, length) -> out.append(new String(bytes, 0, length, StandardCharsets.UTF_8)));
    }

    /**
     * Writes the table as a file in UTF-8, so that no spreadsheet runs a text as a formula; a file that is there is replaced.
     *
     * @param table the table
     * @param file the file
     * @throws IOException if it cannot be written
     */
    public static void write(DatesTable table, Path file) throws IOException {
        write(table, true, file);
    }

    /**
     * Writes the table as a file in UTF-8 with texts as they are, for programs; a file that is there is replaced.
     *
     * @param table the table
     * @param file the file
     * @throws IOException if it cannot be written
     */
    public static void writeRaw(DatesTable table, Path file) throws IOException {
        write(table, false, file);
    }

    private static void write(DatesTable table, boolean neutralized, Path file) throws IOException {
        requireNonNull(table, "table is null");
        requireNonNull(file, "file is null");
        try (OutputStream out = Files.newOutputStream(file)) {
            write(table, neutralized, (bytes, length) -> out.write(bytes, 0, length));
        }
    }

    /** Takes lines in UTF-8. */
    private interface Output {
        void write(byte[] bytes, int length) throws IOException;
    }

    private static void write(DatesTable table, boolean neutralized, Output out) throws IOException {
        byte[] header = header(table).getBytes(StandardCharsets.UTF_8);
        out.write(header, header.length);
        int first = table.days().firstEpochDay();
        int last = table.days().lastEpochDay();
        int parts = (table.days().length() + PART - 1) / PART;
        try {
            // parts are computed side by side, and written in their order
            IntStream.range(0, parts)
                    .parallel()
                    .mapToObj(part -> DateLines.of(
                            table.columns(),
                            first + part * PART,
                            Math.min(first + part * PART + PART - 1, last),
                            neutralized))
                    .forEachOrdered(lines -> append(out, lines));
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    private static String header(DatesTable table) throws IOException {
        StringBuilder header = new StringBuilder();
        Csv.line(header, table.columns().stream().map(DateColumn::name).toList());
        return header.toString();
    }

    private static void append(Output out, DateLines lines) {
        try {
            out.write(lines.bytes(), lines.length());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
