package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.mile.StoppedException;
import dev.mile.internal.FileOwner;
import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Disks that are full, folders of other users, runs that are stopped or killed: what is left, and what is said. */
class FaultTest extends DemoCommands {
    private static final String TRADING = "Trading by fiscal month";

    /** Runs a command as a process with its own store and folder for temporary files. */
    private static Answer run(Path store, Path temporary, String... args) throws IOException, InterruptedException {
        Process process = begin(store, temporary, args);
        assertThat(process.waitFor(120, TimeUnit.SECONDS)).isTrue();
        return new Answer(
                process.exitValue(), Files.readString(folder.resolve("out")), Files.readString(folder.resolve("err")));
    }

    private static Process begin(Path store, Path temporary, String... args) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1",
                "-Djava.io.tmpdir=" + temporary,
                "-cp",
                System.getProperty("java.class.path"),
                Main.class.getName()));
        command.addAll(List.of(args));
        ProcessBuilder builder = new ProcessBuilder(command)
                .directory(folder.resolve("demo").toFile())
                .redirectOutput(folder.resolve("out").toFile())
                .redirectError(folder.resolve("err").toFile());
        builder.environment().putAll(Map.of("MILE_STORE", store.toString()));
        return builder.start();
    }

    private static List<String> left(Path at) throws IOException {
        try (Stream<Path> files = Files.list(at)) {
            return files.map(file -> file.getFileName().toString())
                    .filter(name -> name.startsWith("mile-run-") || name.endsWith(".part") || name.startsWith("poi"))
                    .toList();
        }
    }

    @Test
    void aFullStoreAndAFullTemporaryFolderAreSaid() throws Exception {
        onSmallDisk("200k", disk -> {
            Files.write(disk.resolve("fill"), new byte[150_000]);
            try {
                Answer answer = run(disk.resolve("store"), disk, "report", "trading");
                // the library of the database may still find room elsewhere
                assertThat(answer.code()).isIn(0, 3);
                assertThat(answer.err()).doesNotContain("Exception", "\tat ");
                assertThat(answer.code() == 0 ? answer.out() : answer.err()).containsAnyOf(TRADING, "make room");
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
    }

    @Test
    void aReadOnlyStoreAndTemporaryFolderAreSaid() throws Exception {
        onSmallDisk("1m", disk -> {
            try {
                boolean readOnly = new ProcessBuilder("mount", "-o", "remount,ro", disk.toString())
                                .start()
                                .waitFor()
                        == 0;
                assumeTrue(readOnly, "no file system can be made read-only here");
                Answer answer = run(disk.resolve("store"), disk, "report", "trading");
                assertThat(answer.code()).isIn(0, 3);
                assertThat(answer.err()).doesNotContain("Exception", "\tat ");
                assertThat(answer.code() == 0 ? answer.out() : answer.err()).containsAnyOf(TRADING, "make room");
                assertThat(left(disk)).isEmpty();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        });
    }

    /** Libraries have folders of a fixed name for their own files, which may be another user's. */
    @Test
    void foldersOfOtherUsersAreNotNeeded() throws IOException, InterruptedException {
        Path shared = Files.createDirectory(folder.resolve("shared"));
        Files.writeString(shared.resolve("poifiles"), "another user's");
        Path store = folder.resolve("own store");
        Answer answer = run(
                store,
                shared,
                "report",
                "trading",
                "-o",
                folder.resolve("t.xlsx").toString());
        assertThat(answer.code()).as(answer.err()).isZero();
        try (Stream<Path> files = Files.list(shared)) {
            assertThat(files.map(file -> file.getFileName().toString())).containsExactly("poifiles");
        }
        assertThat(left(store)).isEmpty();
    }

    @Test
    void temporaryFilesAreForTheUserAlone() throws IOException {
        assumeTrue(folder.getFileSystem().supportedFileAttributeViews().contains("posix"));
        Path own = dev.mile.internal.PrivateFolder.in(folder.resolve("private")).path();
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(own)))
                .isEqualTo("rwx------");
        assertThat(own.getFileName().toString()).startsWith("mile-run-" + FileOwner.ofProcess());
    }

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void whatAStoppedRunLeavesIsGoneAfterTheNext(boolean killed) throws IOException, InterruptedException {
        Path store = folder.resolve("store " + killed);
        Path output = Files.createDirectory(folder.resolve("output " + killed));
        List<String> dates = List.of("dates", "-o", output.resolve("dates.csv").toString());
        for (int wait = 300; wait <= 700; wait += 400) {
            Process process = begin(store, folder, dates.toArray(String[]::new));
            if (!process.waitFor(wait, TimeUnit.MILLISECONDS)) {
                if (killed) {
                    process.destroyForcibly().waitFor();
                } else {
                    process.destroy();
                    assertThat(process.waitFor(30, TimeUnit.SECONDS)).isTrue();
                    assertThat(left(output)).isEmpty();
                }
            }
        }
        Answer whole = run(store, folder, dates.toArray(String[]::new));
        assertThat(whole.code()).as(whole.err()).isZero();
        assertThat(left(store)).isEmpty();
        assertThat(left(output)).isEmpty();
    }

    /** Somebody who reads only the first lines. */
    @Test
    void aReaderThatGoesIsNoFault() throws IOException, InterruptedException {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-XX:TieredStopAtLevel=1",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Main.class.getName(),
                        "dates",
                        "--as",
                        "csv")
                .directory(folder.resolve("demo").toFile())
                .redirectError(folder.resolve("err").toFile())
                .start();
        process.getInputStream().read();
        process.getInputStream().close();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        assertThat(Files.readString(folder.resolve("err"))).doesNotContain("Exception", "\tat ");
    }

    /** Files, connections and threads are given back. */
    @Test
    void manyReportsLeaveNothingOpen() throws IOException {
        Path open = Path.of("/proc/self/fd");
        assumeTrue(Files.isDirectory(open));
        String store = folder.resolve("many").toString();
        long before = 0;
        for (int i = 0; i < 14; i++) {
            assertThat(mile("report", "trading", "--store", store, "--as", "csv")
                            .code())
                    .isZero();
            if (i == 5) {
                before = count(open);
            }
        }
        assertThat(count(open)).isLessThanOrEqualTo(before + 8);
    }

    private static long count(Path at) throws IOException {
        try (Stream<Path> files = Files.list(at)) {
            return files.count();
        }
    }

    /** Ctrl-C ends the process in the middle of its work, which then has nothing to say. */
    @Test
    void whoStopsItIsNotToldThatItFailed() {
        StringWriter err = new StringWriter();
        Main.failed(StoppedException.interrupted(), true, new PrintWriter(err, true));
        assertThat(err.toString()).isEmpty();
    }
}
