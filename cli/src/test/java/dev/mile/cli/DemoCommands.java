package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.io.TempDir;

/** Runs commands on the demo: as a process where that matters, in this one where only words do. */
abstract class DemoCommands {
    @TempDir
    static Path folder;

    /** What came back. */
    record Answer(int code, String out, String err) {}

    /** The demo as it was written by the first class that needs it; each class has a copy of its own. */
    private static final Map<String, byte[]> DEMO = new LinkedHashMap<>();

    @BeforeAll
    static void writeTheDemo() throws IOException, InterruptedException {
        Path demo = folder.resolve("demo");
        if (DEMO.isEmpty()) {
            Answer answer = process("demo", "demo");
            assertThat(answer.code()).as(answer.err()).isZero();
            assertThat(answer.out()).startsWith("Trading by fiscal month\n");
            assertThat(answer.err().lines().filter(l -> l.startsWith("  mile ")))
                    .hasSize(3);
            try (var files = Files.list(demo)) {
                for (Path file : files.toList()) {
                    DEMO.put(file.getFileName().toString(), Files.readAllBytes(file));
                }
            }
        }
        Files.createDirectories(demo);
        for (Map.Entry<String, byte[]> file : DEMO.entrySet()) {
            Files.write(demo.resolve(file.getKey()), file.getValue());
        }
    }

    /** Starts a command as a process; its outputs go to the files {@code out} and {@code err}. */
    static Process start(Path home, Path out, Path err, String heap, String... args) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-XX:TieredStopAtLevel=1",
                heap,
                "-cp",
                System.getProperty("java.class.path"),
                Main.class.getName()));
        command.addAll(List.of(args));
        return new ProcessBuilder(command)
                .directory(home.toFile())
                .redirectOutput(out.toFile())
                .redirectError(err.toFile())
                .start();
    }

    static Answer process(String... args) throws IOException, InterruptedException {
        Path home = Files.isDirectory(folder.resolve("demo")) ? folder.resolve("demo") : folder;
        return process(home, "-Xmx512m", args);
    }

    static Answer process(Path home, String heap, String... args) throws IOException, InterruptedException {
        Path out = Files.createTempFile(folder, "out", "");
        Path err = Files.createTempFile(folder, "err", "");
        Process process = start(home, out, err, heap, args);
        assertThat(process.waitFor(180, TimeUnit.SECONDS)).isTrue();
        return new Answer(
                process.exitValue(),
                Files.readString(out, StandardCharsets.UTF_8),
                Files.readString(err, StandardCharsets.UTF_8));
    }

    /** Runs a command on the demo's model in this process. */
    static Answer mile(String... args) {
        List<String> all = new ArrayList<>(List.of(args));
        if (!all.contains("-f")) {
            all.addAll(List.of("-f", folder.resolve("demo/mile.yaml").toString()));
        }
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        int code = Main.run(new PrintWriter(out), new PrintWriter(err, true), all.toArray(String[]::new));
        return new Answer(code, out.toString(), err.toString());
    }

    /** What is done on a small disk. */
    interface OnDisk {
        void run(Path disk) throws IOException;
    }

    /** Does something in a folder with little room; skips the test where none can be made. */
    static void onSmallDisk(String size, OnDisk what) throws IOException, InterruptedException {
        Path disk = Files.createDirectory(folder.resolve("disk of " + size));
        boolean mounted = new ProcessBuilder("mount", "-t", "tmpfs", "-o", "size=" + size, "tmpfs", disk.toString())
                        .start()
                        .waitFor()
                == 0;
        assumeTrue(mounted, "no small file system can be mounted here");
        try {
            what.run(disk);
        } finally {
            new ProcessBuilder("umount", disk.toString()).start().waitFor();
        }
    }
}
