package dev.mile.sql.cache;

import static java.util.Objects.requireNonNull;

import dev.mile.engine.DataSchema;
import dev.mile.engine.Engine;
import dev.mile.engine.Source;
import dev.mile.sql.files.DuckDbEngine;
import dev.mile.sql.files.FileFingerprint;
import dev.mile.sql.files.SourceFiles;
import java.util.List;
import java.util.Optional;

/** The tables of a schema that are files: they are the same as long as their files have the same size and time. */
public final class FileTables implements CacheableTables {
    private final DataSchema schema;

    /**
     * Returns the tables of a schema.
     *
     * @param schema the facts and lookups
     */
    public FileTables(DataSchema schema) {
        this.schema = requireNonNull(schema, "schema is null");
    }

    private Optional<String> pattern(String table) {
        return schema.source(table).filter(Source.Files.class::isInstance).map(source -> ((Source.Files) source)
                .pattern());
    }

    @Override
    public Optional<FileFingerprint> fingerprint(String table) {
        return pattern(table).filter(SourceFiles::there).map(pattern -> FileFingerprint.of(SourceFiles.of(pattern)));
    }

    @Override
    public boolean growsByFiles(String fact) {
        return pattern(fact).filter(pattern -> pattern.endsWith(".parquet")).isPresent();
    }

    @Override
    public Engine openFiles(String fact, List<String> files) {
        return DuckDbEngine.overFiles(
                schema, fact, files.stream().map(FileFingerprint::path).toList());
    }
}
