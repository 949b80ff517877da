package dev.mile.render.text;

import static java.util.Objects.requireNonNull;

import dev.mile.dimension.ColumnType;
import dev.mile.dimension.DateColumn;
import dev.mile.render.layout.Csv;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Arrays;
import java.util.stream.IntStream;

/** Writes a date dimension as CSV. */
public final class DatesCsv {
    // four years: enough for a part to be worth its start
    private static final int PART = 1_461;
    private static final int VALUE = 8;

    private DatesCsv() {}

    /**
     * Writes the table so that no spreadsheet runs a text as a formula.
     *
     * @param table the table
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void write(DatesTable table, Appendable out) throws IOException {
        write(table, true, out);
    }

    /**
     * Writes the table with texts as they are, for programs.
     *
     * @param table the table
     * @param out where it is written
     * @throws IOException if it cannot be written
     */
    public static void writeRaw(DatesTable table, Appendable out) throws IOException {
        requireNonNull(table, "table is null");
        requireNonNull(out, "out is null");
        write(table, false, out);
    }

    private static void write(DatesTable table, boolean neutralized, Appendable out) throws IOException {
        Csv.line(out, table.columns().stream().map(DateColumn::name).toList());
        int first = table.days().firstEpochDay();
        int parts = (table.days().length() + PART - 1) / PART;
        try {
            // parts are computed side by side, and written in their order
            IntStream.range(0, parts)
                    .parallel()
                    .mapToObj(part -> part(
                            table,
                            first + part * PART,
                            Math.min(
                                    first + part * PART + PART - 1, table.days().lastEpochDay()),
                            neutralized))
                    .forEachOrdered(text -> append(out, text));
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    private static void append(Appendable out, CharSequence text) {
        try {
            out.append(text);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static StringBuilder part(DatesTable table, int first, int last, boolean neutralized) {
        DateColumn[] columns = table.columns().toArray(DateColumn[]::new);
        // most columns keep their value over a period, so their text is made once for it
        String[] texts = new String[columns.length];
        int[] until = new int[columns.length];
        Arrays.fill(until, Integer.MIN_VALUE);
        StringBuilder lines = new StringBuilder((last - first + 1) * columns.length * VALUE);
        for (int day = first; day <= last; day++) {
            for (int c = 0; c < columns.length; c++) {
                if (c > 0) {
                    lines.append(',');
                }
                if (day > until[c]) {
                    texts[c] = text(columns[c], day, neutralized);
                    until[c] = columns[c].constantUntil(day);
                }
                lines.append(texts[c]);
            }
            lines.append('\n');
        }
        return lines;
    }

    private static String text(DateColumn column, int day, boolean neutralized) {
        String text = DatesTable.text(column.value(day));
        if (column.type() != ColumnType.TEXT) {
            return text;
        }
        return Csv.field(neutralized ? Csv.neutralizeFormula(text) : text);
    }
}
