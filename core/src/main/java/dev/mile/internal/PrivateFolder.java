package dev.mile.internal;

import static java.nio.file.attribute.PosixFilePermission.OWNER_EXECUTE;
import static java.nio.file.attribute.PosixFilePermission.OWNER_READ;
import static java.nio.file.attribute.PosixFilePermission.OWNER_WRITE;

import dev.mile.StoppedException;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.FileAlreadyExistsException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.HexFormat;
import java.util.stream.Stream;

/**
 * A folder for the temporary files of this process, which nobody else may read. It goes with the process; what a process left that could not
 * end as it should is removed by the next one.
 */
public final class PrivateFolder {
    private static final String PREFIX = "mile-run-";

    private static final int ATTEMPTS = 5;

    private final Path path;

    private PrivateFolder(Path path) {
        this.path = path;
    }

    /** The one of this process, in the folder for temporary files; made when it is first needed. */
    private static final class Shared {
        private static final PrivateFolder FOLDER = make();

        private static PrivateFolder make() {
            try {
                return in(Path.of(System.getProperty("java.io.tmpdir")));
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }

    /**
     * Returns the folder of this process, in the folder for temporary files.
     *
     * @throws IOException if it cannot be made
     */
    public static Path ofProcess() throws IOException {
        try {
            return Shared.FOLDER.path;
        } catch (ExceptionInInitializerError | NoClassDefFoundError e) {
            if (e.getCause() instanceof StoppedException stopped) {
                throw stopped;
            }
            throw new IOException("no folder can be made in " + System.getProperty("java.io.tmpdir"), e);
        }
    }

    /**
     * Returns a new file in the folder of this process.
     *
     * @throws IOException if it cannot be made
     */
    public static Path newFile(String ending) throws IOException {
        return Files.createTempFile(ofProcess(), "", ending);
    }

    /**
     * Makes a folder in another one, and removes it at the end of the process.
     *
     * @throws IOException if it cannot be made
     */
    public static PrivateFolder in(Path parent) throws IOException {
        Files.createDirectories(parent);
        Path path = make(parent);
        // nobody waits for it but the end of the process
        Thread sweeper = new Thread(() -> sweep(parent), "mile removes what others left");
        sweeper.setDaemon(true);
        sweeper.start();
        try {
            ShutdownHooks.add(new Thread(() -> end(sweeper, path), "mile removes temporary files"));
        } catch (StoppedException e) {
            delete(path);
            throw e;
        }
        return new PrivateFolder(path);
    }

    /** Makes a folder that only this user may enter. Java's own way first makes random numbers ready, which costs each start more than the folder. */
    private static Path make(Path parent) throws IOException {
        boolean posix = parent.getFileSystem().supportedFileAttributeViews().contains("posix");
        FileAttribute<?>[] onlyUser = posix
                ? new FileAttribute<?>[] {
                    PosixFilePermissions.asFileAttribute(EnumSet.of(OWNER_READ, OWNER_WRITE, OWNER_EXECUTE))
                }
                : new FileAttribute<?>[0];
        for (long number = System.nanoTime(); ; number++) {
            try {
                return Files.createDirectory(
                        parent.resolve(PREFIX + FileOwner.ofProcess() + "-"
                                + HexFormat.of().toHexDigits(number)),
                        onlyUser);
            } catch (FileAlreadyExistsException e) {
                // somebody else's; the next number is free
            }
        }
    }

    /** Returns the folder. */
    public Path path() {
        return path;
    }

    private static void end(Thread sweeper, Path path) {
        try {
            sweeper.join();
        } catch (InterruptedException e) {
            // the next process sweeps too
        }
        // mostly empty
        if (!path.toFile().delete()) {
            delete(path);
        }
    }

    /** Removes the folders of processes that have ended. */
    private static void sweep(Path parent) {
        // names alone, since kept totals may be thousands of files; null where the folder cannot be listed
        String[] folders = parent.toFile().list((in, name) -> name.startsWith(PREFIX));
        for (String name : folders == null ? new String[0] : folders) {
            Path folder = parent.resolve(name);
            if (Files.isWritable(folder) && FileOwner.hasEnded(name, PREFIX)) {
                delete(folder);
            }
        }
    }

    /** Threads that end with the process may still remove or make files. */
    private static void delete(Path folder) {
        for (int attempt = 0; attempt < ATTEMPTS && Files.exists(folder); attempt++) {
            try (Stream<Path> walk = Files.walk(folder)) {
                for (Path file : walk.sorted(Comparator.reverseOrder()).toList()) {
                    Files.deleteIfExists(file);
                }
            } catch (IOException | UncheckedIOException e) {
                // another attempt, or else the next process
            }
        }
    }
}
