package dev.mile.sql.files;

import static java.util.Objects.requireNonNull;

import dev.mile.engine.FileFormat;
import dev.mile.engine.Source;
import dev.mile.fact.ValueType;
import dev.mile.internal.EpochDays;
import dev.mile.sources.DraftFormat;
import dev.mile.sources.FormatFinder;
import dev.mile.sources.SourceFile;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.duckdb.EmbeddedDatabase;
import dev.mile.sql.query.Database;
import dev.mile.sql.query.Relation;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;

/**
 * What a data file holds, for a first draft of a model.
 *
 * @param file the file
 * @param rows how many rows
 * @param columns its columns
 * @param draft how it seems to be written; empty for files whose values have types
 * @param links its columns that hold keys of other files
 */
public record FileProfile(
        Path file, long rows, List<Column> columns, Optional<DraftFormat> draft, List<KeyLink> links) {
    /** No column of a file is named so. */
    private static final String DAY = Sql.name("mile day");

    private static final List<String> ENDINGS = List.of("id", "key", "code", "number", "num", "no", "nr", "name");
    /** So many keys in a hundred must be different for a column to be meant as a key, and so many of the values must be keys. */
    private static final int DIFFERENT = 60;

    private static final int FOUND = 50;
    /** So many letters may make a plural of a name: shops, Filialen. */
    private static final int PLURAL = 2;

    private static final int HUNDRED = 100;

    /**
     * A column.
     *
     * @param name its name
     * @param type what its values are; a column that is mostly dates or times counts as DATE
     * @param values how many values it has
     * @param distinct how many different values it has
     * @param isWhole whether its values are numbers without decimals
     * @param first the first date; null where it has none
     * @param last the last date; null where it has none
     * @param spread whether the dates are spread over their range rather than gathered at one end
     */
    public record Column(
            String name,
            ValueType type,
            long values,
            long distinct,
            boolean isWhole,
            LocalDate first,
            LocalDate last,
            boolean spread) {}

    /**
     * A column that holds keys of another file.
     *
     * @param column the column
     * @param lookup the other file
     * @param key its column of keys
     * @param repeated a key that two of its rows have; empty where all differ
     */
    public record KeyLink(String column, Path lookup, String key, Optional<String> repeated) {}

    /**
     * Looks at files.
     *
     * @param files the files
     * @return what each of them holds
     */
    public static List<FileProfile> of(List<Path> files) {
        requireNonNull(files, "files is null");
        try (EmbeddedDatabase database = EmbeddedDatabase.open()) {
            List<Loaded> loaded = new ArrayList<>();
            for (Path file : files) {
                String table = "data " + loaded.size();
                loaded.add(database.onOneConnection(one -> load(one, file, table)));
            }
            return loaded.stream()
                    .map(one -> new FileProfile(
                            one.file(), one.rows(), one.columns(), one.draft(), links(database, one, loaded)))
                    .toList();
        }
    }

    /** A file that is in the database. */
    private record Loaded(Path file, long rows, List<Column> columns, Optional<DraftFormat> draft, Relation relation) {}

    private static Loaded load(Database database, Path file, String table) {
        String name = file.toString();
        boolean hasFormat = SourceFile.isText(name) || SourceFile.isWorkbook(name);
        Optional<DraftFormat> draft = hasFormat ? Optional.of(FormatFinder.of(file)) : Optional.empty();
        FileFormat format = draft.map(DraftFormat::format).orElse(FileFormat.PLAIN);
        Relation relation = new SourceLoader(database, ZoneId.of("UTC"))
                .load(table, Source.files(name, format.withRejectsCounted()), Map.of(), Set.of(), LocalTime.MIDNIGHT);
        long rows = database.query("SELECT count(*) FROM " + relation.sql(), row -> row.getLong(1))
                .get(0);
        List<Column> columns = new ArrayList<>();
        relation.types().forEach((column, type) -> columns.add(column(database, relation, column, type)));
        return new Loaded(file, rows, columns, draft, relation);
    }

    private static Column column(Database database, Relation relation, String name, ValueType type) {
        String quoted = Sql.name(name);
        String day = "TRY_CAST(TRY_CAST(" + quoted + " AS TIMESTAMP) AS DATE) - DATE '1970-01-01'";
        // 20260401 is a number, and a date where all values of a column read so
        String basic = "CASE WHEN " + quoted + " BETWEEN 19900101 AND 20991231 THEN CAST(TRY_STRPTIME(CAST(CAST("
                + quoted + " AS BIGINT) AS VARCHAR), '%Y%m%d') AS DATE) - DATE '1970-01-01' END";
        String dates =
                switch (type) {
                    case DATE, TEXT -> day;
                    case NUMBER -> basic;
                    default -> "NULL::INTEGER";
                };
        String whole = type == ValueType.NUMBER ? "bool_and(" + quoted + " = trunc(" + quoted + "))" : "false";
        return database.query(
                        "SELECT count(" + quoted + "), count(DISTINCT " + quoted
                                + "), count(" + DAY + "), min(" + DAY + "), max(" + DAY + "), quantile_disc(" + DAY
                                + ", 0.1), quantile_disc(" + DAY + ", 0.9), " + whole + " FROM (SELECT " + quoted + ", "
                                + dates
                                + " AS " + DAY + " FROM " + relation.sql() + ")",
                        row -> {
                            // a few broken dates do not make a column of texts
                            boolean isDate = row.getLong(3) > 0
                                    && row.getLong(3) * 10 >= row.getLong(1) * (type == ValueType.NUMBER ? 10 : 9);
                            ValueType seen = isDate ? ValueType.DATE : type == ValueType.DATE ? ValueType.TEXT : type;
                            return new Column(
                                    name,
                                    seen,
                                    row.getLong(1),
                                    row.getLong(2),
                                    row.getBoolean(8),
                                    isDate ? EpochDays.toDate(row.getInt(4)) : null,
                                    isDate ? EpochDays.toDate(row.getInt(5)) : null,
                                    isDate && (row.getInt(7) - row.getInt(6)) * 2 > row.getInt(5) - row.getInt(4));
                        })
                .get(0);
    }

    // ---- keys

    private static List<KeyLink> links(Database database, Loaded from, List<Loaded> all) {
        List<KeyLink> links = new ArrayList<>();
        for (Column column : from.columns()) {
            all.stream()
                    .filter(to -> to != from && to.rows() < from.rows())
                    .flatMap(to -> to.columns().stream()
                            .filter(key -> isKey(key, to)
                                    && namesSame(column, key, to)
                                    && holds(database, column, from, key, to))
                            .map(key -> new KeyLink(column.name(), to.file(), key.name(), repeated(database, key, to))))
                    .min(Comparator.comparing(link -> link.repeated().isPresent()))
                    .ifPresent(links::add);
        }
        return links;
    }

    private static boolean isKey(Column key, Loaded file) {
        return key.type() != ValueType.DATE
                && key.type() != ValueType.FLOATING
                && key.values() == file.rows()
                && key.distinct() * HUNDRED >= file.rows() * DIFFERENT;
    }

    /** Returns whether names mean the same: shop and shop, Shop_ID and shop; or shop and the id of the file shops. */
    private static boolean namesSame(Column column, Column key, Loaded file) {
        String stem = stem(column.name());
        String keyStem = stem(key.name());
        String fileName = letters(String.valueOf(file.file().getFileName()).replaceFirst("\\..*", ""));
        return column.name().equalsIgnoreCase(key.name())
                || stem.equals(keyStem)
                || keyStem.isEmpty() && fileName.startsWith(stem) && fileName.length() - stem.length() <= PLURAL;
    }

    private static String letters(String text) {
        return text.toLowerCase(Locale.ROOT).replaceAll("[^\\p{L}0-9]", "");
    }

    private static String stem(String name) {
        String letters = letters(name);
        return ENDINGS.stream()
                .filter(letters::endsWith)
                .findFirst()
                .map(ending -> letters.substring(0, letters.length() - ending.length()))
                .orElse(letters);
    }

    private static boolean holds(Database database, Column column, Loaded from, Column key, Loaded to) {
        return database.query(
                        "SELECT count(*), count_if(v IN (SELECT CAST(" + Sql.name(key.name()) + " AS VARCHAR) FROM "
                                + to.relation().sql() + ")) FROM (SELECT DISTINCT CAST(" + Sql.name(column.name())
                                + " AS VARCHAR) AS v FROM " + from.relation().sql() + " WHERE "
                                + Sql.name(column.name()) + " IS NOT NULL)",
                        row -> row.getLong(1) > 0 && row.getLong(2) * HUNDRED >= row.getLong(1) * FOUND)
                .get(0);
    }

    private static Optional<String> repeated(Database database, Column key, Loaded file) {
        return key.distinct() == file.rows()
                ? Optional.empty()
                : database
                        .query(
                                "SELECT CAST(" + Sql.name(key.name()) + " AS VARCHAR) FROM "
                                        + file.relation().sql() + " GROUP BY 1 HAVING count(*) > 1 ORDER BY 1 LIMIT 1",
                                row -> row.getString(1))
                        .stream()
                        .findFirst();
    }
}
