package dev.mile.sql.cache;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Instant;
import java.util.List;
import java.util.Optional;

/**
 * What a store notes beside kept totals. When they were last used is the time at which their file was last changed.
 *
 * @param project the project that they were computed for
 * @param about what they are, in words
 * @param kept when they were kept
 * @param hits how often they were used since
 */
record CacheUse(String project, String about, Instant kept, long hits) {
    static final String ENDING = ".use";

    /** Returns what is noted in a file; empty where that cannot be read. */
    static Optional<CacheUse> read(Path file) {
        try {
            List<String> row = CacheFiles.row(Files.readString(file).stripTrailing());
            return row.size() == 4
                    ? Optional.of(new CacheUse(
                            row.get(0),
                            row.get(1),
                            Instant.ofEpochMilli(Long.parseLong(row.get(2))),
                            Long.parseLong(row.get(3))))
                    : Optional.empty();
        } catch (IOException | NumberFormatException e) {
            return Optional.empty();
        }
    }

    CacheUse again() {
        return new CacheUse(project, about, kept, hits + 1);
    }

    String written() {
        return CacheFiles.line(List.of(project, about, Long.toString(kept.toEpochMilli()), Long.toString(hits))) + "\n";
    }

    /** Returns when a file was last used: now, where a clock that was wrong says later. */
    static Instant lastUsed(Path file) throws IOException {
        Instant time = Files.getLastModifiedTime(file).toInstant();
        Instant now = Instant.now();
        return time.isAfter(now) ? now : time;
    }

    /** Notes that a file is used now. */
    static void touch(Path file) throws IOException {
        Files.setLastModifiedTime(file, FileTime.from(Instant.now()));
    }
}
