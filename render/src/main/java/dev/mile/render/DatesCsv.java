package dev.mile.render;

import dev.mile.dimension.ColumnType;
import dev.mile.dimension.DateColumn;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

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
        List<String> fields = new ArrayList<>();
        for (int day = table.days().firstDay(); day <= table.days().lastDay(); day++) {
            fields.clear();
            for (DateColumn column : table.columns()) {
                String text = DatesTable.text(column.value(day));
                fields.add(harmless && column.type() == ColumnType.TEXT ? Csv.harmless(text) : text);
            }
            Csv.line(out, fields);
        }
    }
}
