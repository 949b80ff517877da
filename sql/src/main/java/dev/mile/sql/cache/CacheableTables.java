package dev.mile.sql.cache;

import dev.mile.engine.Engine;
import dev.mile.sql.files.FileFingerprint;
import java.util.List;
import java.util.Optional;

/** What a cache must know of the tables whose totals it keeps: whether their rows are still the same, and which were added. */
public interface CacheableTables {
    /** Returns what the rows of a fact or lookup come from, now; empty where they may change without a trace. */
    Optional<FileFingerprint> fingerprint(String table);

    /** Returns whether rows may have been added to a fact in files of their own, which can be read alone. */
    boolean growsByFiles(String fact);

    /** Opens an engine over some of the files of a fact, by their fingerprints. */
    Engine openFiles(String fact, List<String> files);
}
