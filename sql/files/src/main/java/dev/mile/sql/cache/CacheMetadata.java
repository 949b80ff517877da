package dev.mile.sql.cache;

import dev.mile.engine.RoleAccounts;
import dev.mile.sql.files.FileFingerprint;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * What is noted with kept totals.
 *
 * @param about what was asked, in words
 * @param files the files that they are of, as {@link FileFingerprint#files} has them
 * @param groups how many groups there are
 * @param rows what became of the rows
 */
record CacheMetadata(String about, List<String> files, long groups, Map<RoleAccounts.RowOutcome, Long> rows) {
    /** Returns the notes as a text: what it is about, the files, the groups, then a line for each part of the rows. */
    String written() {
        List<String> lines = new ArrayList<>();
        lines.add(CacheFiles.line(List.of(about)));
        lines.add(CacheFiles.line(files));
        lines.add(Long.toString(groups));
        rows.forEach((part, count) -> lines.add(CacheFiles.line(List.of(part.name(), Long.toString(count)))));
        return String.join("\n", lines);
    }

    /** Returns the notes that a text has. */
    static CacheMetadata read(String text) {
        List<List<String>> lines = text.lines().map(CacheFiles::row).toList();
        Map<RoleAccounts.RowOutcome, Long> rows = new EnumMap<>(RoleAccounts.RowOutcome.class);
        lines.subList(3, lines.size())
                .forEach(row -> rows.put(RoleAccounts.RowOutcome.valueOf(row.get(0)), Long.valueOf(row.get(1))));
        return new CacheMetadata(
                lines.get(0).get(0), lines.get(1), Long.parseLong(lines.get(2).get(0)), rows);
    }
}
