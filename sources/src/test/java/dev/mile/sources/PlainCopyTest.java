package dev.mile.sources;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.engine.FileFormat;
import dev.mile.engine.UnreadValues;
import dev.mile.fact.ValueType;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class PlainCopyTest {
    private static final FileFormat GERMAN =
            FileFormat.PLAIN.withNumbers("1.234,56").withDates(Map.of("", "31.12.2025"));

    @TempDir
    Path folder;

    private RowReader file(String name, FileFormat format, String text) throws IOException {
        return RowReader.of(Files.writeString(folder.resolve(name), text), format);
    }

    private String copy(FileFormat format, RowReader... files) throws IOException {
        Path copy = folder.resolve("copy.csv");
        PlainCopy.write(List.of(files), format, Set.of("key"), Set.of("on"), copy);
        return Files.readString(copy);
    }

    /** A column is of numbers or dates where all its values are; keys stay; what is no date in a column of dates stays too. */
    @Test
    void valuesAreMadePlain() throws IOException {
        String text = "key;on;net;also;note;mixed\n"
                + "007;31.03.2026;1.234,50 \u20ac;01.04.2026;a, \"b\";12\n"
                + "8;;-3;02.04.2026;;1.000,5\n"
                + ";soon;;;3,5;none\n";
        text = text.replace("a, \"b\"", "\"a, \"\"b\"\"\nc\"");
        assertThat(copy(GERMAN, file("a.csv", GERMAN, text)))
                .isEqualTo("key,on,net,also,note,mixed\n"
                        + "007,2026-03-31,1234.50,2026-04-01,\"a, \"\"b\"\"\nc\",12\n"
                        + "8,,-3,2026-04-02,,\"1.000,5\"\n"
                        + ",soon,,,\"3,5\",none\n");
    }

    @Test
    void filesOfAPatternHaveTheSameColumns() throws IOException {
        RowReader first = file("a.csv", GERMAN, "net\n1\n\n\"\"\n");
        assertThat(copy(GERMAN, first, file("b.csv", GERMAN, "net\n\"2,5\"\n"))).isEqualTo("net\n1\n\"\"\n2.5\n");
        assertThatThrownBy(() -> copy(GERMAN, first, file("c.csv", GERMAN, "gross\n2\n")))
                .hasMessage(
                        "the file c.csv has the columns [gross], but the files before it have [net]; all files of a pattern need"
                                + " the same columns");
        assertThatThrownBy(() ->
                        copy(GERMAN.withDates(Map.of("onn", "31.12.2025")), file("d.csv", GERMAN, "on;net\n;1\n")))
                .hasMessage("`dates` names the column 'onn', which d.csv lacks; did you mean 'on'?");
    }

    @Test
    void columnsUnlikeTheirExampleAreRefused() throws IOException {
        assertThatThrownBy(() -> copy(GERMAN, file("a.csv", GERMAN, "net;x\n1;\n12;\n1,234.50;\n")))
                .hasMessage(
                        "of 3 values in the column 'net' 1 cannot be read like '1.234,56', the first is '1,234.50' in"
                                + " a.csv:4; '1,234.56' would read them all: write it in `numbers`, or correct the file");
        assertThatThrownBy(() -> copy(GERMAN, file("b.csv", GERMAN, "on;x\n2026/03/31;\n2026/04/01;\n")))
                .hasMessage(
                        "of 2 values in the column 'on' 2 cannot be read like '31.12.2025', the first is '2026/03/31' in"
                                + " b.csv:2; copy another example into `dates`, or correct the file");
    }

    @Test
    void whatWouldReadAColumnIsFound() throws IOException {
        Path file = Files.writeString(
                folder.resolve("a.csv"), "on;net;open\n31.03.2026;1.234,50;03/04/2026\n1.4.2026;(7);05/06/2026\n;x;\n");
        assertThat(ColumnCheck.unread(List.of(file), FileFormat.PLAIN, "on", ValueType.DATE))
                .contains(new UnreadValues("on", 2, 2, "31.03.2026", "a.csv:2", Optional.of("dates: \"31.12.2025\"")));
        assertThat(ColumnCheck.unread(List.of(file), FileFormat.PLAIN, "open", ValueType.DATE))
                .contains(new UnreadValues(
                        "open",
                        2,
                        2,
                        "03/04/2026",
                        "a.csv:2",
                        Optional.of("dates: \"31/12/2025\"` or `dates: \"12/31/2025\"")));
        assertThat(ColumnCheck.unread(List.of(file), GERMAN, "net", ValueType.NUMBER))
                .contains(new UnreadValues("net", 3, 1, "x", "a.csv:4", Optional.empty()));
        assertThat(ColumnCheck.unread(List.of(file), GERMAN, "on", ValueType.DATE))
                .isEmpty();
    }
}
