package dev.mile.sql.cache;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.StoppedException;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalsCursor;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.duckdb.EmbeddedDatabase;
import dev.mile.sql.query.Cursor;
import dev.mile.sql.query.Database;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.sql.SQLException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import java.util.zip.CRC32C;
import org.duckdb.DuckDBAppender;

/**
 * A folder of answers that engines gave: totals as Parquet, a row for each group, and small tables as text. A file has its name
 * only when it is whole, so that several programs may read and write at once, and one that is killed leaves nothing half.
 */
public final class TotalsCache implements AutoCloseable {
    private static final String TOTALS = ".parquet";
    private static final String SMALL = ".txt";
    private static final String UNFINISHED = ".part";

    private static final String UNREADABLE = "damaged, or kept by another version";

    /** Groups whose totals are not worth a file: they would be read about as slowly as the sources. */
    private static final long MOST_DAYS = 50_000_000;

    /** No program writes so long at one answer. */
    private static final Duration LONGEST = Duration.ofDays(1);

    private final Path folder;
    private Database database;

    private TotalsCache(Path folder) {
        this.folder = folder;
    }

    /**
     * {@return the store in a folder, which is made when the first answer is kept}
     *
     * @param folder the folder
     */
    public static TotalsCache in(Path folder) {
        requireNonNull(folder, "folder is null");
        return new TotalsCache(folder);
    }

    /**
     * An answer in the store.
     *
     * @param about what was asked, in words
     * @param bytes the size of its file
     * @param file the file
     */
    public record Entry(String about, long bytes, Path file) {}

    /** {@return all totals in the store, by what they are about} */
    public List<Entry> list() {
        List<Entry> entries = new ArrayList<>();
        for (Path file : files("*" + TOTALS)) {
            try {
                entries.add(new Entry(about(file), Files.size(file), file));
            } catch (IOException | MileException e) {
                entries.add(new Entry(UNREADABLE, 0, file));
            }
        }
        entries.sort(Comparator.comparing(Entry::about).thenComparing(Entry::file));
        return entries;
    }

    private String about(Path file) {
        return database()
                .query(
                        "SELECT notes, crc FROM " + parquet(file) + " LIMIT 1",
                        row -> CacheMetadata.read(row.getString(1), row.getLong(2)))
                .stream()
                .findFirst()
                .flatMap(notes -> notes)
                .map(CacheMetadata::about)
                .orElse(UNREADABLE);
    }

    /**
     * Empties the store.
     *
     * @return the number of files
     * @throws MileException if a file cannot be deleted
     */
    public int clear() {
        List<Path> all = new ArrayList<>(files("*" + TOTALS));
        all.addAll(files("*" + SMALL));
        all.addAll(files("*" + UNFINISHED));
        for (Path file : all) {
            try {
                Files.deleteIfExists(file);
            } catch (IOException e) {
                throw DataException.of("the stored answer %s cannot be deleted: %s", file, e.getMessage())
                        .withCause(e);
            }
        }
        return all.size();
    }

    private List<Path> files(String pattern) {
        List<Path> found = new ArrayList<>();
        if (Files.isDirectory(folder)) {
            try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, pattern)) {
                files.forEach(found::add);
            } catch (IOException e) {
                throw DataException.of("the folder %s cannot be read: %s", folder, e.getMessage())
                        .withCause(e);
            }
        }
        return found;
    }

    private synchronized Database database() {
        if (database == null) {
            database = EmbeddedDatabase.shared();
        }
        return database;
    }

    // ---- small answers

    /** Returns a small table; empty where it is not there. */
    Optional<List<List<String>>> small(String name) {
        Path file = folder.resolve(name + SMALL);
        try {
            if (!Files.isRegularFile(file)) {
                return Optional.empty();
            }
            List<String> lines = Files.readAllLines(file, StandardCharsets.UTF_8);
            int last = lines.size() - 1;
            if (last < 0 || !lines.get(last).equals(sum(lines.subList(0, last)))) {
                Files.deleteIfExists(file);
                return Optional.empty();
            }
            List<List<String>> rows = new ArrayList<>();
            lines.subList(0, last).forEach(line -> rows.add(CacheFiles.row(line)));
            return Optional.of(rows);
        } catch (IOException e) {
            return Optional.empty();
        }
    }

    /**
     * Keeps a small table.
     *
     * @throws IOException if it cannot be written
     */
    void keep(String name, List<List<String>> rows) throws IOException {
        List<String> lines = new ArrayList<>();
        rows.forEach(row -> lines.add(CacheFiles.line(row)));
        lines.add(sum(lines));
        write(name + SMALL, unfinished -> Files.write(unfinished, lines, StandardCharsets.UTF_8));
    }

    private static String sum(List<String> lines) {
        CRC32C sum = new CRC32C();
        lines.forEach(line -> sum.update((line + "\n").getBytes(StandardCharsets.UTF_8)));
        return HexFormat.of().toHexDigits((int) sum.getValue());
    }

    // ---- totals

    /** Returns the totals of the name, to be read; empty where there are none that can be read. */
    Optional<CachedTotalsCursor> totals(String name, int groups, int columns) {
        Path file = folder.resolve(name + TOTALS);
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        try {
            // rows are in the file as they were written, groups in order
            Cursor cursor = database().open("SELECT * FROM " + parquet(file));
            return Optional.of(new CachedTotalsCursor(file, cursor, groups, columns));
        } catch (MileException e) {
            CacheFiles.delete(file);
            return Optional.empty();
        }
    }

    private static String parquet(Path file) {
        return "read_parquet(" + Sql.text(file.toString()) + ")";
    }

    /**
     * Returns the totals, which are kept as they are handed out, if all of them are.
     *
     * @param name what they are kept as
     * @param about what they are, in words
     * @param files the files that they are of
     * @param listener decides at the end whether they are kept, and receives the reason if they cannot be
     */
    TotalsCursor keeping(
            TotalsCursor totals, String name, int groups, String about, List<String> files, Listener listener) {
        return new CacheWritingCursor(totals, name, groups, about, files, listener);
    }

    /** Watches over what is kept. */
    interface Listener {
        /** Returns whether the totals, read to the end, are to be kept. */
        boolean shouldKeep();

        /** Receives the reason why totals cannot be kept. */
        void failed(String why);
    }

    private final class CacheWritingCursor implements TotalsCursor {
        private final TotalsCursor totals;
        private final String name;
        private final int groups;
        private final String about;
        private final List<String> files;
        private final Listener listener;
        private final String table = Sql.name("totals " + UUID.randomUUID());
        private EmbeddedDatabase own;
        private DuckDBAppender appender;
        private boolean given;
        private long size;
        private long days;

        CacheWritingCursor(
                TotalsCursor totals, String name, int groups, String about, List<String> files, Listener listener) {
            this.totals = totals;
            this.name = name;
            this.groups = groups;
            this.about = about;
            this.files = files;
            this.listener = listener;
        }

        @Override
        public GroupTotals next() {
            GroupTotals group = totals.next();
            if (given) {
                return group;
            }
            try {
                if (group != null) {
                    append(group);
                } else {
                    end();
                }
            } catch (StoppedException e) {
                giveUp(null);
                throw e;
            } catch (IOException e) {
                giveUp(words(e));
            } catch (SQLException | MileException e) {
                giveUp(e.getMessage());
            }
            return group;
        }

        private void append(GroupTotals group) throws SQLException {
            begin(group.values().length);
            size++;
            days += group.days().length;
            if (days > MOST_DAYS) {
                giveUp(null);
                return;
            }
            CRC32C sum = new CRC32C();
            appender.beginRow();
            for (String member : group.members()) {
                sum.update(String.valueOf(member).getBytes(StandardCharsets.UTF_8));
                if (member == null) {
                    appender.appendNull();
                } else {
                    appender.append(member);
                }
            }
            append(TotalsCodec.days(group.days()), sum);
            for (int c = 0; c < group.values().length; c++) {
                int same = 0;
                while (group.values()[same] != group.values()[c]) {
                    same++;
                }
                append(same < c ? TotalsCodec.same(same) : TotalsCodec.values(group.values()[c]), sum);
            }
            appender.append(sum.getValue());
            appender.endRow();
        }

        private void append(byte[] bytes, CRC32C sum) throws SQLException {
            sum.update(bytes);
            appender.append(bytes);
        }

        private void begin(int columns) throws SQLException {
            if (appender != null) {
                return;
            }
            List<String> all = new ArrayList<>();
            for (int g = 0; g < groups; g++) {
                all.add("g" + g + " VARCHAR");
            }
            all.add("days BLOB");
            for (int c = 0; c < columns; c++) {
                all.add("c" + c + " BLOB");
            }
            all.add("crc BIGINT");
            own = EmbeddedDatabase.shared();
            own.run("CREATE TABLE " + table + " (" + String.join(", ", all) + ")");
            appender = own.appender(table.substring(1, table.length() - 1));
        }

        private void end() throws SQLException, IOException {
            given = true;
            if (appender == null || !listener.shouldKeep()) {
                drop();
                return;
            }
            appender.close();
            String notes = new CacheMetadata(about, files, size, totals.rowOutcomes()).written();
            String first = "SELECT " + Sql.text(notes) + " AS notes, " + CacheMetadata.sum(notes) + " AS crc";
            write(name + TOTALS, unfinished -> database()
                    .write("COPY (" + first + " UNION ALL BY NAME SELECT * FROM " + table + ") TO "
                            + Sql.text(unfinished.toString()) + " (FORMAT PARQUET, COMPRESSION UNCOMPRESSED)"));
            drop();
        }

        private void giveUp(String why) {
            given = true;
            drop();
            if (why != null) {
                listener.failed(why);
            }
        }

        private void drop() {
            if (own != null) {
                own.drop(table);
                own.close();
                own = null;
                appender = null;
            }
        }

        @Override
        public Map<RoleAccounts.RowOutcome, Long> rowOutcomes() {
            return totals.rowOutcomes();
        }

        @Override
        public double progress() {
            return totals.progress();
        }

        @Override
        public void close() {
            if (!given) {
                giveUp(null);
            }
            totals.close();
        }
    }

    // ---- files

    /** Returns what is wrong with a file in words; Java's own message is no more than its name. */
    static String words(IOException e) {
        return e instanceof AccessDeniedException
                ? "no permission for " + e.getMessage()
                : e instanceof NoSuchFileException ? e.getMessage() + " cannot be made there" : e.getMessage();
    }

    /** Writes a file under another name until it is whole. */
    private interface Writing {
        void to(Path unfinished) throws IOException;
    }

    private void write(String name, Writing writing) throws IOException {
        Files.createDirectories(folder);
        Path unfinished = folder.resolve(name + "." + UUID.randomUUID() + UNFINISHED);
        try {
            writing.to(unfinished);
            clearBefore(Files.getLastModifiedTime(unfinished).toInstant().minus(LONGEST));
            Files.move(
                    unfinished,
                    folder.resolve(name),
                    StandardCopyOption.ATOMIC_MOVE,
                    StandardCopyOption.REPLACE_EXISTING);
        } finally {
            Files.deleteIfExists(unfinished);
        }
    }

    /** Deletes what programs that were killed have left unfinished. */
    private void clearBefore(Instant time) throws IOException {
        for (Path left : files("*" + UNFINISHED)) {
            try {
                if (Files.getLastModifiedTime(left).toInstant().isBefore(time)) {
                    Files.deleteIfExists(left);
                }
            } catch (NoSuchFileException e) {
                // another program has finished it, or cleared it away
            }
        }
    }

    @Override
    public void close() {
        if (database != null) {
            database.close();
        }
    }
}
