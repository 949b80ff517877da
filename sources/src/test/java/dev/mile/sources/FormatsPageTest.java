package dev.mile.sources;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.regex.MatchResult;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** The table of formats in docs/sources.md: what a file looks like is read by what it says. */
class FormatsPageTest {
    private static final Pattern LINE =
            Pattern.compile("\\| (`.*`.*) \\| `(numbers|dates): (?:\"([^\"]*)\"|(epoch \\w+)).*");

    @Test
    void valuesAreReadByTheirExample() throws IOException {
        int values = 0;
        for (String line : Files.readAllLines(Path.of("../docs/sources.md"))) {
            Matcher said = LINE.matcher(line);
            if (!said.matches()) {
                continue;
            }
            String example = said.group(3) == null ? said.group(4) : said.group(3);
            Locale locale = line.contains("locale: de") ? Locale.GERMAN : Locale.ENGLISH;
            List<String> shown = Pattern.compile("`([^`]*)`")
                    .matcher(said.group(1))
                    .results()
                    .map(MatchResult::group)
                    .map(text -> text.replace("`", ""))
                    .filter(text -> !text.startsWith("locale:"))
                    .toList();
            for (String value : shown) {
                boolean isRead = said.group(2).equals("numbers")
                        ? NumberExample.of(example).plain(value).isPresent()
                        : DateExample.of(example, locale).read(value).isPresent();
                assertThat(isRead).as("%s by %s", value, example).isTrue();
                values++;
            }
        }
        assertThat(values).isGreaterThan(12);
    }
}
