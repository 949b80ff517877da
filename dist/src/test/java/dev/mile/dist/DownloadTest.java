package dev.mile.dist;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeFalse;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.Collections;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;

/** The downloads as their users meet them: unpacked into a folder of any name, and started. */
@Execution(ExecutionMode.CONCURRENT)
class DownloadTest {
    private static final Path TARGET = Path.of("target");

    @TempDir
    private Path folder;

    /** Unpacks a download and returns its launcher. */
    private static Path unpacked(Path zip, Path into) throws IOException {
        try (ZipFile archive = ZipFile.builder().setPath(zip).get()) {
            for (ZipArchiveEntry entry : Collections.list(archive.getEntries())) {
                Path file = into.resolve(entry.getName());
                if (entry.isDirectory()) {
                    Files.createDirectories(file);
                    continue;
                }
                Files.createDirectories(file.getParent());
                try (InputStream content = archive.getInputStream(entry)) {
                    Files.copy(content, file);
                }
                if ((entry.getUnixMode() & 0100) != 0) {
                    assertThat(file.toFile().setExecutable(true)).isTrue();
                }
            }
        }
        boolean windows = System.getProperty("os.name").startsWith("Windows");
        try (Stream<Path> found = Files.list(into)) {
            return found.findFirst().orElseThrow().resolve(windows ? "bin/mile.cmd" : "bin/mile");
        }
    }

    private record Ended(int code, String out, String err) {}

    /** Runs a program in the folder; a path leaves out the programs of this machine but those. */
    private Ended run(Optional<String> path, List<String> command) throws IOException, InterruptedException {
        // sharing classes pays for those who start Mile more often than once
        return run(path, command, "-Xshare:off");
    }

    private Ended run(Optional<String> path, List<String> command, String javaOptions)
            throws IOException, InterruptedException {
        Path out = Files.createTempFile("out", "");
        Path err = Files.createTempFile("err", "");
        ProcessBuilder builder = new ProcessBuilder(command)
                .directory(folder.toFile())
                .redirectOutput(out.toFile())
                .redirectError(err.toFile());
        builder.environment().keySet().removeIf(name -> name.matches("LC_.*|LANG|MAVEN.*|JAVA_TOOL_OPTIONS"));
        builder.environment().put("MILE_JAVA_OPTS", javaOptions);
        path.ifPresent(only -> {
            builder.environment().put("PATH", only);
            builder.environment().remove("JAVA_HOME");
        });
        Process process = builder.start();
        assertThat(process.waitFor(180, TimeUnit.SECONDS)).isTrue();
        Ended ended = new Ended(
                process.exitValue(),
                Files.readString(out, StandardCharsets.UTF_8),
                Files.readString(err, StandardCharsets.UTF_8));
        Files.delete(out);
        Files.delete(err);
        return ended;
    }

    /** The demo is written and a report of it computed, all below a folder with blanks and umlauts in its name. */
    private void startsTheDemo(Path zip, Optional<String> path) throws IOException, InterruptedException {
        Path odd = Files.createDirectory(folder.resolve("Größe & Maß"));
        String mile = unpacked(zip, odd).toString();
        Path demo = odd.resolve("Übung eins");
        Ended written = run(path, List.of(mile, "demo", "--rows", "2000", demo.toString()));
        assertThat(written.err()).as("demo").doesNotContain("rror");
        assertThat(written.code()).isZero();
        List<String> report = List.of(
                mile, "report", "-f", demo.resolve("mile.yaml").toString(), "roles", "--as", "csv", "--no-store");
        Ended computed = run(path, report);
        assertThat(computed.err()).startsWith("Actuals as of ");
        assertThat(computed.out()).startsWith("year,quarter,sales,sales_dispatched,sales_paid\n");
        assertThat(computed.code()).isZero();
        Path chart = odd.resolve("Verlauf.png");
        Ended drawn = run(
                path,
                List.of(mile, "report", "-f", demo.resolve("mile.yaml").toString(), "trading", "-o", chart.toString()));
        assertThat(drawn.code()).as(drawn.err()).isZero();
        assertThat(chart).isNotEmptyFile();
    }

    /** Below a folder without blanks and umlauts, which Java asks for. */
    @Test
    void classesAreSharedByLaterStartsAlsoAfterAnUpdate() throws IOException, InterruptedException {
        assumeFalse(System.getProperty("os.name").startsWith("Windows"), "the launcher for Windows shares none");
        Path launcher = unpacked(TARGET.resolve("mile-" + version() + ".zip"), folder);
        Path lib = launcher.getParent().resolveSibling("lib");
        String mile = launcher.toString();
        Path core = lib.resolve("mile-core-" + version() + ".jar");
        for (Path renamed : List.of(core, lib.resolve("mile-core-new.jar"))) {
            Files.move(core, renamed);
            run(Optional.empty(), List.of(mile, "--version"), "");
            Ended strict = run(Optional.empty(), List.of(mile, "--version"), "-Xshare:on -Xlog:class+load");
            assertThat(strict.code()).as(strict.out() + strict.err()).isZero();
            assertThat(strict.out()).contains("dev.mile.cli.Main source: shared objects file");
        }
    }

    @Test
    void theDownloadNeedsJavaOnly() throws IOException, InterruptedException {
        startsTheDemo(TARGET.resolve("mile-" + version() + ".zip"), Optional.empty());
        try (Stream<Path> all = Files.walk(folder)) {
            List<String> files =
                    all.map(Path::toString).map(name -> name.replace('\\', '/')).toList();
            assertThat(files).anyMatch(name -> name.endsWith("/bin/mile.cmd"));
            assertThat(files).anyMatch(name -> name.endsWith("/docs/guide.md"));
            assertThat(files).anyMatch(name -> name.endsWith("/licences/THIRD-PARTY.txt"));
        }
    }

    @Test
    void theImageNeedsNothing() throws IOException, InterruptedException {
        Path zip;
        try (Stream<Path> all = Files.list(TARGET)) {
            zip = all.filter(file ->
                            file.getFileName().toString().matches("mile-[0-9.]+-(linux|macos|windows)-.*\\.zip"))
                    .findFirst()
                    .orElseThrow();
        }
        assumeTrue(Files.isExecutable(Path.of("/usr/bin/env")), "a machine on which Java can be hidden");
        startsTheDemo(zip, Optional.of(withoutJava().toString()));
    }

    /** Makes a folder of the programs that the launcher calls, without Java among them. */
    private Path withoutJava() throws IOException {
        Path programs = Files.createDirectory(folder.resolve("programs"));
        for (String name :
                List.of("bash", "env", "dirname", "readlink", "uname", "mktemp", "rm", "mv", "mkdir", "tput")) {
            Stream.of("/bin", "/usr/bin")
                    .map(bin -> Path.of(bin, name))
                    .filter(Files::isExecutable)
                    .findFirst()
                    .ifPresent(program -> {
                        try {
                            Files.copy(program, programs.resolve(name), StandardCopyOption.COPY_ATTRIBUTES);
                        } catch (IOException e) {
                            throw new UncheckedIOException(e);
                        }
                    });
        }
        return programs;
    }

    private static String version() {
        return System.getProperty("project.version");
    }
}
