package dev.mile.render.layout;

import java.io.IOException;
import java.util.List;

/** Writes lines of CSV: RFC 4180, but with LF between lines, as programs on Unix expect. */
public final class Csv {
    private Csv() {}

    public static void line(Appendable out, List<String> fields) throws IOException {
        for (int i = 0; i < fields.size(); i++) {
            if (i > 0) {
                out.append(',');
            }
            out.append(field(fields.get(i)));
        }
        out.append('\n');
    }

    /** Returns the field, in quotes where it needs them. */
    public static String field(String field) {
        boolean quote = false;
        for (int i = 0; i < field.length() && !quote; i++) {
            char c = field.charAt(i);
            quote = c == ',' || c == '"' || c == '\n' || c == '\r';
        }
        return quote ? '"' + field.replace("\"", "\"\"") + '"' : field;
    }

    /** Returns a text that no spreadsheet runs as a formula. */
    public static String neutralizeFormula(String text) {
        return !text.isEmpty() && "=+-@\t\r".indexOf(text.charAt(0)) >= 0 ? "'" + text : text;
    }
}
