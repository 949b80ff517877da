package dev.mile.cli;

import java.io.IOException;
import java.nio.file.DirectoryStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;

/** Pages that a browser is asked to show: they outlive the command, and are removed by one of a later day. */
final class ShownPage {
    private static final Duration KEPT = Duration.ofDays(1);

    private ShownPage() {}

    /** Returns a new file that only this user may read. */
    static Path newFile() throws IOException {
        Path folder = EngineOptions.standardFolder(System.getenv());
        Files.createDirectories(folder);
        FileTime old = FileTime.from(Instant.now().minus(KEPT));
        try (DirectoryStream<Path> pages = Files.newDirectoryStream(folder, "shown-*.html")) {
            for (Path page : pages) {
                if (Files.getLastModifiedTime(page).compareTo(old) < 0) {
                    Files.deleteIfExists(page);
                }
            }
        }
        return Files.createTempFile(folder, "shown-", ".html");
    }
}
