package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Runs the commands of the documents, on the files that they show, and compares what is printed. */
class DocumentedCommandsTest {
    private static final Pattern BLOCK = Pattern.compile("```(\\w+)(?: (\\S+))?\\n(.*?)```", Pattern.DOTALL);

    @TempDir
    Path folder;

    @ParameterizedTest
    @ValueSource(strings = {"reference.md", "sources.md"})
    void commandsPrintWhatTheDocumentShows(String page) throws IOException {
        Matcher block = BLOCK.matcher(Files.readString(Path.of("../docs", page)));
        List<String> shown = new ArrayList<>();
        List<String> printed = new ArrayList<>();
        while (block.find()) {
            if (block.group(2) != null) {
                Files.writeString(folder.resolve(block.group(2)), block.group(3));
            } else if (block.group(1).equals("console")) {
                for (String line : block.group(3).split("\n")) {
                    shown.add(line);
                    if (line.startsWith("$ ")) {
                        printed.add(line);
                        printed.addAll(run(words(line.substring(2))));
                    }
                }
            }
        }
        assertThat(shown).hasSizeGreaterThan(20);
        assertThat(printed).isEqualTo(shown);
    }

    private static List<String> words(String command) {
        List<String> words = new ArrayList<>();
        Matcher word = Pattern.compile("\"([^\"]*)\"|(\\S+)").matcher(command);
        while (word.find()) {
            words.add(word.group(1) == null ? word.group(2) : word.group(1));
        }
        return words;
    }

    private List<String> run(List<String> words) throws IOException {
        if (words.get(0).equals("grep")) {
            return Files.readAllLines(folder.resolve(words.get(2))).stream()
                    .filter(line -> line.contains(words.get(1)))
                    .toList();
        }
        List<String> arguments = new ArrayList<>(words.subList(1, words.size()));
        int output = arguments.indexOf("-o") + 1;
        if (output > 0) {
            arguments.set(output, folder.resolve(arguments.get(output)).toString());
        }
        arguments.addAll(List.of("-f", folder.resolve("mile.yaml").toString()));
        StringWriter out = new StringWriter();
        StringWriter err = new StringWriter();
        int code = Main.run(new PrintWriter(out), new PrintWriter(err, true), arguments.toArray(String[]::new));
        List<String> lines = new ArrayList<>(
                (out + err.toString().replace(folder + "/", "")).lines().toList());
        if (code != 0) {
            lines.add("exit code " + code);
        }
        return lines;
    }
}
