package dev.mile.cli;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.internal.FileOwner;
import java.io.BufferedOutputStream;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.AccessDeniedException;
import java.nio.file.AtomicMoveNotSupportedException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Locale;
import java.util.UUID;

/** Writes files beside their target and renames them, so that a reader never sees half of one and an old file stays on failure. */
final class AtomicFiles {
    private static final int MAX_NAME_BYTES = 255;
    private static final String PREFIX = ".mile-";
    private static final String UNFINISHED = ".part";

    private AtomicFiles() {}

    /** Writes text. */
    interface Text {
        void write(Appendable out) throws IOException;
    }

    /** Writes to a new file. */
    interface Binary {
        void write(Path file) throws IOException;
    }

    /** Returns the ending of the file in small letters, without its dot; empty where it has none. */
    static String extension(Path file) {
        String name = String.valueOf(file.getFileName()).toLowerCase(Locale.ROOT);
        return name.contains(".") ? name.substring(name.lastIndexOf('.') + 1) : "";
    }

    /**
     * Refuses a file whose folder is not there.
     *
     * @throws MileException if it is not
     */
    static void checkFolder(Path target) {
        Path folder = target.toAbsolutePath().getParent();
        int bytes = String.valueOf(target.getFileName()).getBytes(StandardCharsets.UTF_8).length;
        if (bytes > MAX_NAME_BYTES) {
            throw ModelException.of(
                    "the name of the file has %d bytes; file systems allow %d: %s",
                    bytes, MAX_NAME_BYTES, String.valueOf(target.getFileName()));
        }
        if (folder == null || !Files.isDirectory(folder)) {
            throw DataException.of("cannot write %s: the folder is not there; make it first", target);
        }
    }

    static void text(Path target, Text text) {
        file(target, temporary -> {
            try (OutputStream bytes = Files.newOutputStream(temporary);
                    BufferedWriter out =
                            new BufferedWriter(new OutputStreamWriter(bytes, StandardCharsets.UTF_8), 1 << 16)) {
                text.write(out);
            }
        });
    }

    /** Writes bytes. */
    interface Bytes {
        void write(OutputStream out) throws IOException;
    }

    static void stream(Path target, Bytes bytes) {
        file(target, temporary -> {
            try (OutputStream out = new BufferedOutputStream(Files.newOutputStream(temporary), 1 << 16)) {
                bytes.write(out);
            }
        });
    }

    static void file(Path target, Binary binary) {
        Path temporary = null;
        try {
            Path folder = target.toAbsolutePath().getParent();
            // not a temporary file of the JDK, which nobody else may read
            sweep(folder);
            temporary = folder.resolve(PREFIX + FileOwner.ofProcess() + "-" + UUID.randomUUID() + UNFINISHED);
            // an interrupted run takes its half file along
            temporary.toFile().deleteOnExit();
            write(binary, temporary);
            move(temporary, target);
        } catch (NoSuchFileException e) {
            throw DataException.of("cannot write %s: the folder is not there; make it first", target)
                    .withCause(e);
        } catch (AccessDeniedException e) {
            throw DataException.of("cannot write %s: no permission; choose another folder", target)
                    .withCause(e);
        } catch (IOException e) {
            throw DataException.of("cannot write %s: %s; what was there before is untouched", target, reason(e))
                    .withCause(e);
        } finally {
            remove(temporary);
        }
    }

    /** Removes what runs that were killed have left. */
    private static void sweep(Path folder) {
        try (DirectoryStream<Path> unfinished = Files.newDirectoryStream(folder, PREFIX + "*" + UNFINISHED)) {
            for (Path file : unfinished) {
                if (FileOwner.hasEnded(file.getFileName().toString(), PREFIX)) {
                    Files.deleteIfExists(file);
                }
            }
        } catch (IOException e) {
            // the write itself will say what is wrong with the folder
        }
    }

    /** Writers of pictures say only that they failed; the cause says why. */
    private static String reason(IOException e) {
        Throwable at = e;
        while (at.getCause() instanceof IOException) {
            at = at.getCause();
        }
        return at.getMessage();
    }

    /** Writers that take rows as they come can only throw unchecked. */
    private static void write(Binary binary, Path temporary) throws IOException {
        try {
            binary.write(temporary);
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
    }

    private static void move(Path from, Path to) throws IOException {
        try {
            Files.move(from, to, StandardCopyOption.REPLACE_EXISTING, StandardCopyOption.ATOMIC_MOVE);
        } catch (AtomicMoveNotSupportedException e) {
            Files.move(from, to, StandardCopyOption.REPLACE_EXISTING);
        }
    }

    private static void remove(Path temporary) {
        try {
            if (temporary != null) {
                Files.deleteIfExists(temporary);
            }
        } catch (IOException e) {
            // a temporary file that stays does no harm
        }
    }
}
