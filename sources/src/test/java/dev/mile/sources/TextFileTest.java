package dev.mile.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.engine.FileFormat;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.Charset;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TextFileTest {
    private static final String TEXT =
            "Filiale;Betrag\nK\u00f6ln;1,50\n\n\"Bad \"\"N.\"\"\nSued\";2\nLinz;3;4\nWien;\n";

    @TempDir
    Path folder;

    private Path write(String name, String text, String charset) throws IOException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        try (OutputStream out = name.endsWith(".gz") ? new GZIPOutputStream(bytes) : bytes) {
            out.write(text.getBytes(Charset.forName(charset)));
        }
        return Files.write(folder.resolve(name), bytes.toByteArray());
    }

    private static FileFormat format(String encoding, String separator, int header) {
        FileFormat format = FileFormat.PLAIN.withHeader(header);
        format = encoding == null ? format : format.withEncoding(encoding);
        return separator == null ? format : format.withSeparator(separator);
    }

    private static List<String> read(Path file, FileFormat format) {
        return ReadRows.of(file, format);
    }

    @ParameterizedTest
    @CsvSource({
        "a.csv, UTF-8, ",
        "a.txt, windows-1252, windows-1252",
        "a.csv.gz, ISO-8859-1, latin1",
        "a.csv, UTF-16, ", // with a byte order mark
        "a.csv, UTF-16LE, utf-16le"
    })
    void rowsAreReadInTheirEncoding(String name, String charset, String said) throws IOException {
        assertThat(read(write(name, TEXT, charset), format(said, null, 1)))
                .containsExactly(
                        "names [Filiale, Betrag]",
                        name + ":2 [K\u00f6ln, 1,50]",
                        name + ":4 [Bad \"N.\"\nSued, 2]",
                        name + ":6 expected 2 values, as the header has, found 3",
                        name + ":7 [Wien, ]");
    }

    @Test
    void namesMayStandBelowATitleAndSeparatorsAreFoundOrSaid() throws IOException {
        assertThat(read(write("b.csv", "Report, of \"May\n\nshop\tnet\nS1\t5\n", "UTF-8"), format(null, null, 3)))
                .containsExactly("names [shop, net]", "b.csv:4 [S1, 5]");
        assertThat(read(write("c.csv", "a,b!c\n1,2!3\n", "UTF-8"), format(null, "!", 1)))
                .containsExactly("names [a,b, c]", "c.csv:2 [1,2, 3]");
        assertThat(read(write("d.csv", "\ufeffa|b||d\n1|2|3|4\n", "UTF-8"), format(null, null, 1)))
                .containsExactly("names [a, b, column 3, d]", "d.csv:2 [1, 2, 3, 4]");
    }

    @ParameterizedTest
    @CsvSource({"Total, 3 after the end", "To*, 3 after the end", "S2, 4 after the end", "Sum, refused"})
    void tablesEndWhereTheModelSays(String until, String behind) throws IOException {
        Path file = write("t.csv", "shop,net\nS1,5\nS2,Total\n,Total\nTotal,5\nprinted,\n", "UTF-8");
        FileFormat ending = FileFormat.PLAIN.withUntil(until);
        if (behind.equals("refused")) {
            assertThatThrownBy(() -> read(file, ending))
                    .hasMessage(
                            "`until: Sum` never comes in t.csv: no row has it in its first filled cell; correct it, or remove it");
        } else {
            assertThat(read(file, ending)).endsWith(behind).contains("t.csv:2 [S1, 5]");
        }
    }

    private static FileFormat unpivoted(String first, String last, String into, String values, String as) {
        return FileFormat.PLAIN.withUntil("Total").withUnpivot(new FileFormat.Unpivot(first, last, into, values, as));
    }

    @Test
    void columnsBecomeRows() throws IOException {
        Path file = write("w.csv", "shop,Jan,Feb,Mar,year\nS1,5,,7,2026\nS2,,,1,$2025\nTotal,5,0,8,\n", "UTF-8");
        assertThat(read(file, unpivoted("Jan", "Mar", "month", "amount", "{column} {year}")))
                .containsExactly(
                        "names [shop, year, month, amount]",
                        "w.csv:2 [S1, 2026, Jan 2026, 5]",
                        "w.csv:2 [S1, 2026, Mar 2026, 7]",
                        "w.csv:3 [S2, $2025, Mar $2025, 1]",
                        "1 after the end");
        assertThatThrownBy(() -> read(file, unpivoted("Jan", "Mai", "month", "amount", "{column}")))
                .hasMessage("unpivoting names the column 'Mai', which the file lacks; did you mean 'Mar'?");
        assertThatThrownBy(() -> read(file, unpivoted("Mar", "Jan", "month", "amount", "{column}")))
                .hasMessage("the columns to unpivot are Mar..Jan, and Jan comes first in the file; swap them");
        assertThatThrownBy(() -> read(file, unpivoted("Jan", "Mar", "shop", "amount", "{column}")))
                .hasMessage(
                        "unpivoting makes the columns shop and amount, but the file already has one of them; choose another name");
        assertThatThrownBy(() -> read(file, unpivoted("Jan", "Mar", "month", "amount", "{column} {yer}")))
                .hasMessageContaining("names the column 'yer', which the file lacks; did you mean 'year'?");
    }

    @Test
    void whatCannotBeReadIsSaidWithItsLine() throws IOException {
        Path latin = write("e.csv", TEXT, "windows-1252");
        assertThatThrownBy(() -> read(latin, format(null, null, 1)))
                .isInstanceOf(MileException.class)
                .hasMessage(
                        "e.csv:2: the bytes of this line are not UTF-8; the file looks like windows-1252, so say `encoding:"
                                + " windows-1252`");
        Path wide = write("f.csv", "a;b\n" + "\u00f6;\u4e2d\n".repeat(3), "UTF-16LE");
        assertThatThrownBy(() -> read(wide, format("windows-1252", "ab", 1)))
                .hasMessage("`separator` is 'ab'; expected one character, such as \";\", or tab");
        assertThatThrownBy(() -> read(latin, format("klingon", null, 1)))
                .hasMessage(
                        "'klingon' is no encoding that is known here; expected one such as utf-8, windows-1252, iso-8859-1 or"
                                + " utf-16");
        assertThatThrownBy(() -> read(latin, format("windows-1252", null, 12)))
                .hasMessage("the file e.csv has 7 lines; `header: 12` puts the names in line 12");
        assertThatThrownBy(() -> read(write("g.csv", "a,b,a\n", "UTF-8"), format(null, null, 1)))
                .hasMessage("g.csv:1: two columns are named 'a'; names must differ");
        assertThatThrownBy(() -> read(write("h.csv", "", "UTF-8"), format(null, null, 1)))
                .hasMessage("the file h.csv is empty; expected a header and rows");
    }
}
