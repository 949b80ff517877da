package dev.mile.sql.parquet;

import java.io.IOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.apache.parquet.format.RowGroup;

/** The files of a question, open, with the columns that it asks for. What it hands out is safe for use by several threads. */
final class ParquetSource implements AutoCloseable {
    /** A file, with the columns of the question by name. */
    record FileColumns(
            ParquetFile file,
            ParquetColumn date,
            Map<String, ParquetColumn> texts,
            Map<String, ParquetColumn> numbers) {
        private FileColumns(ParquetFile file, ParquetFooter footer, ParquetQuestion question)
                throws UnsupportedParquetException {
            this(
                    file,
                    ParquetColumn.of(footer, question.date(), ParquetColumn.Content.DATE),
                    columns(footer, question.textColumns(), ParquetColumn.Content.TEXT),
                    columns(footer, question.numberColumns(), ParquetColumn.Content.NUMBER));
        }

        private static Map<String, ParquetColumn> columns(
                ParquetFooter footer, List<String> names, ParquetColumn.Content content)
                throws UnsupportedParquetException {
            Map<String, ParquetColumn> columns = new HashMap<>();
            for (String name : names) {
                columns.put(name, ParquetColumn.of(footer, name, content));
            }
            return columns;
        }
    }

    /** A row group, with the columns of its file. */
    record OpenRowGroup(FileColumns columns, RowGroup group) {}

    private final List<ParquetFile> files = new ArrayList<>();
    private final List<OpenRowGroup> rowGroups = new ArrayList<>();
    private final Map<String, List<String>> texts = new HashMap<>();

    private ParquetSource() {}

    static ParquetSource open(ParquetQuestion question) throws IOException {
        ParquetSource source = new ParquetSource();
        try {
            for (ParquetFooter footer : question.files()) {
                ParquetFile file = footer.open();
                source.files.add(file);
                FileColumns columns = new FileColumns(file, footer, question);
                footer.rowGroups().forEach(group -> source.rowGroups.add(new OpenRowGroup(columns, group)));
            }
            return source;
        } catch (IOException | RuntimeException e) {
            source.close();
            throw e;
        }
    }

    /** Returns the row groups, in the order of the files. */
    List<OpenRowGroup> rowGroups() {
        return rowGroups;
    }

    /**
     * Returns the texts that the rows may have in a column, none of them empty.
     *
     * @param most how many may be there
     * @param threads how many may read
     * @throws UnsupportedParquetException if there are more
     */
    List<String> texts(String column, int most, int threads) throws UnsupportedParquetException {
        List<String> known = texts.get(column);
        if (known == null) {
            Set<String> found = ConcurrentHashMap.newKeySet();
            RowGroupPass.over(
                    rowGroups,
                    threads,
                    () -> (one, pass) -> {
                        ChunkReader.addTexts(
                                one.columns().file(),
                                one.group(),
                                one.columns().texts().get(column),
                                found);
                        if (found.size() > most) {
                            throw new UnsupportedParquetException("more texts than are added up here");
                        }
                    },
                    Optional.empty());
            found.remove("");
            known = List.copyOf(found);
            texts.put(column, known);
        }
        return known;
    }

    /** Returns how many digits of a column of numbers follow the decimal point. */
    int scale(String column) throws UnsupportedParquetException {
        Set<Integer> scales = new HashSet<>();
        rowGroups.forEach(one -> scales.add(one.columns().numbers().get(column).scale()));
        if (scales.size() > 1) {
            throw new UnsupportedParquetException("files differ in the scale of a column");
        }
        return scales.isEmpty() ? 0 : scales.iterator().next();
    }

    /** Returns whether the files say that every row has a number in the column. */
    boolean isFull(String column) throws UnsupportedParquetException {
        for (OpenRowGroup one : rowGroups) {
            if (!one.columns().numbers().get(column).isFull(one.group())) {
                return false;
            }
        }
        return true;
    }

    @Override
    public void close() throws IOException {
        for (ParquetFile file : files) {
            file.close();
        }
    }
}
