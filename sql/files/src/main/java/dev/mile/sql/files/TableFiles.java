package dev.mile.sql.files;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.duckdb.EmbeddedDatabase;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/** Tables in files, read as texts and written as Parquet, with the embedded database. */
public final class TableFiles {
    private TableFiles() {}

    /**
     * The values of a file.
     *
     * @param header the names of the columns
     * @param rows the values as texts, blanks empty
     */
    public record Content(List<String> header, List<List<String>> rows) {}

    /**
     * Reads a CSV or Parquet file.
     *
     * @param file the file
     * @return what was read
     * @throws MileException if it is not there or cannot be read
     */
    public static Content read(Path file) {
        requireNonNull(file, "file is null");
        if (!Files.isRegularFile(file)) {
            throw DataException.of("the file %s is not there; check the path", file);
        }
        if (file.toFile().length() == 0) {
            throw DataException.of("the file %s is empty; expected a header and rows", file);
        }
        String from = file.toString().endsWith(".parquet")
                ? "read_parquet(" + Sql.text(file.toString()) + ")"
                : "read_csv(" + Sql.text(file.toString()) + ", all_varchar = true, header = true)";
        try (EmbeddedDatabase database = EmbeddedDatabase.open()) {
            List<String> header = database.query("DESCRIBE SELECT * FROM " + from, row -> row.getString(1));
            List<List<String>> rows = database.query("SELECT COLUMNS(*)::VARCHAR FROM " + from, row -> {
                List<String> values = new ArrayList<>();
                for (int c = 1; c <= header.size(); c++) {
                    String value = row.getString(c);
                    values.add(value == null ? "" : value);
                }
                return values;
            });
            return new Content(header, rows);
        }
    }

    /**
     * Makes a Parquet file of a CSV file.
     *
     * @param csv the file
     * @param types the SQL type of each column, in order
     * @param target the table
     */
    public static void parquet(Path csv, Map<String, String> types, Path target) {
        requireNonNull(csv, "csv is null");
        requireNonNull(types, "types is null");
        requireNonNull(target, "target is null");
        List<String> columns = new ArrayList<>();
        types.forEach((name, type) -> columns.add(Sql.text(name) + ": " + Sql.text(type)));
        try (EmbeddedDatabase database = EmbeddedDatabase.open()) {
            database.write("COPY (SELECT * FROM read_csv(" + Sql.text(csv.toString())
                    + ", header = true, auto_detect = false, delim = ',', quote = '\"',"
                    + " escape = '\"', columns = {" + String.join(", ", columns) + "})) TO "
                    + Sql.text(target.toString())
                    + " (FORMAT PARQUET)");
        }
    }
}
