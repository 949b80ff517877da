package dev.mile.sources;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.SourceLocation;
import dev.mile.engine.FileFormat;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/** Finds the table in the lines of a file: its names, its rows, and where it ends. Used for one file. */
final class TableRows {
    /** Each column is looked at to find its type. */
    static final int MAX_COLUMNS = 1_000;

    private final Path file;
    private final FileFormat format;
    private final RowSink sink;
    private List<String> names = List.of();
    private long afterEnd;

    TableRows(Path file, FileFormat format, RowSink sink) {
        this.file = file;
        this.format = format;
        this.sink = sink;
    }

    /** Returns the name of a column without one, counted from 0. */
    static String unnamed(int column) {
        return "column " + (column + 1);
    }

    static MileException tooWide(int columns, Path file) {
        return DataException.of(
                        "the file has %,d columns; at most %,d are read: leave out those that nobody needs",
                        columns, MAX_COLUMNS)
                .withLocation(SourceLocation.of(String.valueOf(file.getFileName())));
    }

    /** Returns the names of the columns; none before the header. */
    List<String> names() {
        return names;
    }

    /**
     * Takes the line of the names.
     *
     * @param place where it is, for messages
     */
    void header(List<String> header, String place) {
        if (header.size() > MAX_COLUMNS) {
            throw tooWide(header.size(), file);
        }
        List<String> found = new ArrayList<>();
        Set<String> seen = new LinkedHashSet<>();
        for (String text : header) {
            String name = text.isBlank() ? unnamed(found.size()) : text.strip();
            if (!seen.add(name)) {
                throw DataException.of("two columns are named '%s'; names must differ", name)
                        .withLocation(SourceLocation.of(place));
            }
            found.add(name);
        }
        names = found;
        sink.columns(names);
    }

    /** Returns whether the line with these values comes after the end of the table. */
    boolean isAfterEnd(List<String> values) {
        if (afterEnd > 0 || isEnd(values)) {
            afterEnd++;
            return true;
        }
        return false;
    }

    private boolean isEnd(List<String> values) {
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

    /** Ends the file. */
    void end() {
        if (names.isEmpty()) {
            throw DataException.of("the file %s is empty; expected a header and rows", file.getFileName());
        }
        if (format.until().isPresent()) {
            if (afterEnd == 0) {
                throw DataException.of(
                        "`until: %s` never comes in %s: no row has it in its first filled cell; correct it, or remove it",
                        format.until().get(), file.getFileName());
            }
            sink.afterEnd(afterEnd);
        }
    }
}
