package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import dev.mile.dimension.DateColumn;
import dev.mile.render.layout.Csv;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;

/** Writes a date dimension as CSV. */
public final class DatesCsv {
    // two years: enough for a chunk to be worth its start, and too little to be a large object for the collector
    private static final int DAYS_OF_A_CHUNK = 730;

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
        try (ChunksInOrder<DateLines> chunks = chunks(table, true)) {
            out.append(header(table));
            while (chunks.hasNext()) {
                DateLines lines = chunks.next();
                out.append(new String(lines.bytes(), 0, lines.length(), StandardCharsets.UTF_8));
            }
        }
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
        try (ChunksInOrder<DateLines> chunks = chunks(table, neutralized);
                OutputStream out = Files.newOutputStream(file)) {
            out.write(header(table).getBytes(StandardCharsets.UTF_8));
            while (chunks.hasNext()) {
                DateLines lines = chunks.next();
                out.write(lines.bytes(), 0, lines.length());
            }
        }
    }

    private static ChunksInOrder<DateLines> chunks(DatesTable table, boolean neutralized) {
        int first = table.days().firstEpochDay();
        int last = table.days().lastEpochDay();
        return new ChunksInOrder<>((table.days().length() + DAYS_OF_A_CHUNK - 1) / DAYS_OF_A_CHUNK, chunk -> {
            int from = first + chunk * DAYS_OF_A_CHUNK;
            return DateLines.of(table.columns(), from, Math.min(from + DAYS_OF_A_CHUNK - 1, last), neutralized);
        });
    }

    private static String header(DatesTable table) throws IOException {
        StringBuilder header = new StringBuilder();
        Csv.line(header, table.columns().stream().map(DateColumn::name).toList());
        return header.toString();
    }
}
