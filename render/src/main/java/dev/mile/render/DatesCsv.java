package dev.mile.render;

import dev.mile.dimension.ColumnType;
import dev.mile.dimension.DateColumn;
import java.io.IOException;
import java.util.Arrays;

/** Writes a date dimension as CSV. */
public final class DatesCsv {
    private DatesCsv() {}

    /** Writes the table so that no spreadsheet runs a text as a formula. */
    public static void write(DatesTable table, Appendable out) throws IOException {
        write(table, true, out);
    }

    /** Writes the table with texts as they are, for programs. */
    public static void writeAsIs(DatesTable table, Appendable out) throws IOException {
        write(table, false, out);
    }

    private static void write(DatesTable table, boolean harmless, Appendable out) throws IOException {
        Csv.line(out, table.columns().stream().map(DateColumn::name).toList());
        DateColumn[] columns = table.columns().toArray(DateColumn[]::new);
        // most columns keep their value over a period, so their text is made once for it
        String[] texts = new String[columns.length];
        int[] until = new int[columns.length];
        Arrays.fill(until, Integer.MIN_VALUE);
        StringBuilder line = new StringBuilder();
        for (int day = table.days().firstDay(); day <= table.days().lastDay(); day++) {
            line.setLength(0);
            for (int c = 0; c < columns.length; c++) {
                if (c > 0) {
                    line.append(',');
                }
                if (day > until[c]) {
                    texts[c] = text(columns[c], day, harmless);
                    until[c] = columns[c].steadyUntil().applyAsInt(day);
                }
                line.append(texts[c]);
            }
            out.append(line).append('\n');
        }
    }

    private static String text(DateColumn column, int day, boolean harmless) throws IOException {
        String text = DatesTable.text(column.value(day));
        if (column.type() != ColumnType.TEXT) {
            return text;
        }
        StringBuilder field = new StringBuilder();
        Csv.field(field, harmless ? Csv.harmless(text) : text);
        return field.toString();
    }
}
