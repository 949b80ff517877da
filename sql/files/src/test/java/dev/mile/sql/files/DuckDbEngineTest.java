package dev.mile.sql.files;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.SourceLocation;
import dev.mile.StoppedException;
import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DateCount;
import dev.mile.engine.Engine;
import dev.mile.engine.FactAccounts;
import dev.mile.engine.FileFormat;
import dev.mile.engine.Source;
import dev.mile.engine.UnreadValues;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.Table;
import dev.mile.fact.TextFunction;
import dev.mile.fact.ValueType;
import dev.mile.measure.Measure;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.sql.duckdb.EmbeddedDatabase;
import dev.mile.testkit.EngineContract;
import dev.mile.testkit.TestRows;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.Month;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

public class DuckDbEngineTest extends EngineContract {
    @TempDir
    Path folder;

    private int projects;

    @Override
    protected Engine engine(Project project, Map<String, TestRows> rows) {
        Map<String, Source> sources = new LinkedHashMap<>();
        Path own = folder.resolve("p" + projects++);
        rows.forEach((name, table) -> sources.put(name, write(own, name + ".csv", table.csv())));
        return DuckDbEngine.over(project.schema().withSources(sources));
    }

    @Override
    protected int shallowRandomRows() {
        return 2;
    }

    public static Source write(Path folder, String name, String text) {
        try {
            Files.createDirectories(folder);
            return Source.files(Files.writeString(folder.resolve(name), text).toString());
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private DuckDbEngine over(Fact fact, Source source, String zone) {
        return DuckDbEngine.over(DataSchema.of(Map.of(fact.name(), fact), Map.of())
                .withSources(Map.of(fact.name(), source))
                .withZone(ZoneId.of(zone)));
    }

    private static Measure count(String column) {
        RowExpression values = new RowExpression.Value(new Operand.Name("t." + column));
        return new Measure.Aggregate(Measure.Aggregation.COUNT, "t", Optional.of(values));
    }

    /** The statement would take days. */
    @Test
    void anInterruptCancelsAStatement() {
        Thread asking = Thread.currentThread();
        try (EmbeddedDatabase database = EmbeddedDatabase.open()) {
            CompletableFuture.delayedExecutor(100, TimeUnit.MILLISECONDS).execute(asking::interrupt);
            assertThatThrownBy(() -> database.query(
                            "SELECT count(*) FROM range(10000000000000000) WHERE range % 7 = 3", row -> row.getLong(1)))
                    .isInstanceOf(StoppedException.class);
            assertThat(Thread.interrupted()).isTrue();
            assertThat(database.query("SELECT 7", row -> row.getInt(1))).containsExactly(7);
        }
    }

    /** Statistics of Parquet tell of nulls; an empty text is none, and yet a blank. */
    @Test
    void emptyTextsOfParquetAreBlanks() throws SQLException {
        Path file = folder.resolve("t.parquet");
        try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "COPY (SELECT DATE '2026-01-05' AS day, unnest(['a', '', 'b']) AS note, unnest(['x', 'y', 'z'])"
                            + " AS full, unnest([1, NULL, 3]) AS some) TO '" + file + "' (FORMAT PARQUET)");
        }
        Fact fact = Fact.of("t", "on", "day");
        Project project = Project.named("blanks")
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .fact(fact)
                .measure("notes", count("note"))
                .measure("full", count("full"))
                .measure("some", count("some"))
                .build();
        try (Session session = Session.open(project, () -> over(fact, Source.files(file.toString()), "UTC"))) {
            Grid whole = session.report(Report.of("r", List.of(), List.of("notes", "full", "some")));
            assertThat(whole.rows().get(0).values()).hasToString("[2, 3, 2]");
            Grid byNote = session.report(Report.of("r", List.of("note"), List.of("full")));
            assertThat(byNote.rows().stream().map(r -> r.labels() + "=" + r.values()))
                    .contains("[a]=[1]", "[b]=[1]", "[]=[1]");
        }
    }

    /** Members that Parquet holds as numbers are added up by numbers where weeks are many: as the same rows of CSV, by text. */
    @ParameterizedTest
    @ValueSource(ints = {3, 255, 256})
    void membersByNumberAddUpAsMembersByText(int shops) throws SQLException {
        Path parquet = folder.resolve("t.parquet");
        Path csv = folder.resolve("t.csv");
        try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "CREATE TABLE t AS SELECT DATE '2020-01-01' + CAST(hash(i) % 2192 AS INTEGER) AS day, 'Ö''s '"
                            + " || i % " + shops
                            + " AS shop, CAST(i % 977 AS DECIMAL(9, 2)) AS amount FROM range(20000) r(i)");
            statement.execute("COPY t TO '" + parquet + "' (FORMAT PARQUET); COPY t TO '" + csv + "' (HEADER)");
        }
        Fact fact = Fact.of("t", "on", "day");
        Project project = Project.named("weeks")
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(LocalDate.parse("2020-02-01")), DateBound.at(LocalDate.parse("2025-12-31")))
                .fact(fact)
                .measure("sum", Measure.sum("t", "amount"))
                .measure("count", Measure.count("t"))
                .build();
        Report weeks = Report.of("r", List.of("week", "shop"), List.of("sum", "count"));
        List<List<String>> grids = new ArrayList<>();
        for (Path file : List.of(parquet, csv)) {
            try (Session session = Session.open(project, () -> over(fact, Source.files(file.toString()), "UTC"))) {
                Grid grid = session.report(weeks);
                List<String> rows = new ArrayList<>(grid.notes());
                grid.rows().forEach(row -> rows.add(row.labels() + "=" + row.values()));
                grids.add(rows);
            }
        }
        assertThat(grids.get(0)).hasSizeGreaterThan(300).isEqualTo(grids.get(1));
    }

    /** The database lowers letters by tables of its own; those of letters that Java does not know yet may differ. */
    @Test
    void smallLettersAreThoseOfEveryOtherEngine() throws SQLException {
        try (EmbeddedDatabase database = EmbeddedDatabase.open()) {
            List<String> different = new ArrayList<>();
            database.query(
                    "SELECT i, " + new DuckDbDialect().lower("chr(i::INTEGER)")
                            + " FROM range(1, 1114112) t(i) WHERE i NOT BETWEEN 55296 AND 57343",
                    row -> {
                        int letter = row.getInt(1);
                        String small = TextFunction.LOWER
                                .apply(Character.toString(letter))
                                .orElseThrow();
                        return !Character.isDefined(letter)
                                || row.getString(2).equals(small)
                                || different.add(Integer.toHexString(letter));
                    });
            assertThat(different).isEmpty();
        }
    }

    /** What a Parquet file says of its dates saves a pass over them, unless rows are left out or a part does not say it. */
    @ParameterizedTest
    @CsvSource({
        "DATE '2025-01-05' + CAST(i AS INTEGER), 2025-01-01, 2026-12-31, 2025-01-05, 2026-05-19",
        "DATE '2025-01-05' + CAST(i AS INTEGER), 2026-01-01, 2026-12-31, 2026-01-01, 2026-05-19",
        "CASE WHEN i > 9 THEN DATE '2025-01-05' + CAST(i AS INTEGER) END, 2025-01-01, 2026-12-31, 2025-01-15, 2026-05-19",
        "TIMESTAMP '2025-01-05 23:30' + to_days(CAST(i AS INTEGER)), 2025-01-01, 2026-12-31, 2025-01-05, 2026-05-19",
        "CAST(NULL AS DATE), 2025-01-01, 2026-12-31, ,"
    })
    void coverageOfParquetIsWhatItsRowsSay(String day, LocalDate from, LocalDate until, LocalDate first, LocalDate last)
            throws SQLException {
        Path file = folder.resolve("t.parquet");
        try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "COPY (SELECT " + day + " AS day FROM range(500) t(i)) TO '" + file + "' (FORMAT PARQUET)");
        }
        Fact fact = Fact.of("t", "on", "day");
        Project project = Project.named("t")
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(from), DateBound.at(until))
                .asOf(until)
                .fact(fact)
                .build();
        try (DuckDbEngine engine = over(fact, Source.files(file.toString()), "UTC");
                Session session = Session.open(project, engine)) {
            assertThat(session.dimension().range().first()).isEqualTo(from.withDayOfYear(1));
            assertThat(engine.coverage("t", "on", session.dayContext()))
                    .isEqualTo(first == null ? DateRange.EMPTY : DateRange.of(first, last));
        }
    }

    /** The pattern that finds the files for the error, and for the store, must mean what it means to the database. */
    @Test
    void bracesInNamesOfFilesMeanThemselves() {
        for (String name : List.of("{2025,2026}-1.csv", "{2025,2026}-2.csv", "2025-1.csv")) {
            write(folder, name, "day,code\n2026-01-05,x\n");
        }
        try (DuckDbEngine engine =
                over(Fact.of("t", "on", "day"), Source.files(folder + "/{2025,2026}-*.csv"), "UTC")) {
            assertThat(engine.dates("t")).extracting(DateCount::rows).containsExactly(2L);
            assertThat(SourceFiles.of(folder + "/{2025,2026}-*.csv")).hasSize(2);
        }
    }

    @Test
    void aParquetFileThatIsCutIsNamed() throws IOException, SQLException {
        Path file = folder.resolve("cut.parquet");
        try (Connection connection = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = connection.createStatement()) {
            statement.execute("COPY (SELECT DATE '2026-01-05' AS day, i AS amount FROM range(5000) t(i)) TO '" + file
                    + "' (FORMAT PARQUET)");
        }
        byte[] whole = Files.readAllBytes(file);
        Fact fact = Fact.of("t", "on", "day");
        for (int length : new int[] {0, 3, 12, whole.length / 2, whole.length - 1}) {
            Files.write(file, java.util.Arrays.copyOf(whole, length));
            try (DuckDbEngine engine = over(
                    fact, Source.files(file.toString()).withLocation(SourceLocation.of("mile.yaml", 7, 13)), "UTC")) {
                assertThatThrownBy(() -> engine.columns("t"))
                        .isInstanceOf(MileException.class)
                        .hasMessageStartingWith("mile.yaml:7:13: ")
                        .hasMessageContaining("cut.parquet")
                        .hasMessageEndingWith("have it written again");
            }
        }
    }

    @ParameterizedTest
    @CsvSource({
        "'Parquet file is likely corrupted, dictionary offset out of range', have it written again",
        "'Overflow in addition of INT128', Overflow in addition of INT128"
    })
    void faultsSayHowToMendThem(String said, String ending) {
        try (EmbeddedDatabase database = EmbeddedDatabase.open()) {
            assertThat(database.failed(new SQLException(said), "SELECT 1")).hasMessageEndingWith(ending);
        }
    }

    @Test
    void textThatLooksLikeNumbersStaysText() {
        Source source = write(
                folder,
                "t.csv",
                "day,code,plain,mixed,empty\n2026-01-05,007,12.50,1\n2026-01-06,010,-3,x\n"
                        .replace("1\n", "1,\n")
                        .replace("x\n", "x,\n"));
        try (DuckDbEngine engine = over(Fact.of("t", "on", "day"), source, "UTC")) {
            assertThat(engine.columns("t"))
                    .containsEntry("code", ValueType.TEXT)
                    .containsEntry("plain", ValueType.NUMBER)
                    .containsEntry("mixed", ValueType.TEXT)
                    .containsEntry("day", ValueType.DATE);
        }
    }

    @ParameterizedTest
    @CsvSource({
        "12.50, 7, NUMBER, 12.50, 7.00",
        "12.50, 1.125, NUMBER, 12.500, 1.125",
        "1, -12345678901234567, NUMBER, 1, -12345678901234567",
        "12.50, n/a, TEXT, 12.50, n/a",
        "12.50, 007, TEXT, 12.50, 007",
        "007, 1, TEXT, 007, 1",
        "2026-03-01, soon, TEXT, 2026-03-01, soon",
        "2026-03-01, 2026-02-30, TEXT, 2026-03-01, 2026-02-30",
        "'', 12.5, NUMBER, , 12.5",
        "'', 2026-03-01, DATE, , 2026-03-01",
        "'', ' ', BLANK_ONLY, , "
    })
    void aColumnHasTheTypeOfAllItsValues(String first, String last, ValueType type, String firstRead, String lastRead) {
        String row = "2026-03-01," + first + "\n";
        write(folder, "long.csv", "at,v\n" + row.repeat(2_500) + "no row\n" + "2026-04-01," + last + "\n");
        // read by the database, and through a plain copy
        for (FileFormat format : List.of(FileFormat.PLAIN, FileFormat.PLAIN.withEncoding("windows-1252"))) {
            Source source = Source.files(folder + "/long.csv", format.withRejectsCounted());
            DataSchema schema = DataSchema.of(Map.of("t", Fact.of("t", "at", "at")), Map.of())
                    .withSources(Map.of("t", source));
            try (DuckDbEngine engine = DuckDbEngine.over(schema)) {
                assertThat(engine.columns("t")).containsEntry("v", type).containsEntry("at", ValueType.DATE);
                assertThat(engine.rejected("t").lines()).isEqualTo(1);
                assertThat(engine.dates("t")).extracting(DateCount::rows).containsExactly(2_500L, 1L);
                Table rows = engine.rows("t");
                assertThat(rows.textAt("v", 0)).isEqualTo(firstRead);
                assertThat(rows.textAt("v", 2_500)).isEqualTo(lastRead);
            }
        }
    }

    @ParameterizedTest(name = "{0} in {1}, days from {2}: {3}")
    @CsvSource({
        "2026-03-29, UTC, 00:00, 2026-03-29",
        "2026-03-29 02:30:00, UTC, 04:00, 2026-03-28",
        "2026-03-29T04:00, UTC, 04:00, 2026-03-29",
        "2026-03-28T23:30:00Z, Europe/Berlin, 00:00, 2026-03-29",
        "2026-03-29 01:00:00+02:00, UTC, 00:00, 2026-03-28",
        "2026-03-29, UTC, 04:00, 2026-03-29",
        "2026-03-28T23:30:00Z, +02:00, 00:00, 2026-03-29",
        "2026-03-28T23:30:00Z, UTC+2, 00:00, 2026-03-29",
        "2026-03-28T23:30:00Z, Z, 00:00, 2026-03-28",
        "29/03/2026, UTC, 00:00, none",
        "2026-02-30, UTC, 00:00, none",
        "2026-3-29, UTC, 00:00, none"
    })
    void daysOfTimestampsAreToldByZoneAndStartOfDay(String text, String zone, LocalTime starts, String day) {
        Source source = write(folder, "t.csv", "at\n" + text + "\n");
        try (DuckDbEngine engine = over(Fact.of("t", "on", "at").withDayStart(starts), source, zone)) {
            List<DateCount> dates = engine.dates("t");
            assertThat(
                            dates.isEmpty()
                                    ? "none"
                                    : LocalDate.ofEpochDay(dates.get(0).day()).toString())
                    .isEqualTo(day);
        }
    }

    @Test
    void globsCompressedFilesAndOtherSeparatorsAreRead() throws IOException {
        write(folder, "part1.csv", "day;amount\n2026-01-05;1.5\n");
        write(folder, "part2.csv", "day;amount\n2026-01-06;2.25\n");
        Path zipped = folder.resolve("z.csv.gz");
        try (OutputStream out = new GZIPOutputStream(Files.newOutputStream(zipped))) {
            out.write("day,amount\n2026-01-07,3\n".getBytes(StandardCharsets.UTF_8));
        }
        Fact fact = Fact.of("t", "on", "day");
        try (DuckDbEngine glob = over(fact, Source.files(folder + "/part*.csv"), "UTC");
                DuckDbEngine gz = over(fact, Source.files(zipped.toString()), "UTC")) {
            assertThat(glob.dates("t")).hasSize(2);
            assertThat(gz.dates("t")).hasSize(1);
        }
    }

    private static FileFormat german(String numbers, Map<String, String> dates) {
        FileFormat format = FileFormat.PLAIN.withDates(dates).withLocale(Locale.GERMAN);
        return numbers == null ? format : format.withNumbers(numbers);
    }

    /** Keys stay as they are, a date that no calendar has stays unreadable, and a line with a value too many is no row. */
    @Test
    void filesAreReadLikeTheirExamples() {
        write(
                folder,
                "de.csv",
                "Tag;Filiale;Netto;Frist\n31.03.2026;007;1.234,56 \u20ac;1. M\u00e4rz 2026\n"
                        + "1.4.2026;008;(99,99);2. Mai 2026\n31.02.2026;009;1.048;3. Juni 2026\n1.4.2026;1;2;3;4\n;Summe;9;\nStand: heute;;;\n");
        Fact fact = Fact.of("t", "on", "Tag").withLink("Filiale", "shops");
        FileFormat format = german("1.234,56", Map.of("Tag", "31.12.2025", "Frist", "31. Dezember 2025"));
        Source source =
                Source.files(folder + "/de.csv", format.withUntil("Summe").withRejectsCounted());
        DataSchema schema = DataSchema.of(Map.of("t", fact), Map.of("shops", new Lookup("shops", "shop", Map.of())))
                .withSources(Map.of("t", source, "shops", write(folder, "shops.csv", "shop\n007\n")));
        try (DuckDbEngine engine = DuckDbEngine.over(schema)) {
            assertThat(engine.columns("t"))
                    .isEqualTo(Map.of(
                            "Tag", ValueType.TEXT,
                            "Filiale", ValueType.TEXT,
                            "Netto", ValueType.NUMBER,
                            "Frist", ValueType.DATE));
            assertThat(engine.dates("t"))
                    .extracting(date -> LocalDate.ofEpochDay(date.day()).toString())
                    .containsExactly("2026-03-31", "2026-04-01");
            assertThat(engine.rejected("t"))
                    .isEqualTo(
                            new FactAccounts.Rejected(1, "de.csv:5: expected 4 values, as the header has, found 5", 2));
            assertThat(engine.rows("t").textAt("Netto", 1)).isEqualTo("-99.99");
            assertThat(engine.rows("t").textAt("Filiale", 0)).isEqualTo("007");
        }
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '~',
            textBlock =
                    """
            1,234.56 | 31.12.2025 | of 2 values in the column 'net' 1 cannot be read like '1,234.56', the first is '1.234,50' in x.csv:2; '1.234,56' would read them all: write it in `numbers`, or correct the file
            1234,56  | 31.12.2025 | of 2 values in the column 'net' 2 cannot be read like '1234,56', the first is '1.234,50' in x.csv:2; '1.234,56' would read them all: write it in `numbers`, or correct the file
            1.234,56 | 12/31/2025 | of 2 values in the column 'day' 2 cannot be read like '12/31/2025', the first is '31.03.2026' in x.csv:2; copy another example into `dates`, or correct the file
            1,234    | 31.12.2025 | the example '1,234' can be read in two ways, as 1234 and as 1.234; copy a number that tells, such as '1,234.50' or '1234,5'
            """)
    void whatIsNotLikeTheExampleIsSaid(String numbers, String dates, String message) {
        write(folder, "x.csv", "day;net\n31.03.2026;1.234,50\n01.04.2026;1.048\n");
        Source source = Source.files(folder + "/x.csv", german(numbers, Map.of("day", dates)));
        assertThatThrownBy(() -> over(Fact.of("t", "on", "day"), source, "UTC").columns("t"))
                .hasMessage(message);
    }

    @Test
    void quantitiesAreNoDatesThoughEpochSecondsAreWholeNumbers() {
        write(folder, "epoch.csv", "at,units\n1767225599,3\n1767225600,4\n");
        Source source = Source.files(folder + "/epoch.csv", german(null, Map.of("", "epoch seconds")));
        try (DuckDbEngine engine = over(Fact.of("t", "on", "at"), source, "UTC")) {
            assertThat(engine.columns("t").get("units")).isEqualTo(ValueType.NUMBER);
            assertThat(engine.dates("t"))
                    .extracting(date -> LocalDate.ofEpochDay(date.day()).toString())
                    .containsExactly("2025-12-31", "2026-01-01");
        }
    }

    @Test
    void nothingIsGuessedOfAmountsAndBytes() throws IOException {
        Fact fact = Fact.of("t", "on", "day");
        Source points = write(folder, "p.csv", "day;net\n2026-05-01;1.048\n2026-05-02;12.500\n");
        assertThatThrownBy(() -> over(fact, points, "UTC").columns("t"))
                .hasMessageStartingWith(
                        "all values of the column 'net' in p.csv read like '1.048', which may be 1048 or 1.048; say which");
        Files.write(folder.resolve("l.csv"), "day,shop\n2026-05-01,K\u00f6ln\n".getBytes(StandardCharsets.ISO_8859_1));
        assertThatThrownBy(
                        () -> over(fact, Source.files(folder + "/l.csv"), "UTC").columns("t"))
                .hasMessage(
                        "l.csv:2: the bytes of this line are not UTF-8; the file looks like windows-1252, so say `encoding:"
                                + " windows-1252`");
        write(folder, "l.json", "[]");
        assertThatThrownBy(() -> over(fact, Source.files(folder + "/l.json", FileFormat.PLAIN.withUntil("x")), "UTC")
                        .columns("t"))
                .hasMessageStartingWith(
                        "l.json is no text file with separators and no workbook, so `encoding`, `separator`");
    }

    /** ISO 8601 has dates without hyphens too; a byte order mark tells UTF-16. */
    @Test
    void plainFilesMayHaveBasicDatesAndBeUtf16() throws IOException {
        Fact fact = Fact.of("t", "on", "day");
        Source basic = write(folder, "basic.csv", "day,net\n20260105,1\n20261399,2\n20260107,3\n");
        try (DuckDbEngine engine = over(fact, basic, "UTC")) {
            assertThat(engine.dates("t"))
                    .extracting(date -> LocalDate.ofEpochDay(date.day()).toString())
                    .containsExactly("2026-01-05", "2026-01-07");
            assertThat(engine.unread("t", "day", ValueType.DATE))
                    .contains(new UnreadValues("day", 3, 1, "20261399", "basic.csv:3", Optional.empty()));
        }
        Path wide = Files.write(
                folder.resolve("wide.csv"),
                "\ufeffday,\"K\u00f6ln\nnet\"\n2026-01-05,1.5\n".getBytes(StandardCharsets.UTF_16LE));
        try (DuckDbEngine engine = over(fact, Source.files(wide.toString()), "UTC")) {
            assertThat(engine.columns("t").keySet()).containsExactly("day", "K\u00f6ln\nnet");
            assertThat(engine.dates("t")).hasSize(1);
        }
    }

    /** Numbers that the file itself types are read as they are, whatever the example. */
    @ParameterizedTest
    @ValueSource(strings = {"jsonl", "parquet"})
    void textsInFilesWithTypesAreReadByExampleToo(String ending) {
        Path file = folder.resolve("typed." + ending);
        if (ending.equals("parquet")) {
            try (EmbeddedDatabase database = EmbeddedDatabase.open()) {
                database.run(
                        "COPY (SELECT '31.03.2026' AS \"on\", '1.234,56' AS \"net, a\", 1.5 AS jan, 7 AS feb UNION ALL"
                                + " SELECT '01.04.2026', '2,5', NULL, 8) TO '" + file + "' (FORMAT parquet)");
            }
        } else {
            write(
                    folder,
                    "typed.jsonl",
                    "{\"on\":\"31.03.2026\",\"net, a\":\"1.234,56\",\"jan\":1.5,\"feb\":7}\n"
                            + "{\"on\":\"01.04.2026\",\"net, a\":\"2,5\",\"jan\":null,\"feb\":8}\n");
        }
        FileFormat format = german("1.234,56", Map.of("on", "31.12.2025"))
                .withUnpivot(new FileFormat.Unpivot("jan", "feb", "month", "amount", "{column}"));
        Fact fact = Fact.of("t", "on", "on");
        try (DuckDbEngine engine = over(fact, Source.files(file.toString(), format), "UTC")) {
            assertThat(engine.columns("t"))
                    .isEqualTo(Map.of(
                            "on", ValueType.DATE,
                            "net, a", ValueType.NUMBER,
                            "month", ValueType.TEXT,
                            "amount", ValueType.NUMBER));
            Table rows = engine.rows("t");
            assertThat(List.of(
                            rows.textAt("net, a", 1) + " " + rows.textAt("month", 1) + " " + rows.textAt("amount", 1),
                            rows.textAt("net, a", 2) + " " + rows.textAt("month", 2) + " " + rows.textAt("amount", 2)))
                    .containsExactly("1234.56 feb 7.0", "2.50 feb 8.0");
        }
        assertThatThrownBy(() -> over(
                                fact,
                                Source.files(file.toString(), german("1,234.56", Map.of("on", "31.12.2025"))),
                                "UTC")
                        .columns("t"))
                .hasMessageContaining(
                        "of 2 values in the column 'net, a' 2 cannot be read like '1,234.56', the first is '1.234,56' in typed."
                                + ending + ", row 1; '1.234,56' would read them");
    }

    @Test
    void jsonNumbersStayExact() {
        Source source = write(
                folder,
                "t.json",
                "[{\"day\":\"2026-01-05\",\"amount\":0.1},{\"day\":\"2026-01-05\",\"amount\":1234567890.12}]");
        try (DuckDbEngine engine = over(Fact.of("t", "on", "day"), source, "UTC")) {
            assertThat(engine.columns("t")).containsEntry("amount", ValueType.NUMBER);
            assertThat(engine.rows("t").textAt("amount", 1)).isEqualTo("1234567890.12");
        }
    }

    @Test
    void filesThatCannotBeReadAreNamed() {
        Fact fact = Fact.of("t", "on", "day");
        assertThatThrownBy(() -> over(
                                fact,
                                Source.files(folder + "/none.csv").withLocation(SourceLocation.of("mile.yaml", 7, 13)),
                                "UTC")
                        .dates("t"))
                .isInstanceOf(MileException.class)
                .hasMessage("mile.yaml:7:13: the file " + folder
                        + "/none.csv is not there; check the path, which is relative to the folder of the model");
        assertThatThrownBy(
                        () -> over(fact, write(folder, "empty.csv", ""), "UTC").dates("t"))
                .hasMessage("the file empty.csv is empty; expected a header and rows");
        assertThatThrownBy(() -> over(fact, write(folder, "other.csv", "dya,amount\n2026-01-05,1\n"), "UTC")
                        .dates("t"))
                .hasMessage(
                        "the date role 'on' of 't' is the column 'day', which other.csv lacks; did you mean 'dya'?");
        assertThatThrownBy(() -> over(fact, write(folder, "t.ods", "x"), "UTC").dates("t"))
                .hasMessage(
                        "'t.ods' is no file that can be read; expected an ending .csv, .tsv, .txt, .json, .jsonl or .ndjson, each also with .gz behind it, .xlsx or .parquet");
    }

    /** Makes a Parquet file with typed columns. */
    private Source parquet(String select) throws SQLException {
        Path file = folder.resolve("t" + projects++ + ".parquet");
        try (Connection database = DriverManager.getConnection("jdbc:duckdb:");
                Statement statement = database.createStatement()) {
            statement.execute("COPY (" + select + ") TO '" + file + "' (FORMAT PARQUET)");
        }
        return Source.files(file.toString()).withLocation(SourceLocation.of("mile.yaml", 1, 1));
    }

    private Grid grid(Source source, String zone, Measure measure, String... rows) {
        Fact fact = Fact.of("t", "on", "at");
        Project project = Project.named("p")
                .asOf(LocalDate.parse("2026-12-31"))
                .calendar("civil", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(LocalDate.parse("2026-01-01")), DateBound.at(LocalDate.parse("2026-12-31")))
                .fact(fact)
                .measure("m", measure)
                .build();
        try (Session session = Session.open(project, () -> over(fact, source, zone))) {
            return session.report(Report.of("r", List.of(rows), List.of("m")));
        }
    }

    @Test
    void typedColumnsOfParquetKeepTheirTypes() throws SQLException {
        Source source = parquet(
                "SELECT * FROM (VALUES (TIMESTAMPTZ '2026-03-28 23:30:00Z', 12.345::DECIMAL(10,3), 7::BIGINT, true),"
                        + " (TIMESTAMPTZ '2026-03-29 10:00:00Z', 0.655::DECIMAL(10,3), 9007199254740993::BIGINT, false)) v(\"at\", amount, big, flag)");
        Grid grid = grid(source, "Europe/Berlin", Measure.sum("t", "amount"), "day");
        assertThat(grid.rows().get(1).labels()).containsExactly("2026-03-29");
        assertThat(grid.rows().get(1).values().get(0)).hasToString("13.000");
        assertThat(grid(source, "UTC", Measure.sum("t", "big"), "flag")
                        .rows()
                        .get(1)
                        .values()
                        .get(0))
                .hasToString("9007199254740993");
    }

    /** In the zone of the model, whatever zone the machine is in. */
    @ParameterizedTest
    @CsvSource({"Europe/Berlin, 2026-03-29", "Pacific/Honolulu, 2026-03-28", "UTC+2, 2026-03-29", "-10:00, 2026-03-28"})
    void timesOfParquetHaveTheDayOfTheZone(String zone, LocalDate day) throws SQLException {
        Source source = parquet("SELECT TIMESTAMPTZ '2026-03-28 23:30:00Z' AS at");
        try (DuckDbEngine engine = over(Fact.of("t", "on", "at"), source, zone)) {
            assertThat(LocalDate.ofEpochDay(engine.dates("t").get(0).day())).isEqualTo(day);
            assertThat(engine.rows("t").textAt("at", 0)).isEqualTo(day.toString());
        }
    }

    @Test
    void floatingColumnsAreAddedWithCompensation() throws SQLException {
        Source source = parquet(
                "SELECT DATE '2026-03-01' AS at, CASE WHEN i % 2 = 0 THEN 1e16 ELSE -1e16 END + (i % 2)::DOUBLE AS x"
                        + " FROM range(1000) t(i)");
        // every pair leaves what a plain sum of doubles would lose
        double sum = grid(source, "UTC", Measure.sum("t", "x"), "year")
                .rows()
                .get(0)
                .values()
                .get(0)
                .toDouble();
        assertThat(sum).isEqualTo(0.0, org.assertj.core.data.Offset.offset(1e-6));
        try (DuckDbEngine engine = over(Fact.of("t", "on", "at"), source, "UTC")) {
            assertThat(engine.columns("t")).containsEntry("x", ValueType.FLOATING);
        }
    }

    @Test
    void numbersThatAreNoneOrTooLargeAreRefused() throws SQLException {
        Source nan = parquet("SELECT DATE '2026-03-01' AS at, 'NaN'::DOUBLE AS x");
        assertThatThrownBy(() -> grid(nan, "UTC", Measure.sum("t", "x"), "year"))
                .hasMessageContaining("the column x holds an infinite number or NaN; correct the data");
        Source large = parquet(
                "SELECT DATE '2026-03-01' AS at, 99999999999999999999999999999999999999::DECIMAL(38,0) AS x FROM range(5)");
        assertThatThrownBy(() -> grid(large, "UTC", Measure.sum("t", "x"), "year"))
                .isInstanceOf(MileException.class)
                .hasMessageContaining("a number is larger than 38 digits can hold");
        Source text = write(folder, "wide.csv", "at,x\n2026-03-01," + "9".repeat(39) + "\n");
        assertThatThrownBy(() -> grid(text, "UTC", Measure.sum("t", "x"), "year"))
                .hasMessage("the column 'x' of wide.csv has numbers of 39 digits; at most 38 can be held exactly");
    }

    @Test
    void mixedScalesAreExact() {
        Source source =
                write(folder, "mixed.csv", "at,x\n2026-03-01,1\n2026-03-01,0.1\n2026-03-01,-0.0001\n2026-03-02,\n");
        assertThat(grid(source, "UTC", Measure.sum("t", "x"), "year")
                        .rows()
                        .get(0)
                        .values()
                        .get(0))
                .hasToString("1.0999");
    }

    @Test
    void linesThatAreNoRowsAreCounted() {
        StringBuilder csv = new StringBuilder("at,x\n");
        for (int i = 0; i < 300; i++) {
            csv.append("2026-03-01,1\n");
        }
        csv.append("2026-03-02,1,surplus,values\n");
        Source strict = write(folder, "ragged.csv", csv.toString());
        assertThatThrownBy(() -> grid(strict, "UTC", Measure.sum("t", "x"), "year"))
                .hasMessageStartingWith(
                        "ragged.csv:302: this line is no row: expected 2 values, as the header has, found ");
        Source source = Source.files(folder + "/ragged.csv", FileFormat.PLAIN.withRejectsCounted());
        Grid grid = grid(source, "UTC", Measure.sum("t", "x"), "year");
        assertThat(grid.rows().get(0).values().get(0)).hasToString("300");
        assertThat(grid.notes())
                .contains(
                        "t: 1 line could not be read as rows, such as ragged.csv:302: expected 2 values, as the header has, found 3.");
    }

    @Test
    void aLineWithTooFewValuesIsSaidToHaveThoseThatItHas() {
        String columns = "at,a,b,c,d,e,f,g,h,i,j,k";
        String row = "2026-03-01,1,2,3,4,5,6,7,8,9,10,11\n";
        Source source = write(folder, "short.csv", columns + "\n" + row + row + "2026-03-02,1\n" + row);
        assertThatThrownBy(() -> grid(source, "UTC", Measure.sum("t", "a"), "year"))
                .hasMessageStartingWith(
                        "short.csv:4: this line is no row: expected 12 values, as the header has, found 2;");
    }

    /** They are in the database when the first file is, so their files may go. Names of columns may be those that Mile's own SQL has. */
    @Test
    void smallFilesAreLoadedBesideTheFirst() throws Exception {
        Path own = folder.resolve("beside");
        Map<String, Source> sources = new LinkedHashMap<>();
        sources.put("sales", write(own, "sales.csv", "day,c,c2\n2026-01-05,1,1\n"));
        sources.put("stock", write(own, "stock.csv", "day,v\n2026-01-06,2.5\n"));
        sources.put("plan", write(own, "plan.csv", "day,v\n2026-01-06,2.5\n"));
        sources.put("shops", write(own, "shops.csv", "c,v,opened\n1,North,2026-01-01\n"));
        sources.put("large", write(own, "large.csv", "c,v\n1," + "x".repeat(1_000_000) + "\n"));
        Map<String, Fact> facts = new LinkedHashMap<>();
        facts.put("sales", Fact.of("sales", "on", "day").withLink("c", "shops").withLink("c2", "large"));
        facts.put("stock", Fact.of("stock", "on", "day"));
        facts.put("plan", Fact.of("plan", "on", "day").asPlan());
        Map<String, Lookup> lookups =
                Map.of("shops", new Lookup("shops", "c", Map.of()), "large", new Lookup("large", "c", Map.of()));
        try (DuckDbEngine engine =
                DuckDbEngine.over(DataSchema.of(facts, lookups).withSources(sources), FileLimits.NONE.withThreads(2))) {
            engine.dates("sales");
            for (Thread thread : Thread.getAllStackTraces().keySet()) {
                if (thread.getName().equals("mile reads small files")) {
                    thread.join();
                }
            }
            for (String name : sources.keySet()) {
                Files.delete(own.resolve(name + ".csv"));
            }
            assertThat(engine.columns("stock")).isEqualTo(Map.of("day", ValueType.DATE, "v", ValueType.NUMBER));
            assertThat(engine.columns("shops"))
                    .isEqualTo(Map.of("c", ValueType.TEXT, "v", ValueType.TEXT, "opened", ValueType.DATE));
            for (String left : List.of("plan", "large")) {
                assertThatThrownBy(() -> engine.columns(left)).hasMessageContaining(left + ".csv is not there");
            }
        }
    }

    @Test
    void nothingIsWrittenBesideTheFiles() throws IOException {
        Source source = write(folder.resolve("own"), "t.csv", "at,x\n2026-03-01,1\n");
        grid(source, "UTC", Measure.sum("t", "x"), "year");
        try (var files = Files.list(folder.resolve("own"))) {
            assertThat(files.map(p -> p.getFileName().toString())).containsExactly("t.csv");
        }
    }
}
