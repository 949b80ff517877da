package dev.mile.sources;

import static java.util.Objects.requireNonNull;

import dev.mile.engine.FileFormat;
import java.nio.file.Path;

/** Reads rows from somewhere; may do so more than once. */
public interface RowReader {
    /** {@return where from, for messages: the name of a file} */
    String name();

    /**
     * Reads them, on whatever thread it is called.
     *
     * @param sink where they go
     */
    void read(RowSink sink);

    /**
     * {@return a reader of the rows of a file}
     *
     * @param file a text with separators, or a workbook
     * @param format how it is written
     */
    static RowReader of(Path file, FileFormat format) {
        requireNonNull(file, "file is null");
        requireNonNull(format, "format is null");
        return new RowReader() {
            @Override
            public String name() {
                return String.valueOf(file.getFileName());
            }

            @Override
            public void read(RowSink sink) {
                SourceFile.read(file, format, sink);
            }
        };
    }

    /**
     * {@return a reader of these rows in which columns became rows}
     *
     * @param columns which columns
     */
    default RowReader unpivoted(FileFormat.Unpivot columns) {
        requireNonNull(columns, "columns is null");
        RowReader wide = this;
        return new RowReader() {
            @Override
            public String name() {
                return wide.name();
            }

            @Override
            public void read(RowSink sink) {
                wide.read(new UnpivotedRows(columns, sink));
            }
        };
    }
}
