package dev.mile.sql.files;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.SourceLocation;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.FileFormat;
import dev.mile.engine.SchemaCheck;
import dev.mile.engine.Source;
import dev.mile.engine.UnreadValues;
import dev.mile.fact.ValueType;
import dev.mile.internal.Messages;
import dev.mile.internal.PrivateFolder;
import dev.mile.sources.ColumnCheck;
import dev.mile.sources.PlainCopy;
import dev.mile.sources.RowReader;
import dev.mile.sources.SourceFile;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.parquet.ParquetFooter;
import dev.mile.sql.parquet.ParquetTypes;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.Relation;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Makes a relation of a source. Text files are read as text and typed by what all their values are, so that amounts are exact
 * decimals and codes such as 007 stay codes; columns of Parquet keep their types.
 */
final class SourceLoader {
    /** Numbers whose points may group thousands. */
    private static final String THOUSANDS = "-?[1-9][0-9]{0,2}(\\.[0-9]{3})+";

    /** The most bytes of a line of a text file. */
    private static final int LONGEST_LINE = 2_000_000;

    /** Bytes that a thread reads at a time: several read files of a few megabytes too. A line must fit in. */
    private static final int BUFFER = 2_500_000;

    private static final Pattern LINE_SIZE = Pattern.compile("Maximum line size of ([0-9]+) bytes");

    private final Database database;
    private final ZoneId zone;
    private final List<Path> chosen;
    private final List<ParquetFooter> footers;

    /** Returns the files of a source; routing sends no other here. */
    private static String pattern(Source source) {
        return ((Source.Files) source).pattern();
    }

    SourceLoader(Database database, ZoneId zone) {
        this(database, zone, List.of(), List.of());
    }

    /**
     * Returns a loader.
     *
     * @param chosen the Parquet files that are read instead of all that a source names; empty for all
     * @param footers what the Parquet files say of themselves; none where that is not known
     */
    SourceLoader(Database database, ZoneId zone, List<Path> chosen, List<ParquetFooter> footers) {
        this.database = database;
        this.zone = zone;
        this.chosen = chosen;
        this.footers = footers;
    }

    /**
     * Loads a source.
     *
     * @param name the fact or lookup
     * @param roles date columns by role; empty for a lookup
     * @param texts columns that are texts whatever their values look like: keys
     * @param dayStarts when the day of a column with times begins
     */
    Relation load(String name, Source source, Map<String, String> roles, Set<String> texts, LocalTime dayStarts) {
        check(source);
        try {
            return isTyped((Source.Files) source)
                    ? typed(name, source, roles, dayStarts)
                    : text(name, format(source), source, roles, texts, dayStarts);
        } catch (MileException e) {
            throw e.withLocationOf(source);
        }
    }

    private static void check(Source source) {
        format(source);
        checkThere(source);
        checkFormat(source);
    }

    /** Returns whether the values of a source are read with the types that its files give them. */
    static boolean isTyped(Source.Files source) {
        return format(source).equals("parquet") && source.format().isPlain();
    }

    private static String format(Source source) {
        String location = pattern(source).toLowerCase(Locale.ROOT);
        String plain = location.endsWith(".gz") ? location.substring(0, location.length() - 3) : location;
        for (String format : List.of("csv", "tsv", "txt", "xlsx", "parquet", "json", "jsonl", "ndjson")) {
            if (plain.endsWith("." + format)) {
                return format;
            }
        }
        throw ModelException.of(
                        "'%s' is no file that can be read; expected an ending .csv, .tsv, .txt, .json, .jsonl or .ndjson, each also with .gz behind it, .xlsx or .parquet",
                        fileName(source))
                .withLocationOf(source);
    }

    private static String fileName(Source source) {
        return pattern(source).substring(pattern(source).lastIndexOf('/') + 1);
    }

    private static void checkThere(Source source) {
        String location = pattern(source);
        boolean glob = SourceFiles.isPattern(location);
        if (!glob && !Files.isRegularFile(SourceFiles.path(location))) {
            throw DataException.of(
                            "the file %s is not there; check the path, which is relative to the folder of the model",
                            location)
                    .withLocationOf(source);
        }
        if (glob && matches(location).isEmpty()) {
            throw DataException.of("no file matches %s; check the pattern", location)
                    .withLocationOf(source);
        }
    }

    /** Returns files to choose from a pattern that only the database can list. */
    private static List<Path> matches(String pattern) {
        return SourceFiles.known(pattern)
                ? SourceFiles.of(pattern)
                : List.of(Path.of(pattern.replaceAll("[*?\\[].*", "x")));
    }

    /** Returns the files as the database takes them: those chosen, or all that the source names. */
    private static String parquet(Source source, List<Path> chosen) {
        return chosen.isEmpty()
                ? Sql.text(pattern(source))
                : chosen.stream().map(file -> Sql.text(file.toString())).collect(Collectors.joining(", ", "[", "]"));
    }

    // ---- text files

    private Relation text(
            String name,
            String format,
            Source source,
            Map<String, String> roles,
            Set<String> texts,
            LocalTime dayStarts) {
        FileFormat written = ((Source.Files) source).format();
        boolean isJson = format.startsWith("json") || format.equals("ndjson");
        if (!isJson && written.isPlain() && SourceFile.isText(pattern(source)) && !isUtf16(source)) {
            return csv(name, source, roles, texts, dayStarts);
        }
        if (!isJson || !written.isPlain()) {
            List<RowReader> readers = isJson || format.equals("parquet")
                    ? List.of(typedRows(isJson, source, written))
                    : files(source).stream()
                            .map(file -> RowReader.of(file, written))
                            .toList();
            return formatted(name, readers, source, roles, texts, dayStarts);
        }
        String raw = Sql.name("raw " + name);
        json(raw, source);
        List<String> columns = columns(raw);
        SchemaCheck.roles(name, roles, new LinkedHashSet<>(columns), fileName(source));
        TextColumns typed = TextColumns.ofAllRows(database, raw, columns, texts);
        create(name, raw, typed, source, roles, dayStarts);
        database.drop(raw);
        return new Relation(Sql.name(name), typed.types(), FactAccounts.Rejected.NONE);
    }

    private static void requireRows(FactAccounts.Rejected rejected, Source source) {
        if (!((Source.Files) source).format().countsRejects()) {
            RejectedLines.require(rejected);
        }
    }

    /** Makes the table of a source from rows of texts. */
    private void create(
            String name,
            String from,
            TextColumns columns,
            Source source,
            Map<String, String> roles,
            LocalTime dayStarts) {
        List<String> texts = new ArrayList<>();
        List<String> dates = new ArrayList<>();
        roles.forEach((role, column) -> {
            boolean isDate = columns.types().get(column) == ValueType.DATE;
            String day = isDate
                    ? DaySql.DIALECT.epochDay(Sql.name(column))
                    : new DaySql(zone, dayStarts).ofText(TextColumns.trimmed(column));
            (isDate ? dates : texts).add(day + " AS " + Relation.dayColumn(role));
        });
        String typed = columns.select(from, texts, fileName(source));
        database.run("CREATE OR REPLACE TABLE " + Sql.name(name) + " AS "
                + (dates.isEmpty() ? typed : "SELECT *, " + String.join(", ", dates) + " FROM (" + typed + ")"));
    }

    /** Refuses what does not apply to files whose values have types. */
    private static void checkFormat(Source source) {
        FileFormat format = ((Source.Files) source).format();
        boolean asText = SourceFile.isText(pattern(source)) || SourceFile.isWorkbook(pattern(source));
        boolean onlyValues = format.encoding().isEmpty()
                && format.separator().isEmpty()
                && format.sheet().isEmpty()
                && format.header() == 1
                && format.until().isEmpty();
        if (!asText && !onlyValues) {
            throw ModelException.of(
                            "%s is no text file with separators and no workbook, so `encoding`, `separator`, `sheet`, `header` and `until` do not"
                                    + " apply to it; remove them",
                            fileName(source))
                    .withLocationOf(source);
        }
    }

    /** Returns the rows of JSON or Parquet, in which texts may be numbers and dates by example. */
    private RowReader typedRows(boolean isJson, Source source, FileFormat format) {
        TypedRows rows = TypedRows.of(
                database,
                fileName(source),
                isJson ? jsonValues(source) : "read_parquet(" + parquet(source, chosen) + ")");
        return format.unpivot().map(rows::unpivoted).orElse(rows);
    }

    /** Returns JSON whose values keep their types. */
    private String jsonValues(Source source) {
        String file = Sql.text(pattern(source));
        List<String> fields = database.query(
                "DESCRIBE SELECT * FROM read_json_auto(" + file + ")", row -> Sql.text(row.getString(1)) + ": 'JSON'");
        return "read_json(" + file + ", columns = {" + String.join(", ", fields) + "})";
    }

    /** Reads rows that are written in a way of their own: what the database reads is a copy of them in plain numbers and dates. */
    private Relation formatted(
            String name,
            List<RowReader> rows,
            Source source,
            Map<String, String> roles,
            Set<String> texts,
            LocalTime dayStarts) {
        Path copy = null;
        try {
            copy = PrivateFolder.newFile(".csv");
            PlainCopy written =
                    PlainCopy.write(rows, ((Source.Files) source).format(), texts, Set.copyOf(roles.values()), copy);
            FactAccounts.Rejected rejected =
                    new FactAccounts.Rejected(written.rejected(), written.firstRejected(), written.afterEnd());
            requireRows(rejected, source);
            List<String> columns = written.columns();
            SchemaCheck.roles(name, roles, new LinkedHashSet<>(columns), fileName(source));
            String from = "read_csv(" + Sql.text(copy.toString())
                    + ", auto_detect = false, header = true, delim = ',', quote = '\"', escape = '\"', new_line = '\\n', max_line_size = "
                    + LONGEST_LINE + ", buffer_size = " + BUFFER + ", parallel = "
                    + !written.hasLineBreaks() + ", columns = "
                    + columns.stream()
                            .map(column -> Sql.text(column) + ": 'VARCHAR'")
                            .collect(Collectors.joining(", ", "{", "}"))
                    + ")";
            TextColumns typed = TextColumns.ofFirstRows(database, from, columns, texts);
            try {
                create(name, from, typed, source, roles, dayStarts);
            } catch (MileException e) {
                // a later row is not like the first ones
                typed = TextColumns.ofAllRows(database, from, columns, texts);
                create(name, from, typed, source, roles, dayStarts);
            }
            checkThousands(from, typed, source);
            return new Relation(Sql.name(name), typed.types(), rejected);
        } catch (IOException e) {
            throw DataException.of("a temporary file cannot be written: %s", e.getMessage())
                    .withCause(e);
        } finally {
            delete(copy);
        }
    }

    /** Returns the values of a column that cannot be read as what it is used as; empty for files whose values have types. */
    static Optional<UnreadValues> unread(Source.Files source, String column, ValueType as) {
        return SourceFile.isText(source.pattern()) || SourceFile.isWorkbook(source.pattern())
                ? ColumnCheck.unread(files(source), source.format(), column, as)
                : Optional.empty();
    }

    /** Returns the first row with a date in a column, as it stands in its file; empty for files whose values have types. */
    static Optional<String> row(Source.Files source, String column, LocalDate date) {
        return SourceFile.isText(source.pattern()) || SourceFile.isWorkbook(source.pattern())
                ? ColumnCheck.row(files(source), source.format(), column, date)
                : Optional.empty();
    }

    private static void delete(@Nullable Path file) {
        try {
            if (file != null) {
                Files.deleteIfExists(file);
            }
        } catch (IOException e) {
            // the system clears its folder of temporary files
        }
    }

    /** Takes rows for the errors that reading them may find. */
    private static boolean isUtf16(Source source) {
        return files(source).stream().filter(Files::isRegularFile).anyMatch(SourceFile::isMarkedUtf16);
    }

    /**
     * Reads a text file in one go, with the types that its first rows show. Where a later row shows that a type is another one, the file is
     * read as text, and all rows are looked at.
     */
    private Relation csv(
            String name, Source source, Map<String, String> roles, Set<String> texts, LocalTime dayStarts) {
        String first = Sql.name("first " + name);
        List<String> columns = loadFirst(first, source);
        SchemaCheck.roles(name, roles, new LinkedHashSet<>(columns), fileName(source));
        TextColumns typed = TextColumns.ofFirstRows(database, first, columns, texts);
        database.drop(first);
        String rejects = "rejects_" + Math.abs((long) name.hashCode());
        try {
            create(name, readCsv(source, storing(rejects)), typed, source, roles, dayStarts);
        } catch (MileException e) {
            // a later row is not like the first ones, or the file cannot be read, which shows again
            String raw = Sql.name("raw " + name);
            rejects += "_of_all";
            String all = "CREATE OR REPLACE TABLE " + raw + " AS SELECT * FROM " + readCsv(source, storing(rejects));
            explained(source, () -> {
                database.run(all);
                return raw;
            });
            typed = TextColumns.ofAllRows(database, raw, columns, texts);
            create(name, raw, typed, source, roles, dayStarts);
            database.drop(raw);
        }
        checkThousands(readCsv(source, "ignore_errors = true"), typed, source);
        FactAccounts.Rejected rejected = rejected(rejects);
        if (rejected.example().toLowerCase(Locale.ROOT).contains("unicode")) {
            checkText(source);
        }
        requireRows(rejected, source);
        return new Relation(Sql.name(name), typed.types(), rejected);
    }

    /** Makes a table of the first rows of a text file and returns its columns. */
    private List<String> loadFirst(String table, Source source) {
        List<String> columns = explained(source, () -> {
            database.run("CREATE OR REPLACE TEMP TABLE " + table + " AS SELECT * FROM "
                    + readCsv(source, "ignore_errors = true") + " LIMIT " + TextColumns.SAMPLE);
            return columns(table);
        });
        if (columns.isEmpty() || isEmpty(source)) {
            throw DataException.of("the file %s is empty; expected a header and rows", fileName(source));
        }
        if (columns.stream()
                .anyMatch(column ->
                        column.endsWith("_1") && columns.contains(column.substring(0, column.length() - 2)))) {
            // the database numbers columns that have one name
            checkText(source);
        }
        return columns;
    }

    private static String readCsv(Source source, String options) {
        return "read_csv(" + Sql.text(pattern(source))
                + ", all_varchar = true, header = true, sample_size = 200, delim = "
                + Sql.text(Character.toString(separator(source))) + ", quote = '\"', escape = '\"', max_line_size = "
                + LONGEST_LINE + ", buffer_size = "
                + BUFFER + ", " + options + ")";
    }

    /** Has lines that are no rows noted in a table. */
    private static String storing(String rejects) {
        return "store_rejects = true, rejects_table = " + Sql.text(rejects) + ", rejects_scan = "
                + Sql.text(rejects + "_scan");
    }

    /** Reads a text file, and says what is wrong with it where the database cannot. */
    private static <T> T explained(Source source, Supplier<T> reading) {
        try {
            return reading.get();
        } catch (MileException e) {
            if (isEmpty(source)) {
                throw DataException.of("the file %s is empty; expected a header and rows", fileName(source))
                        .withCause(e);
            }
            Matcher tooLong = LINE_SIZE.matcher(String.valueOf(
                    Optional.ofNullable(e.getCause()).map(Throwable::getMessage).orElse("")));
            if (tooLong.find()) {
                throw DataException.of(
                                "a line of the file is longer than %,d bytes; look for quotes that do not close, or have shorter texts written",
                                Long.parseLong(tooLong.group(1)))
                        .withCause(e)
                        .withLocation(SourceLocation.of(fileName(source)));
            }
            // finds what is wrong, and where
            checkText(source);
            throw e;
        }
    }

    /** Says where a file is not what it should be: bytes of another encoding, two columns of one name, a line that is no row. */
    private static void checkText(Source source) {
        files(source).forEach(file -> SourceFile.read(file, FileFormat.PLAIN, new RejectedLines()));
    }

    /** Refuses a column whose values all read like 1.048: where semicolons part values, the point may group thousands. */
    private void checkThousands(String rows, TextColumns columns, Source source) {
        boolean doubtful = SourceFile.isText(pattern(source))
                && ((Source.Files) source).format().numbers().isEmpty()
                && separator(source) == ';';
        List<String> numbers = columns.types().entrySet().stream()
                .filter(column -> column.getValue() == ValueType.NUMBER)
                .map(Map.Entry::getKey)
                .toList();
        if (!doubtful || numbers.isEmpty()) {
            return;
        }
        String examples = numbers.stream()
                .map(column -> "CASE WHEN bool_and(regexp_full_match(" + TextColumns.trimmed(column) + ", "
                        + Sql.text(THOUSANDS) + ")) THEN min(" + TextColumns.trimmed(column) + ") END")
                .collect(Collectors.joining(", "));
        database.query("SELECT " + examples + " FROM " + rows, row -> {
            for (int c = 0; c < numbers.size(); c++) {
                String example = row.getString(c + 1);
                if (example != null) {
                    throw doubtful(numbers.get(c), example, source);
                }
            }
            return rows;
        });
    }

    private static MileException doubtful(String column, String example, Source source) {
        String doubt = Messages.format(
                "all values of the column '%s' in %s read like '%s', which may be %s or %s",
                column, fileName(source), example, example.replace(".", ""), example);
        return DataException.of(
                        "%s; say which with FileFormat.withNumbers(\"1.234,56\") or withNumbers(\"1,234.56\")", doubt)
                .withModelWords(
                        "%s; say which with `source: {file: %s, numbers: \"1.234,56\"}` or `numbers: \"1,234.56\"`",
                        doubt, fileName(source));
    }

    private FactAccounts.Rejected rejected(String rejects) {
        // a line is listed once for each of its faults
        long lines = database.query(
                        "SELECT count(*) FROM (SELECT DISTINCT file_id, line FROM " + rejects + ")",
                        row -> row.getLong(1))
                .get(0);
        if (lines == 0) {
            return FactAccounts.Rejected.NONE;
        }
        // a line with too few values has a fault for each of those that are missing; the first says how many there are
        String first = database.query(
                        "SELECT s.file_path, r.line, r.error_message FROM " + rejects + " AS r JOIN " + rejects
                                + "_scan AS s USING (scan_id, file_id) ORDER BY 1, 2, r.column_idx, 3 LIMIT 1",
                        row -> Path.of(row.getString(1)).getFileName() + ":" + row.getLong(2) + ": "
                                + RejectedLines.reason(Database.firstLine(row.getString(3))))
                .get(0);
        return new FactAccounts.Rejected(lines, first, 0);
    }

    private static List<Path> files(Source source) {
        return SourceFiles.isPattern(pattern(source)) ? matches(pattern(source)) : List.of(Path.of(pattern(source)));
    }

    private static char separator(Source source) {
        Path first = files(source).get(0);
        return Files.isRegularFile(first) ? SourceFile.separator(first, ((Source.Files) source).format()) : ',';
    }

    private static boolean isEmpty(Source source) {
        try {
            Path file = Path.of(pattern(source));
            return Files.isRegularFile(file) && Files.size(file) == 0;
        } catch (IOException e) {
            return false;
        }
    }

    /** Numbers in JSON would be read as binary floating; as text they stay exact. */
    private void json(String raw, Source source) {
        String file = Sql.text(pattern(source));
        List<String> fields = database.query(
                "DESCRIBE SELECT * FROM read_json_auto(" + file + ")",
                row -> Sql.text(row.getString(1)) + ": 'VARCHAR'");
        database.run("CREATE OR REPLACE TABLE " + raw + " AS SELECT * FROM read_json(" + file + ", columns = {"
                + String.join(", ", fields) + "})");
    }

    private List<String> columns(String relation) {
        return database.query("DESCRIBE " + relation, row -> row.getString(1));
    }

    // ---- files with types

    /**
     * Returns the view of a source whose files say all that it takes, so that no database is asked; empty for others.
     *
     * @param chosen the files that are read instead of all that a source names; empty for all
     */
    static Optional<TypedView> view(
            String name,
            Source source,
            List<ParquetFooter> footers,
            List<Path> chosen,
            Map<String, String> roles,
            DaySql days) {
        check(source);
        return ParquetTypes.of(footers)
                .filter(types -> roles.values().stream()
                        .allMatch(column -> types.getOrDefault(column, "DATE").equals("DATE")))
                .map(types -> TypedView.of(
                        name,
                        "read_parquet(" + parquet(source, chosen) + ")",
                        types,
                        footers,
                        roles,
                        days,
                        fileName(source)));
    }

    /** Makes a view of files whose values have types; the database says which. */
    private Relation typed(String name, Source source, Map<String, String> roles, LocalTime dayStarts) {
        String from = "read_parquet(" + parquet(source, chosen) + ")";
        checkParts(from, source);
        Map<String, String> types = new LinkedHashMap<>();
        database.query("DESCRIBE SELECT * FROM " + from, row -> types.put(row.getString(1), row.getString(2)));
        TypedView view = TypedView.of(name, from, types, footers, roles, new DaySql(zone, dayStarts), fileName(source));
        database.run(view.statement());
        return view.relation();
    }

    /** Checks that the files of a pattern agree in what their columns hold: a silent cast could round amounts. */
    private void checkParts(String from, Source source) {
        if (!SourceFiles.isPattern(pattern(source))) {
            return;
        }
        String kind = "CASE WHEN converted_type = 'DECIMAL' THEN 'decimals with ' || scale || ' places'"
                + " WHEN converted_type = 'UTF8' THEN 'texts'"
                + " WHEN type IN ('FLOAT', 'DOUBLE') THEN 'floating numbers'"
                + " WHEN converted_type IS NULL AND logical_type IS NULL OR regexp_matches(converted_type, '^U?INT_')"
                + " THEN CASE WHEN type LIKE 'INT%' THEN 'whole numbers' ELSE lower(type) END"
                + " ELSE lower(coalesce(converted_type, logical_type)) END";
        List<String> different = database.query(
                "SELECT name, min(k), max(k), min_by(file_name, k), max_by(file_name, k) FROM (SELECT file_name, name, "
                        + kind + " AS k FROM " + from.replaceFirst("read_parquet", "parquet_schema")
                        + " WHERE num_children IS NULL) GROUP BY name HAVING min(k) <> max(k) ORDER BY name LIMIT 1",
                row -> Messages.format(
                        "the column '%s' holds %s in %s and %s in %s; write all files with the same types",
                        row.getString(1),
                        row.getString(2),
                        Path.of(row.getString(4)).getFileName(),
                        row.getString(3),
                        Path.of(row.getString(5)).getFileName()));
        if (!different.isEmpty()) {
            throw DataException.of("%s", different.get(0));
        }
    }
}
