package dev.mile.render.excel;

import dev.mile.measure.NumberStyle;

/** Says the number formats of the JDK in those of spreadsheets. */
final class SheetFormat {
    private SheetFormat() {}

    /**
     * Returns the format of a spreadsheet: negative numbers in brackets, the scale as trailing commas.
     *
     * @param decimals whether numbers without a format of their own get two decimals
     */
    static String of(NumberStyle style, boolean decimals) {
        String standard = style.scale() != NumberStyle.Scale.ONE ? "#,##0.0" : decimals ? "#,##0.00" : "#,##0";
        String pattern = style.format().orElse(standard);
        String[] parts = pattern.split(";", 2);
        String positive = scaled(words(parts[0]), style.scale());
        if (parts.length > 1) {
            return positive + ";" + scaled(words(parts[1]), style.scale());
        }
        return positive + "_);(" + positive + ")";
    }

    /** Puts what is no part of a number in double quotes. */
    private static String words(String pattern) {
        StringBuilder out = new StringBuilder();
        StringBuilder words = new StringBuilder();
        boolean quoted = false;
        for (int i = 0; i < pattern.length(); i++) {
            char c = pattern.charAt(i);
            if (c == '\'') {
                boolean doubled = i + 1 < pattern.length() && pattern.charAt(i + 1) == '\'';
                words.append(doubled ? "'" : "");
                i += doubled ? 1 : 0;
                quoted = doubled == quoted;
            } else if (!quoted && "#0,.%E-+".indexOf(c) >= 0) {
                flush(words, out);
                out.append(c);
            } else {
                words.append(c);
            }
        }
        flush(words, out);
        return out.toString();
    }

    private static void flush(StringBuilder words, StringBuilder out) {
        if (!words.isEmpty()) {
            out.append('"').append(words.toString().replace("\"", "\"\"")).append('"');
            words.setLength(0);
        }
    }

    private static String scaled(String pattern, NumberStyle.Scale scale) {
        int last = Math.max(pattern.lastIndexOf('0'), pattern.lastIndexOf('#'));
        return pattern.substring(0, last + 1) + ",".repeat(scale.digits() / 3) + pattern.substring(last + 1);
    }
}
