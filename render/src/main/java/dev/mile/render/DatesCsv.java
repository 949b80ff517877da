package dev.mile.render;

import dev.mile.dimension.DateColumn;
import java.io.IOException;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.Map;

/** Writes a date dimension as CSV. */
public final class DatesCsv {
    private static final int MOST_DATES = 4_000;

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
        StringBuilder line = new StringBuilder();
        Map<Object, String> dates = new HashMap<>();
        for (int day = table.days().firstDay(); day <= table.days().lastDay(); day++) {
            line.setLength(0);
            for (DateColumn column : table.columns()) {
                Object value = column.value(day);
                if (column != table.columns().get(0)) {
                    line.append(',');
                }
                if (value == null) {
                    continue;
                }
                switch (column.type()) {
                    case TEXT -> Csv.field(line, harmless ? Csv.harmless(value.toString()) : value.toString());
                    // the same dates come again in many columns
                    case DATE -> line.append(dates.computeIfAbsent(value, Object::toString));
                    case INTEGER -> line.append(((Integer) value).intValue());
                    case NUMBER -> line.append(((BigDecimal) value).toPlainString());
                    case BOOLEAN -> line.append(((Boolean) value).booleanValue());
                }
            }
            out.append(line).append('\n');
            if (dates.size() > MOST_DATES) {
                dates.clear();
            }
        }
    }
}
