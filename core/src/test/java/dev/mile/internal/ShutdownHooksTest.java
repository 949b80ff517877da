package dev.mile.internal;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.StoppedException;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ShutdownHooksTest {
    /** Asks for its folders when it is ending already, as a program does whose user presses Ctrl-C at its start. */
    public static final class Late {
        private Late() {}

        public static void main(String[] args) {
            Runtime.getRuntime().addShutdownHook(new Thread(() -> {
                print(() -> PrivateFolder.in(Path.of(args[0])).path());
                print(PrivateFolder::ofProcess);
            }));
        }

        private static void print(Folder folder) {
            try {
                System.out.println("made " + folder.make());
            } catch (StoppedException | IOException e) {
                System.out.println(e.getMessage());
            }
        }
    }

    private interface Folder {
        Path make() throws IOException;
    }

    @Test
    void whatBeginsWhileTheShutdownHookssIsStoppedAndLeavesNothing(@TempDir Path folder) throws Exception {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-Djava.io.tmpdir=" + folder,
                        "-cp",
                        System.getProperty("java.class.path"),
                        Late.class.getName(),
                        folder.toString())
                .redirectErrorStream(true)
                .start();
        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        assertThat(new String(process.getInputStream().readAllBytes()).lines())
                .containsExactly("interrupted before the end", "interrupted before the end");
        try (var left = Files.list(folder)) {
            assertThat(left).isEmpty();
        }
    }
}
