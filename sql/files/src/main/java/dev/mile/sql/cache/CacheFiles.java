package dev.mile.sql.cache;

import dev.mile.DataException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** How kept answers are written in lines of text, and files taken away. */
final class CacheFiles {
    private CacheFiles() {}

    /** Returns the texts, or blanks, in one line. */
    static String line(List<String> row) {
        return String.join(
                "\t", row.stream().map(v -> v == null ? "\\0" : escaped(v)).toList());
    }

    /** Returns the texts, or blanks, that a line has. */
    static List<String> row(String line) {
        boolean plain = line.indexOf('\\') < 0;
        List<String> row = new ArrayList<>();
        for (int begin = 0; begin <= line.length(); ) {
            int tab = line.indexOf('\t', begin);
            int end = tab < 0 ? line.length() : tab;
            String value = line.substring(begin, end);
            row.add(plain ? value : value.equals("\\0") ? null : unescaped(value));
            begin = end + 1;
        }
        return row;
    }

    private static String escaped(String text) {
        return text.replace("\\", "\\\\")
                .replace("\t", "\\t")
                .replace("\n", "\\n")
                .replace("\r", "\\r");
    }

    private static String unescaped(String text) {
        StringBuilder plain = new StringBuilder();
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            if (c != '\\') {
                plain.append(c);
                continue;
            }
            char next = text.charAt(++i);
            plain.append(next == 't' ? '\t' : next == 'n' ? '\n' : next == 'r' ? '\r' : next);
        }
        return plain.toString();
    }

    static void delete(Path file) {
        try {
            Files.deleteIfExists(file);
        } catch (IOException e) {
            throw DataException.of("the stored answer %s cannot be deleted: %s", file, e.getMessage())
                    .withCause(e);
        }
    }
}
