package dev.mile.sql.parquet;

import java.io.IOException;

/** A file has something that is not read here, or is not what its parts say: the database reads it, or says what is wrong with it. */
final class UnsupportedParquetException extends IOException {
    private static final long serialVersionUID = 1L;

    UnsupportedParquetException(String what) {
        super(what);
    }
}
