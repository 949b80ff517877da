package dev.mile;

import static java.util.Objects.requireNonNull;

import java.io.Serializable;
import java.util.OptionalInt;

/**
 * A place in a file: {@code mile.yaml:12:5}, {@code ends.csv:3}, {@code sales.csv}. Lines and columns count from 1.
 *
 * <p>Immutable and safe for use by several threads.
 */
public final class SourceLocation implements Serializable {
    private static final long serialVersionUID = 1L;

    private final String file;
    /** From 1; 0 for the file as a whole. */
    private final int line;

    /** From 1; 0 for the line as a whole. */
    private final int column;

    private SourceLocation(String file, int line, int column) {
        this.file = requireNonNull(file, "file is null");
        this.line = line;
        this.column = column;
    }

    private static int positive(int number, String what) {
        if (number < 1) {
            throw new IllegalArgumentException(what + " is " + number + "; expected 1 or more");
        }
        return number;
    }

    /**
     * {@return a file as a whole}
     *
     * @param file the file, as messages name it
     */
    public static SourceLocation of(String file) {
        requireNonNull(file, "file is null");
        return new SourceLocation(file, 0, 0);
    }

    /**
     * {@return a line of a file}
     *
     * @param file the file, as messages name it
     * @param line from 1
     */
    public static SourceLocation of(String file, int line) {
        requireNonNull(file, "file is null");
        return new SourceLocation(file, positive(line, "line"), 0);
    }

    /**
     * {@return a column of a line of a file}
     *
     * @param file the file, as messages name it
     * @param line from 1
     * @param column from 1
     */
    public static SourceLocation of(String file, int line, int column) {
        requireNonNull(file, "file is null");
        return new SourceLocation(file, positive(line, "line"), positive(column, "column"));
    }

    /** {@return the file} */
    public String file() {
        return file;
    }

    /** {@return the line, from 1; empty for the file as a whole} */
    public OptionalInt line() {
        return line == 0 ? OptionalInt.empty() : OptionalInt.of(line);
    }

    /** {@return the column, from 1; empty for the line as a whole} */
    public OptionalInt column() {
        return column == 0 ? OptionalInt.empty() : OptionalInt.of(column);
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof SourceLocation l && l.toString().equals(toString());
    }

    @Override
    public int hashCode() {
        return toString().hashCode();
    }

    /** Returns the file, the line and the column, separated by colons. */
    @Override
    public String toString() {
        return file + (line == 0 ? "" : ":" + line) + (column == 0 ? "" : ":" + column);
    }
}
