package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.URISyntaxException;
import java.net.URL;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** A table of broken inputs, under {@code reliability} among the resources: each is answered with its exit code and in its words. */
class BrokenInputTest {
    private static final int LONGEST_MESSAGE = 2_000;
    private static final Pattern PLACE = Pattern.compile("mile: ([^ :]+\\.[a-z]+)(:[0-9]+){0,2}: (.*)", Pattern.DOTALL);

    @TempDir
    private Path folder;

    private static Path resources() throws URISyntaxException {
        URL found = Optional.ofNullable(BrokenInputTest.class.getResource("/reliability/project"))
                .orElseThrow();
        return Path.of(found.toURI()).getParent();
    }

    static Stream<BrokenInput> cases() throws IOException, URISyntaxException {
        try (Stream<Path> files = Files.list(resources())) {
            return files.filter(file -> file.toString().endsWith(".txt")).sorted().toList().stream()
                    .flatMap(file -> BrokenInput.read(BrokenInput.text(file)).stream());
        }
    }

    @Test
    void thereAreManyKinds() throws IOException, URISyntaxException {
        assertThat(cases()).hasSizeGreaterThan(250);
        assertThat(cases().map(BrokenInput::title)).doesNotHaveDuplicates();
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("cases")
    @Timeout(30)
    void brokenInputsAreAnsweredInWords(BrokenInput broken) throws IOException, URISyntaxException {
        broken.write(resources().resolve("project"), folder);
        BrokenInput.Answer answer = broken.answer(folder);
        String err = answer.err().replace(folder + "/", "");
        String all = err + answer.out().replace(folder + "/", "");
        assertThat(answer.code()).as(all).isEqualTo(broken.exit());
        assertThat(all)
                .doesNotContain(
                        "Exception",
                        "dev.mile.",
                        " null",
                        "Binder Error",
                        "IO Error",
                        "Parser Error",
                        "Conversion Error");
        broken.says().forEach(words -> assertThat(all).contains(words));
        broken.silentOn().forEach(secret -> assertThat(all).doesNotContain(secret));
        assertThat(err.lines()).allSatisfy(line -> assertThat(line).hasSizeLessThanOrEqualTo(LONGEST_MESSAGE + 100));
        // data files are exact; whatever people read holds nothing that a terminal would obey
        String read = broken.command().contains("csv") ? err : all;
        assertThat(read.chars().filter(c -> Character.isISOControl(c) && c != '\n'))
                .as(read)
                .isEmpty();
        Matcher place = PLACE.matcher(err);
        if (place.matches()) {
            // a message says the file once
            assertThat(place.group(3)).doesNotContain(place.group(1));
        }
        try (Stream<Path> left = Files.list(folder)) {
            assertThat(left.map(file -> file.getFileName().toString()).filter(name -> name.startsWith(".")))
                    .isEqualTo(List.of());
        }
    }
}
