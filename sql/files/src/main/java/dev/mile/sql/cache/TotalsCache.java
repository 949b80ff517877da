package dev.mile.sql.cache;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.StoppedException;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalsCursor;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.DirectoryStream;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.ThreadLocalRandom;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import java.util.zip.CRC32C;
import org.jspecify.annotations.Nullable;

/**
 * A folder of answers that engines gave: totals in a file of their own, and small tables as text. A file has its name
 * only when it is whole, so that several programs may read and write at once, and one that is killed leaves nothing half.
 */
public final class TotalsCache {
    private static final String TOTALS = ".totals";
    private static final String SMALL = ".txt";

    /** Totals of earlier versions, which no version that is newer reads. */
    private static final String EARLIER = ".parquet";

    private static final String UNFINISHED = ".part";

    private static final int PREFIX = 12;

    /** What the names of answers begin with; other files of the folder are somebody's own. */
    private static final Pattern ANSWER = Pattern.compile("[0-9a-f]{" + PREFIX + "}-[0-9a-f]{40}\\..*");

    /** The characters of a check sum. */
    private static final int SUM_LENGTH = 8;

    private static final String UNREADABLE = "damaged, or kept by another version";

    /** Groups whose totals are not worth a file: they would be read about as slowly as the sources. */
    private static final long MOST_DAYS = 50_000_000;

    /** No program writes so long at one answer. */
    private static final Duration LONGEST = Duration.ofDays(1);

    /** What was used so lately may be in use. */
    private static final Duration IN_USE = Duration.ofMinutes(10);

    private final Path folder;
    private final CacheLimits limits;
    private final String project;
    /** What the names of the answers for the project begin with; null until the first is looked for. */
    private @Nullable String prefix;

    private TotalsCache(Path folder, CacheLimits limits, String project) {
        this.folder = folder;
        this.limits = limits;
        this.project = project;
    }

    /**
     * {@return the store in a folder, which is made when the first answer is kept}
     *
     * @param folder the folder
     */
    public static TotalsCache in(Path folder) {
        return in(folder, CacheLimits.DEFAULT);
    }

    /**
     * {@return the store in a folder, which is made when the first answer is kept}
     *
     * @param folder the folder
     * @param limits how much it keeps
     */
    public static TotalsCache in(Path folder, CacheLimits limits) {
        requireNonNull(folder, "folder is null");
        requireNonNull(limits, "limits is null");
        return new TotalsCache(folder, limits, "");
    }

    /**
     * {@return the same store for the answers of a project}
     *
     * @param name the name of the project
     */
    public TotalsCache ofProject(String name) {
        return new TotalsCache(folder, limits, requireNonNull(name, "name is null"));
    }

    /**
     * An answer in the store.
     *
     * @param project the project that it was computed for; empty where that is not known
     * @param about what was asked, in words
     * @param bytes the size of its file
     * @param kept when it was kept
     * @param lastUsed when it was used last
     * @param hits how often it was used since it was kept
     * @param file the file
     */
    public record Entry(
            String project, String about, long bytes, Instant kept, Instant lastUsed, long hits, Path file) {}

    /** {@return all totals in the store, by project and by what they are about} */
    public List<Entry> list() {
        List<Entry> entries = new ArrayList<>();
        for (Path file : files("*" + TOTALS)) {
            entry(file).ifPresent(entries::add);
        }
        entries.sort(
                Comparator.comparing(Entry::project).thenComparing(Entry::about).thenComparing(Entry::file));
        return entries;
    }

    private static Optional<Entry> entry(Path file) {
        try {
            long bytes = Files.size(file);
            Instant used = CacheUse.lastUsed(file);
            return Optional.of(CacheUse.read(besides(file))
                    .map(use -> new Entry(use.project(), use.about(), bytes, use.kept(), used, use.hits(), file))
                    .orElseGet(() -> new Entry("", UNREADABLE, bytes, used, used, 0, file)));
        } catch (IOException e) {
            // another program has deleted it
            return Optional.empty();
        }
    }

    /** Returns the file of what is noted beside totals. */
    private static Path besides(Path totals) {
        String name = totals.getFileName().toString();
        return totals.resolveSibling(name.substring(0, name.length() - TOTALS.length()) + CacheUse.ENDING);
    }

    /**
     * Empties the store.
     *
     * @return the number of answers
     * @throws MileException if a file cannot be deleted
     */
    public int clear() {
        int answers = delete(files("*" + TOTALS)) + delete(files("*" + SMALL)) + delete(files("*" + EARLIER));
        delete(files("*" + CacheUse.ENDING));
        delete(files("*" + UNFINISHED));
        return answers;
    }

    /**
     * Deletes the answers for a project.
     *
     * @param name the name of the project
     * @return the number of answers
     * @throws MileException if a file cannot be deleted
     */
    public int clear(String name) {
        String prefix = prefix(requireNonNull(name, "name is null"));
        int answers = delete(files(prefix + "*" + TOTALS)) + delete(files(prefix + "*" + SMALL));
        delete(files(prefix + "*" + CacheUse.ENDING));
        return answers;
    }

    /**
     * Deletes the answers that nobody has used for a while.
     *
     * @param age how long
     * @return the number of answers
     * @throws MileException if a file cannot be deleted
     */
    public int clearUnused(Duration age) {
        Instant before = Instant.now().minus(requireNonNull(age, "age is null"));
        List<Path> old = new ArrayList<>();
        for (Answer answer : answers()) {
            if (answer.lastUsed().isBefore(before)) {
                old.add(answer.file());
            }
        }
        return deleteAnswers(old);
    }

    /** The file of an answer, totals or small. */
    private record Answer(Path file, long bytes, Instant lastUsed) {}

    private List<Answer> answers() {
        List<Path> all = new ArrayList<>(files("*" + TOTALS));
        all.addAll(files("*" + SMALL));
        List<Answer> answers = new ArrayList<>();
        for (Path file : all) {
            try {
                answers.add(new Answer(file, Files.size(file), CacheUse.lastUsed(file)));
            } catch (IOException e) {
                // another program has deleted it
            }
        }
        return answers;
    }

    /** Deletes what nobody has used for long, and then what was used longest ago, until the store is as small as it should be. */
    private void makeRoom() {
        try {
            delete(files("*" + EARLIER));
            clearUnused(limits.unused());
            deleteAnswers(tooMany());
        } catch (MileException e) {
            // what another user keeps stays
        }
    }

    private List<Path> tooMany() {
        List<Answer> answers = new ArrayList<>(answers());
        answers.sort(Comparator.comparing(Answer::lastUsed).thenComparing(Answer::file));
        long bytes = answers.stream().mapToLong(Answer::bytes).sum();
        Instant inUse = Instant.now().minus(IN_USE);
        List<Path> old = new ArrayList<>();
        for (Answer answer : answers) {
            if (bytes > limits.bytes() && answer.lastUsed().isBefore(inUse)) {
                old.add(answer.file());
                bytes -= answer.bytes();
            }
        }
        return old;
    }

    private static int deleteAnswers(List<Path> answers) {
        delete(answers.stream()
                .filter(file -> file.toString().endsWith(TOTALS))
                .map(TotalsCache::besides)
                .toList());
        return delete(answers);
    }

    private static int delete(List<Path> files) {
        files.forEach(CacheFiles::delete);
        return files.size();
    }

    /** Returns what the names of the answers for a project begin with. */
    private static String prefix(String project) {
        return new CacheKey().add(project).name().substring(0, PREFIX) + "-";
    }

    private Path file(String name, String ending) {
        String begin = prefix == null ? prefix(project) : prefix;
        prefix = begin;
        return folder.resolve(begin + name + ending);
    }

    private List<Path> files(String pattern) {
        List<Path> found = new ArrayList<>();
        if (Files.isDirectory(folder)) {
            try (DirectoryStream<Path> files = Files.newDirectoryStream(folder, pattern)) {
                for (Path file : files) {
                    if (ANSWER.matcher(file.getFileName().toString()).matches()) {
                        found.add(file);
                    }
                }
            } catch (IOException e) {
                throw DataException.of("the folder %s cannot be read: %s", folder, e.getMessage())
                        .withCause(e);
            }
        }
        return found;
    }

    // ---- small answers

    /**
     * Returns the rows of a key: those that are kept, or else those that are computed now, which are kept for the next time.
     *
     * @param key all that the rows depend on, but for the version of Mile and of Java
     * @param compute computes them
     * @return the rows, as they were computed
     */
    public List<List<String>> rows(List<String> key, Supplier<List<List<String>>> compute) {
        String name = new CacheKey()
                .add(CachingEngine.VERSION)
                .add(System.getProperty("java.version"))
                .add(key)
                .name();
        return small(name).orElseGet(() -> {
            List<List<String>> rows = compute.get();
            try {
                keep(name, rows);
            } catch (IOException e) {
                // the engine says why nothing can be kept
            }
            return rows;
        });
    }

    /** Returns a small table; empty where it is not there. */
    Optional<List<List<String>>> small(String name) {
        Path file = file(name, SMALL);
        try {
            if (!Files.isRegularFile(file)) {
                return Optional.empty();
            }
            String text = Files.readString(file);
            int sum = text.length() - SUM_LENGTH - 1;
            if (sum < 0 || !text.substring(sum).equals(sum(text.substring(0, sum)) + "\n")) {
                Files.deleteIfExists(file);
                return Optional.empty();
            }
            List<List<String>> rows = new ArrayList<>();
            for (int begin = 0; begin < sum; ) {
                int end = text.indexOf('\n', begin);
                rows.add(CacheFiles.row(text.substring(begin, end)));
                begin = end + 1;
            }
            touch(file);
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
        StringBuilder lines = new StringBuilder();
        rows.forEach(row -> lines.append(CacheFiles.line(row)).append('\n'));
        String text = lines.toString();
        write(file(name, SMALL), unfinished -> Files.writeString(unfinished, text + sum(text) + "\n"));
    }

    private static String sum(String lines) {
        CRC32C sum = new CRC32C();
        sum.update(lines.getBytes(StandardCharsets.UTF_8));
        return HexFormat.of().toHexDigits((int) sum.getValue());
    }

    // ---- totals

    /** Returns the totals of the name, to be read; empty where there are none that can be read. */
    Optional<CachedTotalsCursor> totals(String name, int groups, int columns) {
        Path file = file(name, TOTALS);
        if (!Files.isRegularFile(file)) {
            return Optional.empty();
        }
        try {
            return Optional.of(new CachedTotalsCursor(file, groups, columns));
        } catch (IOException | DataException e) {
            // another program has deleted it, or it was damaged
            return Optional.empty();
        }
    }

    /** Notes that the totals of the name are used once more. */
    void used(String name) {
        Path file = file(name, TOTALS);
        touch(file);
        CacheUse.read(besides(file)).ifPresent(use -> {
            try {
                note(file, use.again());
            } catch (IOException e) {
                // they are used all the same
            }
        });
    }

    private static void touch(Path file) {
        try {
            CacheUse.touch(file);
        } catch (IOException e) {
            // it is used all the same: the store may be one that others keep
        }
    }

    private void note(Path totals, CacheUse use) throws IOException {
        write(besides(totals), unfinished -> Files.writeString(unfinished, use.written()));
    }

    /**
     * Returns the totals, which are kept as they are handed out, if all of them are.
     *
     * @param name what they are kept as
     * @param about what they are, in words
     * @param files the files that they are of
     * @param listener decides at the beginning and at the end whether they are kept, and receives the reason if they cannot be
     */
    TotalsCursor keeping(
            TotalsCursor totals, String name, int groups, String about, List<String> files, Listener listener) {
        return new CacheWritingCursor(totals, name, groups, about, files, listener);
    }

    /** Watches over what is kept. */
    interface Listener {
        /** Returns whether the totals are to be kept. */
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
        private @Nullable Path unfinished;
        private @Nullable TotalsWriter writer;
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
            }
            return group;
        }

        private void append(GroupTotals group) throws IOException {
            if (writer == null) {
                if (!listener.shouldKeep()) {
                    giveUp(null);
                    return;
                }
                unfinished = unfinished(file(name, TOTALS));
                writer = new TotalsWriter(unfinished);
            }
            size++;
            days += group.days().length;
            if (days > MOST_DAYS) {
                giveUp(null);
                return;
            }
            writer.write(group);
        }

        private void end() throws IOException {
            given = true;
            if (writer == null || !listener.shouldKeep()) {
                drop();
                return;
            }
            writer.end(new CacheMetadata(about, files, size, totals.rowOutcomes()));
            Path kept = file(name, TOTALS);
            finish(unfinished, kept);
            writer = null;
            clearBefore(Files.getLastModifiedTime(kept).toInstant().minus(LONGEST));
            note(kept, new CacheUse(project, about, Instant.now(), 0));
            makeRoom();
        }

        private void giveUp(String why) {
            given = true;
            drop();
            if (why != null) {
                listener.failed(why);
            }
        }

        private void drop() {
            if (writer != null) {
                try {
                    writer.close();
                } catch (IOException e) {
                    // what was not written is not wanted
                }
                writer = null;
                CacheFiles.delete(unfinished);
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
        if (e instanceof FileAlreadyExistsException) {
            return e.getMessage() + " is no folder";
        }
        return e instanceof AccessDeniedException
                ? "no permission for " + e.getMessage()
                : e instanceof NoSuchFileException ? e.getMessage() + " cannot be made there" : e.getMessage();
    }

    /** Writes a file under another name until it is whole. */
    private interface Writing {
        void to(Path unfinished) throws IOException;
    }

    private void write(Path file, Writing writing) throws IOException {
        Path unfinished = unfinished(file);
        try {
            writing.to(unfinished);
            finish(unfinished, file);
        } finally {
            Files.deleteIfExists(unfinished);
        }
    }

    private Path unfinished(Path file) throws IOException {
        Files.createDirectories(folder);
        // it need only be different: Java takes long to set up random numbers that cannot be guessed
        String random = Long.toHexString(ThreadLocalRandom.current().nextLong());
        return folder.resolve(file.getFileName() + "." + random + UNFINISHED);
    }

    /** Gives a file that is whole its name. */
    private void finish(Path unfinished, Path file) throws IOException {
        Files.move(unfinished, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
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
}
