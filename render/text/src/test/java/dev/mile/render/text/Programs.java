package dev.mile.render.text;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;

/** Programs of this machine in which outputs are opened; a test that needs one is skipped where it is not there. */
public final class Programs {
    private Programs() {}

    public static Optional<String> browser() {
        return found("chromium", "chromium-browser", "google-chrome", "chrome");
    }

    public static Optional<String> spreadsheet() {
        return found("soffice", "libreoffice");
    }

    private static Optional<String> found(String... names) {
        return Stream.of(names)
                .flatMap(name -> Stream.of(System.getenv("PATH").split(java.io.File.pathSeparator))
                        .map(folder -> Path.of(folder, name)))
                .filter(Files::isExecutable)
                .map(Path::toString)
                .findFirst();
    }

    /** Runs a program in the folder and returns what it printed. */
    public static String run(Path folder, List<String> command) throws IOException, InterruptedException {
        Path out = Files.createTempFile(folder, "out", "");
        Process process = new ProcessBuilder(new ArrayList<>(command))
                .directory(folder.toFile())
                .redirectOutput(out.toFile())
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        assertThat(process.waitFor(180, TimeUnit.SECONDS))
                .as("%s ends", command.get(0))
                .isTrue();
        return Files.readString(out, StandardCharsets.UTF_8);
    }
}
