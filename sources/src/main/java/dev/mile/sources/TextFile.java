package dev.mile.sources;

import static java.util.Objects.requireNonNull;

import de.siegmar.fastcsv.reader.CommentStrategy;
import de.siegmar.fastcsv.reader.CsvParseException;
import de.siegmar.fastcsv.reader.CsvReader;
import de.siegmar.fastcsv.reader.CsvRecord;
import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import dev.mile.engine.FileFormat;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;

/** Reads a text file with separators as a model says that it is written: one pass, a row at a time. */
public final class TextFile {
    private static final List<String> SEPARATORS = List.of(",", ";", "\t", "|");

    private TextFile() {}

    /**
     * Reads a file.
     *
     * @param file the file; packed where its name ends with .gz
     * @param format how it is written
     * @param sink where its rows go
     * @throws MileException if it cannot be read, has no header where the format says so, or holds bytes that are not of its encoding
     */
    public static void read(Path file, FileFormat format, RowSink sink) {
        requireNonNull(file, "file is null");
        requireNonNull(format, "format is null");
        requireNonNull(sink, "sink is null");
        TextEncoding encoding = TextEncoding.of(file, format.encoding());
        try (BufferedReader reader = new BufferedReader(encoding.open())) {
            skipLines(reader, format.header() - 1, file);
            String separator = format.separator().isPresent()
                    ? separator(format.separator().get())
                    : found(encoding, format.header());
            RowSink rows = format.unpivot()
                    .<RowSink>map(unpivot -> new UnpivotedRows(unpivot, sink))
                    .orElse(sink);
            read(reader, separator.charAt(0), format, file, rows);
        } catch (IOException | UncheckedIOException e) {
            throw encoding.failed(e);
        }
    }

    private static void skipLines(BufferedReader reader, int lines, Path file) throws IOException {
        for (int i = 0; i < lines; i++) {
            if (reader.readLine() == null) {
                throw DataException.of(
                        "the file %s has %d lines; `header: %d` says that the names stand in line %d",
                        file.getFileName(), i, lines + 1, lines + 1);
            }
        }
    }

    private static String separator(String said) {
        String sign = said.equals("tab") || said.equals("\\t") ? "\t" : said;
        if (sign.length() != 1) {
            throw ModelException.of("`separator` is '%s'; expected one character, such as \";\", or tab", said);
        }
        return sign;
    }

    /** Returns the sign between values: the one that the header has most of. */
    private static String found(TextEncoding encoding, int header) throws IOException {
        try (BufferedReader reader = new BufferedReader(encoding.open())) {
            String line = "";
            for (int i = 0; i < header && line != null; i++) {
                line = reader.readLine();
            }
            String names = String.valueOf(line);
            String best = ",";
            for (String sign : SEPARATORS) {
                best = count(names, sign) > count(names, best) ? sign : best;
            }
            return best;
        }
    }

    private static int count(String text, String sign) {
        return text.split(Pattern.quote(sign), -1).length;
    }

    private static void read(Reader reader, char separator, FileFormat format, Path file, RowSink sink) {
        List<String> names = null;
        long behind = 0;
        try (CsvReader<CsvRecord> records = CsvReader.builder()
                .fieldSeparator(separator)
                .commentStrategy(CommentStrategy.NONE)
                .skipEmptyLines(true)
                .ofCsvRecord(reader)) {
            for (CsvRecord record : records) {
                long line = record.getStartingLineNumber() + format.header() - 1;
                if (behind > 0 || names != null && isEnd(record.getFields(), format)) {
                    behind++;
                } else if (names == null) {
                    names = names(record.getFields(), file, line);
                    sink.columns(names);
                } else if (record.getFieldCount() != names.size()) {
                    sink.rejected(
                            line,
                            "expected " + names.size() + " values, as the header has, found " + record.getFieldCount());
                } else {
                    sink.row(record.getFields(), line);
                }
            }
        } catch (CsvParseException e) {
            throw DataException.of("the file %s cannot be read: %s", file.getFileName(), e.getMessage())
                    .withCause(e);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
        if (format.until().isPresent() && names != null) {
            if (behind == 0) {
                throw DataException.of(
                        "`until: %s` never comes in %s: no row has it in its first filled cell; take it away, or correct it",
                        format.until().get(), file.getFileName());
            }
            sink.behind(behind);
        }
        if (names == null) {
            throw DataException.of("the file %s is empty; expected a header and rows", file.getFileName());
        }
    }

    private static boolean isEnd(List<String> values, FileFormat format) {
        if (format.until().isEmpty()) {
            return false;
        }
        String end = format.until().get();
        String first = values.stream()
                .map(String::strip)
                .filter(value -> !value.isEmpty())
                .findFirst()
                .orElse("");
        return end.endsWith("*") ? first.startsWith(end.substring(0, end.length() - 1)) : first.equals(end);
    }

    private static List<String> names(List<String> header, Path file, long line) {
        List<String> names = new ArrayList<>();
        Set<String> seen = new LinkedHashSet<>();
        for (String text : header) {
            String name = text.isBlank() ? "column " + (names.size() + 1) : text.strip();
            if (!seen.add(name)) {
                throw DataException.of("two columns are named '%s'; names must differ", name)
                        .withLocation(SourceLocation.of(String.valueOf(file.getFileName()), (int) line));
            }
            names.add(name);
        }
        return names;
    }
}
