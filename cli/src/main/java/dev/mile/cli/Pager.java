package dev.mile.cli;

import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.PrintWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.List;

/**
 * Shows a long text page by page where somebody looks at a terminal: with the program that {@code PAGER} names, or {@code less}.
 * Short texts, files and pipes are written at once.
 */
final class Pager {
    private Pager() {}

    /**
     * Prints a text.
     *
     * @param atOnce whether it is written at once, however long it is
     */
    static void print(String text, boolean atOnce, PrintWriter out) {
        String pager = System.getenv("PAGER");
        boolean paged = !atOnce && BaseCommand.isTerminal() && lines(text) >= height() && !"cat".equals(pager);
        if (!paged || !show(text, pager == null || pager.isBlank() ? "less" : pager)) {
            out.print(text);
        }
    }

    private static long lines(String text) {
        return text.chars().filter(c -> c == '\n').count();
    }

    /** Returns how many lines the terminal has, as passed on by the launcher; so many that nothing is paged if that is not known. */
    private static long height() {
        String lines = System.getenv("MILE_LINES");
        try {
            return lines == null || lines.isBlank() ? Long.MAX_VALUE : Long.parseLong(lines.strip());
        } catch (NumberFormatException e) {
            return Long.MAX_VALUE;
        }
    }

    /** Returns whether the program could be started; a reader who leaves it early has read enough. */
    private static boolean show(String text, String pager) {
        ProcessBuilder builder = new ProcessBuilder(List.of("sh", "-c", "exec " + pager))
                .redirectOutput(ProcessBuilder.Redirect.INHERIT)
                .redirectError(ProcessBuilder.Redirect.INHERIT);
        // colours as they are, and no pages for a text that fits after all
        builder.environment().putIfAbsent("LESS", "FRX");
        try {
            Process process = builder.start();
            try (Writer to = new OutputStreamWriter(process.getOutputStream(), StandardCharsets.UTF_8)) {
                to.write(text);
            } catch (IOException e) {
                // the reader left
            }
            return process.waitFor() != NOT_FOUND;
        } catch (IOException e) {
            return false;
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return true;
        }
    }

    /** What a shell answers for a program that is not there. */
    private static final int NOT_FOUND = 127;
}
