package dev.mile.sources;

import de.siegmar.fastcsv.reader.CommentStrategy;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import dev.mile.DataException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import dev.mile.engine.FileFormat;
import dev.mile.internal.OpenQuotes;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.List;
import java.util.OptionalInt;
import java.util.regex.Pattern;

/** Reads a text file with separators. */
final class TextFile {
    private static final List<String> SEPARATORS = List.of(",", ";", "\t", "|");

    private TextFile() {}

    /** A row, and the line on which it begins, from 1. */
    private record TextRow(List<String> values, String file, long line) implements SourceRow {
        @Override
        public int size() {
            return values.size();
        }

        @Override
        public String value(int column) {
            return values.get(column);
        }

        @Override
        public boolean isTyped(int column) {
            return false;
        }

        @Override
        public String place(int column) {
            return file + ":" + line;
        }
    }

    static void read(Path file, FileFormat format, RowSink sink) {
        char separator = separator(file, format);
        TextEncoding encoding = TextEncoding.of(file, format.encoding());
        try (BufferedReader reader = new BufferedReader(encoding.open())) {
            skipLines(reader, format.header() - 1, file);
            if (read(reader, separator, format, file, sink)) {
                checkQuotes(file, encoding, separator);
            }
        } catch (IOException | UncheckedIOException e) {
            throw encoding.failed(e);
        }
    }

    /** The last row holds line breaks: these are its own, or the rest of the file is behind quotes that are not closed. */
    private static void checkQuotes(Path file, TextEncoding encoding, char separator) throws IOException {
        OptionalInt opened;
        try (BufferedReader text = new BufferedReader(encoding.open())) {
            opened = OpenQuotes.line(text, separator);
        }
        if (opened.isPresent()) {
            throw DataException.of("the quotes that open in this line are not closed; write a quote in a text twice")
                    .withLocation(SourceLocation.of(String.valueOf(file.getFileName()), opened.getAsInt()));
        }
    }

    private static void skipLines(BufferedReader reader, int lines, Path file) throws IOException {
        for (int i = 0; i < lines; i++) {
            if (reader.readLine() == null) {
                throw DataException.of(
                        "the file %s has %d lines; `header: %d` puts the names in line %d",
                        file.getFileName(), i, lines + 1, lines + 1);
            }
        }
    }

    static char separator(Path file, FileFormat format) {
        if (format.separator().isPresent()) {
            String said = format.separator().get();
            String sign = said.equals("tab") || said.equals("\\t") ? "\t" : said;
            if (sign.length() != 1) {
                throw ModelException.of("`separator` is '%s'; expected one character, such as \";\", or tab", said);
            }
            return sign.charAt(0);
        }
        TextEncoding encoding = TextEncoding.of(file, format.encoding());
        try (BufferedReader reader = new BufferedReader(encoding.open())) {
            String line = "";
            for (int i = 0; i < format.header() && line != null; i++) {
                line = reader.readLine();
            }
            String names = String.valueOf(line);
            if (names.indexOf('\0') >= 0) {
                throw DataException.of("the file is no text: its first line holds bytes that no text has")
                        .withLocation(SourceLocation.of(String.valueOf(file.getFileName())));
            }
            String best = ",";
            for (String sign : SEPARATORS) {
                best = count(names, sign) > count(names, best) ? sign : best;
            }
            if (count(names, best) > TableRows.MAX_COLUMNS) {
                throw TableRows.tooWide(count(names, best), file);
            }
            return best.charAt(0);
        } catch (IOException e) {
            throw encoding.failed(e);
        }
    }

    private static int count(String text, String sign) {
        return text.split(Pattern.quote(sign), -1).length;
    }

    /** Reads the rows; returns whether the last of them holds a line break. */
    private static boolean read(Reader reader, char separator, FileFormat format, Path file, RowSink sink) {
        boolean hasLineBreak = false;
        TableRows table = new TableRows(file, format, sink);
        String name = String.valueOf(file.getFileName());
        try (CsvReader<CsvRecord> records = CsvReader.builder()
                .fieldSeparator(separator)
                .commentStrategy(CommentStrategy.NONE)
                .skipEmptyLines(true)
                .ofCsvRecord(reader)) {
            for (CsvRecord record : records) {
                long line = record.getStartingLineNumber() + format.header() - 1;
                int columns = table.names().size();
                hasLineBreak = record.getFields().stream().anyMatch(value -> value.indexOf('\n') >= 0);
                if (columns == 0) {
                    table.header(record.getFields(), name + ":" + line);
                } else if (table.isAfterEnd(record.getFields())) {
                    continue;
                } else if (record.getFieldCount() != columns) {
                    sink.rejected(
                            name + ":" + line,
                            "expected " + columns + " values, as the header has, found " + record.getFieldCount()
                                    + (hasLineBreak
                                            ? "; quotes that open in it close in another line, or not at all"
                                            : ""));
                } else {
                    sink.row(new TextRow(record.getFields(), name, line));
                }
            }
        } catch (CsvParseException e) {
            throw DataException.of("the file %s cannot be read: %s", name, e.getMessage())
                    .withCause(e);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        table.end();
        return hasLineBreak;
    }
}
