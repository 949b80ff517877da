package dev.mile.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * A small project, broken in one place, and what Mile should say of it. Cases are written as text:
 *
 * <pre>
 * == a day that June does not have
 * in holidays.ics: DTSTART;VALUE=DATE:20260620 -> DTSTART;VALUE=DATE:20260631
 * file notes.csv: date,name\n2026-13-01,x\n
 * run check
 * exit 2
 * says holidays.ics, line 7
 * silent on Exception
 * </pre>
 *
 * <p>{@code {{(*2000}}} is a bracket 2,000 times; {@code \n}, {@code \t} and {@code \\u001b} are characters.
 */
record BrokenInput(
        String title, List<Edit> edits, List<String> command, int exit, List<String> says, List<String> silentOn) {
    private static final Pattern REPEATED = Pattern.compile("\\{\\{(.+?)\\*(\\d+)}}", Pattern.DOTALL);
    private static final Pattern ESCAPED = Pattern.compile("\\\\(n|t|r|\\\\|u[0-9a-f]{4})");

    /** A file that is changed, or written anew where there is nothing to find. */
    record Edit(String file, String find, String replacement) {}

    /** What the command line answered. */
    record Answer(int code, String out, String err) {}

    @Override
    public String toString() {
        return title;
    }

    /** Reads the cases of a text. */
    static List<BrokenInput> read(String text) {
        List<BrokenInput> all = new ArrayList<>();
        for (String block : text.split("(?m)^== ")) {
            List<String> lines = block.lines()
                    .filter(l -> !l.isBlank() && !l.startsWith("#"))
                    .toList();
            if (!lines.isEmpty()) {
                all.add(of(lines));
            }
        }
        return all;
    }

    private static BrokenInput of(List<String> lines) {
        List<Edit> edits = new ArrayList<>();
        List<String> command = new ArrayList<>();
        List<String> says = new ArrayList<>();
        List<String> silentOn = new ArrayList<>();
        int exit = -1;
        for (String line : lines.subList(1, lines.size())) {
            String rest = line.substring(line.indexOf(' ') + 1);
            switch (line.substring(0, line.indexOf(' '))) {
                case "in" -> {
                    int arrow = rest.indexOf(" -> ");
                    int colon = rest.indexOf(": ");
                    edits.add(new Edit(
                            rest.substring(0, colon),
                            characters(rest.substring(colon + 2, arrow)),
                            characters(rest.substring(arrow + " -> ".length()))));
                }
                case "file" -> {
                    int colon = rest.indexOf(": ");
                    edits.add(new Edit(rest.substring(0, colon), "", characters(rest.substring(colon + 2))));
                }
                case "run" -> command.addAll(words(rest));
                case "exit" -> exit = Integer.parseInt(rest);
                case "says" -> says.add(characters(rest));
                case "silent" -> silentOn.add(rest.substring("on ".length()));
                default -> throw new IllegalArgumentException("no such line: " + line);
            }
        }
        return new BrokenInput(lines.get(0), edits, command, exit, says, silentOn);
    }

    private static List<String> words(String command) {
        return Pattern.compile("\"([^\"]*)\"|(\\S+)")
                .matcher(command)
                .results()
                .map(w -> characters(w.group(1) == null ? w.group(2) : w.group(1)))
                .toList();
    }

    private static String characters(String written) {
        String unescaped = ESCAPED.matcher(written)
                .replaceAll(e -> Matcher.quoteReplacement(
                        switch (e.group(1).charAt(0)) {
                            case 'n' -> "\n";
                            case 't' -> "\t";
                            case 'r' -> "\r";
                            case 'u' ->
                                Character.toString(Integer.parseInt(e.group(1).substring(1), 16));
                            default -> "\\";
                        }));
        return REPEATED.matcher(unescaped)
                .replaceAll(r -> Matcher.quoteReplacement(r.group(1).repeat(Integer.parseInt(r.group(2)))));
    }

    /** Writes the project into a folder, broken. */
    void write(Path project, Path folder) throws IOException {
        try (var files = Files.list(project)) {
            for (Path file : files.toList()) {
                Files.copy(file, folder.resolve(file.getFileName().toString()));
            }
        }
        for (Edit edit : edits) {
            Path file = folder.resolve(edit.file());
            if (edit.find().isEmpty()) {
                Files.createDirectories(file.getParent());
                Files.writeString(file, edit.replacement(), StandardCharsets.UTF_8);
            } else {
                String before = Files.readString(file);
                if (!before.contains(edit.find())) {
                    throw new IllegalArgumentException(title + ": " + edit.file() + " has no " + edit.find());
                }
                Files.writeString(file, before.replace(edit.find(), edit.replacement()));
            }
        }
    }

    /** Runs the command on the broken project. */
    Answer answer(Path folder) {
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        List<String> arguments = new ArrayList<>(command.stream()
                .map(word -> word.replace("@", folder.toString()))
                .collect(Collectors.toList()));
        if (!List.of("new", "schema", "demo", "store").contains(command.get(0))) {
            arguments.addAll(1, List.of("-f", folder.resolve("mile.yaml").toString()));
        }
        if (List.of("report", "explain").contains(command.get(0))) {
            arguments.add(1, "--no-store");
        }
        PrintWriter results = new PrintWriter(out);
        int code = Main.run(results, new PrintWriter(err, true), arguments.toArray(String[]::new));
        results.flush();
        return new Answer(code, out.toString(), err.toString());
    }

    /** Returns the text of a resource. */
    static String text(Path file) {
        try {
            return Files.readString(file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
