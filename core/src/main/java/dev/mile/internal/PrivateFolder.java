package dev.mile.internal;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * A folder for the temporary files of this process, which nobody else may read. It goes with the process; what a process left that could not
 * end as it should is removed by the next one.
 */
public final class PrivateFolder {
    private static final Pattern NAME = Pattern.compile("mile-run-([0-9]+)-.*");

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
        sweep(parent);
        // only this user may enter it
        Path path = Files.createTempDirectory(
                parent, "mile-run-" + ProcessHandle.current().pid() + "-");
        Runtime.getRuntime().addShutdownHook(new Thread(() -> delete(path), "mile removes temporary files"));
        return new PrivateFolder(path);
    }

    /** Returns the folder. */
    public Path path() {
        return path;
    }

    /** Removes the folders of processes that have ended. */
    private static void sweep(Path parent) {
        try (DirectoryStream<Path> folders = Files.newDirectoryStream(parent, "mile-run-*")) {
            for (Path folder : folders) {
                Matcher name = NAME.matcher(folder.getFileName().toString());
                if (name.matches()
                        && Files.isWritable(folder)
                        && ProcessHandle.of(Long.parseLong(name.group(1))).isEmpty()) {
                    delete(folder);
                }
            }
        } catch (IOException | NumberFormatException e) {
            // what cannot be listed cannot be removed
        }
    }

    private static void delete(Path folder) {
        List<Path> all;
        try (Stream<Path> walk = Files.walk(folder)) {
            all = walk.sorted(Comparator.reverseOrder()).toList();
        } catch (IOException | UncheckedIOException e) {
            return;
        }
        for (Path file : all) {
            try {
                Files.deleteIfExists(file);
            } catch (IOException e) {
                // removed by the next process
            }
        }
    }
}
