package dev.mile.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * The command line in a process of its own, whose time and memory are watched.
 *
 * @param code its exit code
 * @param seconds how long it took
 * @param memory the most memory that it used, as the system says it: {@code 512340 kB}
 */
record WatchedProcess(int code, double seconds, String memory) {
    /**
     * Runs a command.
     *
     * @param output receives what it says on either stream
     * @param options options of Java
     */
    static WatchedProcess run(ProcessBuilder.Redirect output, List<String> options, List<String> arguments)
            throws IOException, InterruptedException {
        List<String> command = new ArrayList<>(
                List.of(Path.of(System.getProperty("java.home"), "bin", "java").toString()));
        command.addAll(options);
        command.addAll(List.of("-cp", System.getProperty("java.class.path"), "dev.mile.cli.Main"));
        command.addAll(arguments);
        long start = System.nanoTime();
        Process process = new ProcessBuilder(command)
                .redirectErrorStream(true)
                .redirectOutput(output)
                .start();
        String most = "unknown";
        Path status = Path.of("/proc", Long.toString(process.pid()), "status");
        while (process.isAlive()) {
            most = most(status, most);
            Thread.sleep(50);
        }
        return new WatchedProcess(process.exitValue(), (System.nanoTime() - start) / 1e9, most);
    }

    private static String most(Path status, String known) {
        try {
            return Files.readAllLines(status).stream()
                    .filter(line -> line.startsWith("VmHWM:"))
                    .map(line -> line.substring("VmHWM:".length()).strip())
                    .findFirst()
                    .orElse(known);
        } catch (IOException e) {
            return known;
        }
    }
}
