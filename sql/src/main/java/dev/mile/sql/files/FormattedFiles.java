package dev.mile.sql.files;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.FileFormat;
import dev.mile.internal.Messages;
import dev.mile.internal.TextTypes;
import dev.mile.sources.DateExample;
import dev.mile.sources.NumberExample;
import dev.mile.sources.RowSink;
import dev.mile.sources.TextFile;
import dev.mile.sql.dialect.Sql;
import dev.mile.sql.query.Database;
import java.math.BigDecimal;
import java.nio.file.Path;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import org.duckdb.DuckDBAppender;
import org.duckdb.DuckDBConnection;
import org.jspecify.annotations.Nullable;

/**
 * Loads text files that are written in a way of their own into a table of plain texts: numbers such as 1234.56, dates as ISO 8601 has
 * them. Used for one table.
 */
final class FormattedFiles {
    /** The table of what was read, with each value in up to three readings: as a text, a number and a date. */
    private static final String READ = Sql.name("mile rows");

    /** How numbers are written in most places, to find what would read a column. */
    private static final List<String> EXAMPLES =
            List.of("1,234.56", "1.234,56", "1 234,56", "1'234.56", "12,34,567.89");

    private static final int SAMPLE = 200;
    private static final Pattern PLAIN_NUMBER = Pattern.compile(TextTypes.NUMBER);

    /** What is found of a column while its values are read. */
    private static final class Column {
        final String name;
        final Optional<DateExample> date;
        long values;
        long numbers;
        long plainNumbers;
        long dates;

        final List<String> sample = new ArrayList<>();

        @Nullable
        String firstOther;

        long lineOfOther;
        String fileOfOther = "";

        Column(String name, Optional<DateExample> date) {
            this.name = name;
            this.date = date;
        }
    }

    private final Database database;
    private final FileFormat format;
    private final Optional<NumberExample> number;
    private final Set<String> texts;
    private final Set<String> dateColumns;
    private List<Column> columns = List.of();
    private @Nullable DuckDBAppender rows;
    private long rejected;
    private long behind;
    private String firstRejected = "";

    /**
     * Returns a loader.
     *
     * @param texts columns that are texts whatever their values look like
     * @param dateColumns columns of date roles
     */
    FormattedFiles(Database database, FileFormat format, Set<String> texts, Set<String> dateColumns) {
        this.database = database;
        this.format = format;
        this.number = format.numbers().map(NumberExample::of);
        this.texts = texts;
        this.dateColumns = dateColumns;
    }

    /** Makes a table of the files; returns their lines that are no rows. */
    FactAccounts.Rejected load(String table, List<Path> files) {
        try {
            for (Path file : files) {
                TextFile.read(file, format, sink(file));
            }
        } finally {
            close();
        }
        List<String> select = new ArrayList<>();
        for (int c = 0; c < columns.size(); c++) {
            select.add(chosen(columns.get(c), c) + " AS " + Sql.name(columns.get(c).name));
        }
        database.run("CREATE TABLE " + table + " AS SELECT " + String.join(", ", select) + " FROM " + READ);
        database.run("DROP TABLE " + READ);
        return new FactAccounts.Rejected(rejected, firstRejected, behind);
    }

    private static MileException notKept(SQLException e) {
        return DataException.of("the rows of a file cannot be kept: %s", e.getMessage())
                .withCause(e);
    }

    private RowSink sink(Path file) {
        String fileName = String.valueOf(file.getFileName());
        return new RowSink() {
            @Override
            public void columns(List<String> names) {
                begin(names, fileName);
            }

            @Override
            public void row(List<String> values, long line) {
                try {
                    append(values, line, fileName);
                } catch (SQLException e) {
                    throw notKept(e);
                }
            }

            @Override
            public void rejected(long line, String why) {
                firstRejected = rejected++ == 0 ? fileName + ":" + line + ": " + why : firstRejected;
            }

            @Override
            public void behind(long count) {
                behind += count;
            }
        };
    }

    private void begin(List<String> names, String fileName) {
        if (!columns.isEmpty()) {
            List<String> before = columns.stream().map(column -> column.name).toList();
            if (!before.equals(names)) {
                throw DataException.of(
                        "the file %s has the columns %s, and those before it have %s; all files of a pattern need the same",
                        fileName, names, before);
            }
            return;
        }
        format.dates().keySet().stream()
                .filter(name -> !name.isEmpty() && !names.contains(name))
                .findFirst()
                .ifPresent(name -> {
                    throw DataException.of(
                            "`dates` names the column '%s', which %s lacks%s",
                            name, fileName, Messages.didYouMean(name, names));
                });
        List<Column> found = new ArrayList<>();
        List<String> definition = new ArrayList<>();
        for (int c = 0; c < names.size(); c++) {
            String name = names.get(c);
            Optional<String> example = Optional.ofNullable(
                    format.dates().getOrDefault(name, format.dates().get("")));
            found.add(new Column(name, example.map(text -> DateExample.of(text, format.locale()))));
            definition.add("v" + c + " VARCHAR, n" + c + " VARCHAR, d" + c + " VARCHAR");
        }
        columns = found;
        database.run("CREATE OR REPLACE TABLE " + READ + " (" + String.join(", ", definition) + ")");
        try {
            rows = database.connection().unwrap(DuckDBConnection.class).createAppender("main", "mile rows");
        } catch (SQLException e) {
            throw notKept(e);
        }
    }

    private void append(List<String> values, long line, String fileName) throws SQLException {
        rows.beginRow();
        for (int c = 0; c < columns.size(); c++) {
            String value = values.get(c).strip();
            if (value.isEmpty()) {
                rows.appendNull();
                rows.appendNull();
                rows.appendNull();
                continue;
            }
            Column column = columns.get(c);
            boolean key = texts.contains(column.name);
            Optional<BigDecimal> read = key ? Optional.empty() : number.flatMap(example -> example.read(value));
            Optional<String> date = key ? Optional.empty() : column.date.flatMap(example -> example.read(value));
            column.values++;
            if (column.sample.size() < SAMPLE) {
                column.sample.add(value);
            }
            column.numbers += read.isPresent() ? 1 : 0;
            column.dates += date.isPresent() ? 1 : 0;
            column.plainNumbers += PLAIN_NUMBER.matcher(value).matches() ? 1 : 0;
            if (read.isEmpty() && date.isEmpty() && column.firstOther == null) {
                column.firstOther = value;
                column.lineOfOther = line;
                column.fileOfOther = fileName;
            }
            rows.append(values.get(c));
            append(read.map(BigDecimal::toPlainString));
            append(date);
        }
        rows.endRow();
    }

    private void append(Optional<String> text) throws SQLException {
        if (text.isPresent()) {
            rows.append(text.get());
        } else {
            rows.appendNull();
        }
    }

    /** Returns which reading of a column counts: the one that all values have, and for dates of a role the one that some have. */
    private String chosen(Column column, int c) {
        String text = "v" + c;
        if (column.values == 0 || texts.contains(column.name)) {
            return text;
        }
        if (column.date.isPresent() && dateColumns.contains(column.name)) {
            if (column.dates == 0 && column.values > 0) {
                throw other(column, "dates", column.date.get().example(), column.dates);
            }
            return "coalesce(d" + c + ", " + text + ")";
        }
        if (column.dates == column.values && format.dates().containsKey(column.name)) {
            return "d" + c;
        }
        if (column.numbers == column.values) {
            return "n" + c;
        }
        // every whole number may be epoch seconds: an example for all columns makes no dates of quantities
        if (column.dates == column.values && column.plainNumbers < column.values) {
            return "d" + c;
        }
        // without the example these would be numbers, and others than the file means
        boolean otherNumbers =
                column.plainNumbers == column.values || exampleForAll(column).isPresent();
        if (number.isPresent() && otherNumbers) {
            throw other(column, "numbers", number.get().example(), column.numbers);
        }
        return text;
    }

    /** Returns the example by which all values that were sampled would be read. */
    private static Optional<String> exampleForAll(Column column) {
        return EXAMPLES.stream()
                .filter(example -> column.sample.stream()
                        .allMatch(value -> NumberExample.of(example).read(value).isPresent()))
                .findFirst();
    }

    private static DataException other(Column column, String what, String example, long read) {
        Optional<String> better = what.equals("numbers") ? exampleForAll(column) : Optional.empty();
        return DataException.of(
                "of %s in the column '%s' %d cannot be read like '%s', the first is '%s' in %s:%d; %s `%s`, or correct the file",
                Messages.quantity(column.values, "value"),
                column.name,
                column.values - read,
                example,
                column.firstOther,
                column.fileOfOther,
                column.lineOfOther,
                better.map(all -> "'" + all + "' would read them: say it in").orElse("copy another example into"),
                what);
    }

    private void close() {
        if (rows != null) {
            try {
                rows.close();
            } catch (SQLException e) {
                throw notKept(e);
            }
        }
    }
}
