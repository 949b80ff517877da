package dev.mile.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FileFormatTest {
    private static final List<String> NAMES = List.of("shop", "Jan", "Feb", "Mar", "year");

    @Test
    void eachCopyChangesOneThing() {
        FileFormat.Unpivot months = new FileFormat.Unpivot("Jan", "Mar", "month", "amount", "{column}");
        FileFormat format = FileFormat.PLAIN
                .withNumbers("1.234,56")
                .withDates(Map.of("", "31.12.2025"))
                .withEncoding("latin1")
                .withSeparator(";")
                .withSheet("Orders")
                .withHeader(3)
                .withUntil("Total")
                .withUnpivot(months)
                .withLocale(Locale.GERMAN);
        assertThat(format.numbers()).contains("1.234,56");
        assertThat(format.dates()).containsExactly(Map.entry("", "31.12.2025"));
        assertThat(format.encoding()).contains("latin1");
        assertThat(format.separator()).contains(";");
        assertThat(format.sheet()).contains("Orders");
        assertThat(format.header()).isEqualTo(3);
        assertThat(format.until()).contains("Total");
        assertThat(format.unpivot()).contains(months);
        assertThat(format.locale()).isEqualTo(Locale.GERMAN);
        assertThat(format.isPlain()).isFalse();
        FileFormat plain = FileFormat.PLAIN;
        assertThat(plain.withLocale(Locale.GERMAN).withRejectsCounted().isPlain())
                .isTrue();
        assertThat(List.of(
                        plain.withNumbers("1.234,56"),
                        plain.withDates(Map.of("", "31.12.2025")),
                        plain.withEncoding("latin1"),
                        plain.withSeparator(";"),
                        plain.withSheet("Orders"),
                        plain.withHeader(3),
                        plain.withUntil("Total"),
                        plain.withUnpivot(months)))
                .noneMatch(FileFormat::isPlain);
        assertThat(Source.files("a.csv")).hasToString("a.csv");
        assertThat(Source.files("a.csv", format).toString()).startsWith("a.csv FileFormat[");
    }

    @ParameterizedTest(name = "{0}..{1} into {2}, {3}: {4}")
    @CsvSource(
            delimiter = '|',
            textBlock =
                    """
            Jan | Mar  | month | amount | {column}        | [Jan, Feb, Mar]
            Feb | Feb  | month | amount | {column} {year} | [Feb]
            Jan | Mar  | Feb   | amount | {column}        | [Jan, Feb, Mar]
            Jan | Mai  | month | amount | {column}        | unpivoting names the column 'Mai', which the file lacks; did you mean 'Mar'?
            Mar | Jan  | month | amount | {column}        | the columns to unpivot are Mar..Jan, and Jan comes first in the file; swap them
            Jan | Mar  | shop  | amount | {column}        | unpivoting makes the columns shop and amount, but the file already has one of them; choose another name
            Jan | Mar  | month | year   | {column}        | unpivoting makes the columns month and year, but the file already has one of them; choose another name
            Jan | Mar  | month | month  | {column}        | unpivoting makes the columns month and month, but the file already has one of them; choose another name
            Jan | Mar  | month | amount | {column} {yer}  | unpivoting names the column 'yer', which the file lacks; did you mean 'year'?
            """)
    void aRangeOfColumnsIsFoundInTheirOrder(
            String first, String last, String into, String values, String as, String expected) {
        FileFormat.Unpivot unpivot = new FileFormat.Unpivot(first, last, into, values, as);
        if (expected.startsWith("[")) {
            assertThat(unpivot.range(NAMES)).hasToString(expected);
        } else {
            assertThatThrownBy(() -> unpivot.range(NAMES)).hasMessage(expected);
        }
    }

    @Test
    void aMemberIsMadeOfTheColumnAndOthers() {
        FileFormat.Unpivot unpivot = new FileFormat.Unpivot("Jan", "Mar", "month", "amount", "{column} of {year}!");
        assertThat(unpivot.member("Feb", name -> "<" + name + ">", text -> "'" + text + "'"))
                .containsExactly("''", "'Feb'", "' of '", "<year>", "'!'");
    }

    @Test
    void unreadValuesSayWhereAndWhatWouldHelp() {
        UnreadValues values = new UnreadValues("net", 3, 1, "n/a", "a.csv:4", Optional.of("numbers: \"1.234,56\""));
        assertThat(values.describe("numbers"))
                .isEqualTo(
                        "of 3 values in the column 'net' 1 cannot be read as numbers, the first is 'n/a' in a.csv:4 (`numbers:"
                                + " \"1.234,56\"` at the source would read all)");
    }
}
