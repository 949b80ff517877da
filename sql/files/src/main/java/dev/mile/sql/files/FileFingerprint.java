package dev.mile.sql.files;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/**
 * Returns whether files are what they were: their paths, sizes, and the times at which their content and their entry in the file
 * system were last changed. The latter is set by the system alone, so that no program can change a file and hide it.
 *
 * @param files a line for each file
 * @param latest the last of all changes
 */
public record FileFingerprint(List<String> files, Instant latest) {
    /** Changes within one tick of the file system's clock look alike; ticks are far shorter than this. */
    private static final Duration TICK = Duration.ofMillis(100);

    /**
     * {@return the path in a line of a file}
     *
     * @param file the file
     */
    public static Path path(String file) {
        requireNonNull(file, "file is null");
        return Path.of(file.substring(0, file.indexOf('\t')));
    }

    /**
     * {@return the fingerprint of some files, now}
     *
     * @param paths the files
     */
    public static FileFingerprint of(List<Path> paths) {
        requireNonNull(paths, "paths is null");
        List<String> files = new ArrayList<>();
        Instant latest = Instant.EPOCH;
        for (Path path : paths) {
            try {
                BasicFileAttributes is = Files.readAttributes(path, BasicFileAttributes.class);
                FileTime changed =
                        path.getFileSystem().supportedFileAttributeViews().contains("unix")
                                ? (FileTime) Files.getAttribute(path, "unix:ctime", new LinkOption[0])
                                : is.lastModifiedTime();
                files.add(String.join(
                        "\t",
                        path.toAbsolutePath().normalize().toString(),
                        Long.toString(is.size()),
                        is.lastModifiedTime().toInstant().toString(),
                        changed.toInstant().toString(),
                        String.valueOf(is.fileKey())));
                for (FileTime time : List.of(changed, is.lastModifiedTime())) {
                    latest = time.toInstant().isAfter(latest) ? time.toInstant() : latest;
                }
            } catch (IOException e) {
                throw DataException.of("the file %s cannot be read: %s", path, e.getMessage())
                        .withCause(e);
            }
        }
        return new FileFingerprint(List.copyOf(files), latest);
    }

    /** {@return whether a change after now would be seen: the last one is longer ago than a tick} */
    public boolean settled() {
        return latest.plus(TICK).isBefore(Instant.now());
    }
}
