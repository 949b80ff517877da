package dev.mile.sql.cache;

import dev.mile.engine.Engine;
import dev.mile.sql.files.FileFingerprint;
import java.util.List;
import java.util.Optional;

/** What a cache must know of the tables whose totals it keeps: whether their rows are still the same, and which were added. */
public interface CacheableTables {
    /**
     * {@return what the rows of a fact or lookup come from, now; empty where they may change without a trace}
     *
     * @param table the table
     */
    Optional<FileFingerprint> fingerprint(String table);

    /**
     * {@return whether rows may have been added to a fact in files of their own, which can be read alone}
     *
     * @param fact the fact
     */
    boolean growsByFiles(String fact);

    /**
     * Opens an engine over some of the files of a fact, by their fingerprints.
     *
     * @param fact the fact
     * @param files the files
     * @return the engine
     */
    Engine openFiles(String fact, List<String> files);
}
