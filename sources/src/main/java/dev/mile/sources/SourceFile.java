package dev.mile.sources;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.engine.FileFormat;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** Reads a file as a model says that it is written: one pass, a row at a time. */
public final class SourceFile {
    private static final List<String> TEXT_FILES = List.of("csv", "tsv", "txt");

    private SourceFile() {}

    /**
     * {@return whether the file is a text with separators}
     *
     * @param file its name, or a pattern
     */
    public static boolean isText(String file) {
        String name = file.toLowerCase(Locale.ROOT);
        String plain = name.endsWith(".gz") ? name.substring(0, name.length() - 3) : name;
        return TEXT_FILES.stream().anyMatch(ending -> plain.endsWith("." + ending));
    }

    /**
     * {@return whether the file is a workbook}
     *
     * @param file its name, or a pattern
     */
    public static boolean isWorkbook(String file) {
        return file.toLowerCase(Locale.ROOT).endsWith(".xlsx");
    }

    /**
     * Reads a file.
     *
     * @param file a text with separators, packed where its name ends with .gz, or a workbook
     * @param format how it is written
     * @param sink where its rows go
     * @throws MileException if it cannot be read, has no header where the format says so, or holds bytes that are not of its encoding
     */
    public static void read(Path file, FileFormat format, RowSink sink) {
        requireNonNull(file, "file is null");
        requireNonNull(format, "format is null");
        requireNonNull(sink, "sink is null");
        RowSink rows = format.unpivot()
                .<RowSink>map(unpivot -> new UnpivotedRows(unpivot, sink))
                .orElse(sink);
        if (isWorkbook(file.toString())) {
            refuse(file, "encoding", format.encoding());
            refuse(file, "separator", format.separator());
            Workbook.read(file, format, rows);
        } else {
            refuse(file, "sheet", format.sheet());
            TextFile.read(file, format, rows);
        }
    }

    private static void refuse(Path file, String key, Optional<String> said) {
        if (said.isPresent()) {
            throw ModelException.of(
                    "`%s` does not apply to %s, which is %s; remove it",
                    key,
                    file.getFileName(),
                    isWorkbook(file.toString()) ? "a workbook" : "a text file and has no sheets");
        }
    }

    /**
     * {@return whether a byte order mark says that a text file is in UTF-16, which not every reader of texts knows}
     *
     * @param file the file
     */
    public static boolean isMarkedUtf16(Path file) {
        requireNonNull(file, "file is null");
        return TextEncoding.of(file, Optional.empty()).isUtf16();
    }

    /**
     * {@return what stands between the values of a text file: what the format says, else the one of {@code , ; tab |} that its header has
     *     most of}
     *
     * @param file a text with separators
     * @param format how it is written
     */
    public static char separator(Path file, FileFormat format) {
        requireNonNull(file, "file is null");
        requireNonNull(format, "format is null");
        return TextFile.separator(file, format);
    }
}
