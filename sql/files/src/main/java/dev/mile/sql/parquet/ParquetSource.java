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
    record Part(
            ParquetFile file,
            ParquetColumn date,
            Map<String, ParquetColumn> texts,
            Map<String, ParquetColumn> numbers) {
        private Part(ParquetFile file, ParquetFooter footer, ParquetQuestion question) throws UnreadParquetException {
            this(
                    file,
                    ParquetColumn.of(footer, question.date(), ParquetColumn.Content.DATE),
                    columns(footer, question.textColumns(), ParquetColumn.Content.TEXT),
                    columns(footer, question.numberColumns(), ParquetColumn.Content.NUMBER));
        }

        private static Map<String, ParquetColumn> columns(
                ParquetFooter footer, List<String> names, ParquetColumn.Content content) throws UnreadParquetException {
            Map<String, ParquetColumn> columns = new HashMap<>();
            for (String name : names) {
                columns.put(name, ParquetColumn.of(footer, name, content));
            }
            return columns;
        }
    }

    /** Rows that lie together in a file. */
    record Rows(Part part, RowGroup group) {}

    private final List<ParquetFile> files = new ArrayList<>();
    private final List<Rows> rows = new ArrayList<>();
    private final Map<String, List<String>> texts = new HashMap<>();

    private ParquetSource() {}

    static ParquetSource open(ParquetQuestion question) throws IOException {
        ParquetSource source = new ParquetSource();
        try {
            for (ParquetFooter footer : question.files()) {
                ParquetFile file = footer.open();
                source.files.add(file);
                Part part = new Part(file, footer, question);
                footer.rowGroups().forEach(group -> source.rows.add(new Rows(part, group)));
            }
            return source;
        } catch (IOException | RuntimeException e) {
            source.close();
            throw e;
        }
    }

    /** Returns the parts that can be read one by one, in the order of the files. */
    List<Rows> rows() {
        return rows;
    }

    /**
     * Returns the texts that the rows may have in a column, none of them empty.
     *
     * @param most how many may be there
     * @param threads how many may read
     * @throws UnreadParquetException if there are more
     */
    List<String> texts(String column, int most, int threads) throws UnreadParquetException {
        List<String> known = texts.get(column);
        if (known == null) {
            Set<String> found = ConcurrentHashMap.newKeySet();
            RowGroupPass.over(
                    rows,
                    threads,
                    () -> (one, pass) -> {
                        ChunkReader.addTexts(
                                one.part().file(),
                                one.group(),
                                one.part().texts().get(column),
                                found);
                        if (found.size() > most) {
                            throw new UnreadParquetException("more texts than are added up here");
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
    int scale(String column) throws UnreadParquetException {
        Set<Integer> scales = new HashSet<>();
        rows.forEach(one -> scales.add(one.part().numbers().get(column).scale()));
        if (scales.size() > 1) {
            throw new UnreadParquetException("files differ in the scale of a column");
        }
        return scales.isEmpty() ? 0 : scales.iterator().next();
    }

    /** Returns whether the files say that every row has a number in the column. */
    boolean isFull(String column) throws UnreadParquetException {
        for (Rows one : rows) {
            if (!one.part().numbers().get(column).isFull(one.group())) {
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
