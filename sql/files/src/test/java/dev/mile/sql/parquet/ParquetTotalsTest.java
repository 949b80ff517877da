package dev.mile.sql.parquet;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import dev.mile.StoppedException;
import dev.mile.calendar.DateRange;
import dev.mile.engine.DataSchema;
import dev.mile.engine.DayBuckets;
import dev.mile.engine.DayContext;
import dev.mile.engine.Engine;
import dev.mile.engine.Source;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Condition;
import dev.mile.fact.Fact;
import dev.mile.fact.Lookup;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import dev.mile.fact.ValueType;
import dev.mile.sql.files.DuckDbEngine;
import dev.mile.testkit.EngineContract;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/** What is added up without the database is what the database adds up. */
class ParquetTotalsTest {
    private static final DateRange PLACED = DateRange.of(LocalDate.parse("2024-01-01"), LocalDate.parse("2026-12-31"));

    @TempDir
    private Path folder;

    private Connection database;
    private int files;

    @BeforeEach
    void open() throws SQLException {
        database = DriverManager.getConnection("jdbc:duckdb:");
    }

    @AfterEach
    void close() throws SQLException {
        database.close();
    }

    private Path write(String select, String options) throws SQLException {
        Path file = folder.resolve("t" + files++ + ".parquet");
        try (Statement statement = database.createStatement()) {
            statement.execute("COPY (" + select + ") TO '" + file + "' (FORMAT PARQUET" + options + ")");
        }
        return file;
    }

    private static TotalsRequest request(
            DateRange days,
            DayBuckets buckets,
            List<Operand.Field> groups,
            List<Optional<Condition>> where,
            String... numbers) {
        List<TotalColumn> columns = new ArrayList<>();
        for (Optional<Condition> condition : where) {
            columns.add(new TotalColumn(TotalColumn.Kind.ROWS, Optional.empty(), condition));
            for (String number : numbers) {
                RowExpression value = new RowExpression.Value(new Operand.Field(List.of(), number, ValueType.NUMBER));
                columns.add(new TotalColumn(TotalColumn.Kind.SUM, Optional.of(value), condition));
                columns.add(new TotalColumn(TotalColumn.Kind.COUNT, Optional.of(value), condition));
            }
        }
        return new TotalsRequest("t", "on", days, buckets, groups, columns);
    }

    /** Regions of the shops S0 to S9; one of them has none. */
    private static final Map<String, String> REGIONS = IntStream.range(0, 9)
            .boxed()
            .collect(Collectors.toMap(i -> "S" + i, i -> i % 3 == 0 ? "North" : i % 3 == 1 ? "South" : "\u00E4"));

    private static final Operand.Field SHOP = new Operand.Field(List.of(), "shop", ValueType.TEXT);
    private static final Operand.Field KIND = new Operand.Field(List.of(), "kind", ValueType.TEXT);
    private static final Operand.Field REGION = new Operand.Field(List.of("shop"), "region", ValueType.TEXT);
    private static final Condition TRUE = new Condition.Compare(
            new Operand.Number(BigDecimal.ONE), Condition.Comparison.EQUAL, new Operand.Number(BigDecimal.ONE));

    private static Fact fact(Optional<Condition> filter) {
        Fact fact = Fact.of("t", "on", "day").withLink("shop", "shops");
        return filter.map(fact::withFilter).orElse(fact);
    }

    private static Optional<TotalsCursor> direct(TotalsRequest request, Path... files) {
        return direct(request, Optional.empty(), files);
    }

    private static Optional<TotalsCursor> direct(TotalsRequest request, Optional<Condition> filter, Path... files) {
        return ParquetFooter.of(List.of(files))
                .flatMap(footers -> ParquetQuestion.of(
                        footers,
                        fact(filter),
                        filter,
                        request,
                        PLACED,
                        field -> field.type() == ValueType.TEXT
                                ? Optional.of(
                                        field.path().isEmpty()
                                                ? new TextValue(field.column(), null)
                                                : new TextValue("shop", REGIONS))
                                : Optional.empty()))
                .flatMap(question -> ParquetTotals.of(question, 3, Optional.empty()));
    }

    /** Returns what the database says, which alone compares numbers. */
    private List<String> byDatabase(String pattern, TotalsRequest request, Optional<Condition> filter)
            throws IOException {
        StringBuilder shops = new StringBuilder("shop,region\nS9,\n");
        REGIONS.forEach((shop, region) -> shops.append(shop + "," + region + "\n"));
        Path lookup = Files.writeString(folder.resolve("shops.csv"), shops);
        Condition all = filter.<Condition>map(some -> new Condition.And(List.of(some, TRUE)))
                .orElse(TRUE);
        DayContext days = mock(DayContext.class);
        when(days.dimensionRange()).thenReturn(PLACED);
        try (Engine engine = DuckDbEngine.over(DataSchema.of(
                        Map.of("t", fact(Optional.of(all))), Map.of("shops", new Lookup("shops", "shop", Map.of())))
                .withSources(Map.of("t", Source.files(pattern), "shops", Source.files(lookup.toString()))))) {
            return totals(engine.totals(request, days));
        }
    }

    private static List<String> totals(TotalsCursor cursor) {
        List<String> lines = EngineContract.totals(cursor);
        lines.add(cursor.rowOutcomes().toString());
        return lines;
    }

    private static String pick(Random random, String... choices) {
        return choices[random.nextInt(choices.length)];
    }

    /** Returns some conditions, and none. */
    private static List<Optional<Condition>> conditions(Random random) {
        List<Condition> known = List.of(
                new Condition.Compare(REGION, Condition.Comparison.EQUAL, new Operand.Text("North")),
                new Condition.Not(new Condition.In(SHOP, List.of(new Operand.Text("S1"), new Operand.Text("S5")))),
                new Condition.IsBlank(KIND),
                new Condition.Or(List.of(
                        new Condition.Compare(KIND, Condition.Comparison.UNEQUAL, SHOP),
                        new Condition.Compare(REGION, Condition.Comparison.LESS, new Operand.Text("Z")))));
        List<Optional<Condition>> some =
                new ArrayList<>(List.of(Optional.empty(), Optional.of(known.get(random.nextInt(4)))));
        if (random.nextBoolean()) {
            some.add(0, Optional.of(known.get(random.nextInt(4))));
        }
        return some;
    }

    static IntStream seeds() {
        return IntStream.range(0, 40);
    }

    /** Blanks, packing, order, dictionaries, parts of files, members and buckets as they come. */
    @ParameterizedTest
    @MethodSource("seeds")
    void totalsAreThoseOfTheDatabase(int seed) throws SQLException, IOException {
        Random random = new Random(seed);
        String select = "SELECT "
                + pick(random, "", "CASE WHEN hash(i, 1) % 50 > 0 THEN ", "")
                        .replaceFirst("(.+)", "$1")
                        .concat("DATE '2023-12-20' + CAST(")
                + pick(random, "hash(i, 2) % 1200", "i * 1200 // 9000", "i % 3") + " AS INTEGER)";
        select += select.contains("CASE") ? " END AS day" : " AS day";
        select += ", nullif('S' || hash(i, 3) % " + pick(random, "1", "7", "30") + ", '" + pick(random, "", "S3", "S0")
                + "') AS shop";
        select += ", "
                + pick(
                        random,
                        "'x'",
                        "['', 'ä', '\uD83C\uDF31', '\uFFFD', NULL][1 + CAST(hash(i, 4) % 5 AS INTEGER)]",
                        "NULL::VARCHAR")
                + " AS kind";
        String digits = pick(random, "4, 1", "9, 2", "18, 4", "18, 0");
        select += ", CAST(" + pick(random, "hash(i, 5) % 100", "1.5", "i % 400 - 200") + pick(random, "", " / 10.0")
                + " AS DECIMAL(" + digits + ")) AS amount";
        select += ", CAST(" + pick(random, "i", "CASE WHEN hash(i, 6) % 9 > 0 THEN i END", "NULL") + " AS "
                + pick(random, "INTEGER", "BIGINT", "SMALLINT") + ") AS pieces";
        String options = ", ROW_GROUP_SIZE " + pick(random, "2048", "100000") + ", CODEC '"
                + pick(random, "snappy", "zstd", "gzip", "uncompressed", "lz4_raw") + "'";
        int parts = 1 + random.nextInt(2);
        int rows = random.nextInt(9000);
        Path[] written = new Path[parts];
        for (int p = 0; p < parts; p++) {
            written[p] = write(select + " FROM range(" + p * rows + ", " + (p + 1) * rows + ") t(i)", options);
        }
        DateRange days = random.nextBoolean() ? PLACED : PLACED.notAfter(PLACED.lastEpochDay() - 500);
        List<Integer> begins = random.ints(20, PLACED.firstEpochDay() - 10, PLACED.lastEpochDay() + 10)
                .boxed()
                .toList();
        TotalsRequest request = request(
                days,
                random.nextInt(3) == 0 ? DayBuckets.DAILY : DayBuckets.of(days, begins),
                List.of(List.<Operand.Field>of(), List.of(SHOP), List.of(KIND, SHOP), List.of(REGION, KIND))
                        .get(random.nextInt(4)),
                conditions(random),
                "amount",
                "pieces");
        Optional<Condition> filter = conditions(random).get(0);
        Optional<TotalsCursor> found = direct(request, filter, written);
        assertThat(found).as(select).isPresent();
        assertThat(totals(found.get())).as(select).isEqualTo(byDatabase(folder + "/t*.parquet", request, filter));

        // what is damaged gives other totals or none, and never anything else
        byte[] bytes = Files.readAllBytes(written[0]);
        for (int i = 0; i < 20; i++) {
            byte[] other = bytes.clone();
            other[random.nextInt(other.length)] ^= (byte) (1 << random.nextInt(8));
            Files.write(written[0], i < 18 ? other : Arrays.copyOf(bytes, random.nextInt(bytes.length)));
            direct(request, filter, written);
        }
    }

    /** The database reads the rest. */
    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '`',
            value = {
                "DATE '2026-03-01', 'a', 1.50, ``, true",
                "DATE '2026-03-01', 'a', 1.50, `, DICTIONARY_SIZE_LIMIT 1`, true",
                "DATE '2026-03-01', 'S' || i % 7, 1.50, `, DICTIONARY_SIZE_LIMIT 1`, true",
                "DATE '2026-03-01', 'S' || i, 1.50, ``, false",
                "DATE '2026-03-01', 'a', 1.50, `, CODEC 'brotli'`, false",
                "DATE '2026-03-01', 'a', 1.5::DOUBLE, ``, false",
                "DATE '2026-03-01', 'a', 1.5::DECIMAL(38), ``, false",
                "DATE '2026-03-01', 'a', 7::UINTEGER, ``, false",
                "DATE '2026-03-01', 'a'::BLOB, 7, ``, false",
                "DATE '2026-03-01', 7, 7, ``, false",
                "TIMESTAMP '2026-03-01 12:00:00', 'a', 1.50, ``, false",
                "'2026-03-01', 'a', 1.50, ``, false",
                "DATE '2026-03-01', ['a'], 1.50, ``, false",
                "DATE '2026-03-01', 'a', 9223372036854775807, ``, false",
                "DATE '2026-03-01', 'a', 100000000000 * i, `, ROW_GROUP_SIZE 2048`, true"
            })
    void onlyWhatCanBeAddedUpHereIs(String day, String shop, String amount, String options, boolean isRead)
            throws SQLException {
        Path file = write(
                "SELECT " + day + " AS day, " + shop + " AS shop, " + amount + " AS amount FROM range(5000) t(i)",
                options);
        assertThat(direct(request(PLACED, DayBuckets.DAILY, List.of(SHOP), List.of(Optional.empty()), "amount"), file)
                        .isPresent())
                .isEqualTo(isRead);
    }

    @Test
    void filesThatDifferAreLeftToTheDatabase() throws SQLException {
        Path two = write("SELECT DATE '2026-03-01' AS day, 1.50 AS amount", "");
        Path three = write("SELECT DATE '2026-03-01' AS day, 1.505 AS amount", "");
        Path other = write("SELECT DATE '2026-03-01' AS day, 1.50 AS \"Amount\"", "");
        TotalsRequest request = request(PLACED, DayBuckets.DAILY, List.of(), List.of(Optional.empty()), "amount");
        assertThat(direct(request, two, two)).isPresent();
        assertThat(direct(request, two, three)).isEmpty();
        assertThat(direct(request, two, other)).isEmpty();
        assertThat(direct(request, two, folder.resolve("nowhere.parquet"))).isEmpty();
    }

    private static ParquetQuestion sum(Path file) {
        return ParquetQuestion.of(
                        ParquetFooter.of(List.of(file)).orElseThrow(),
                        fact(Optional.empty()),
                        Optional.empty(),
                        request(PLACED, DayBuckets.DAILY, List.of(), List.of(Optional.empty()), "amount"),
                        PLACED,
                        field -> Optional.empty())
                .orElseThrow();
    }

    /** Also where one thread adds up small numbers after a large one. */
    @Test
    void aSumBeyondALongIsLeftToTheDatabase() throws SQLException {
        Path file = write(
                "SELECT DATE '2026-03-01' AS day, CASE i WHEN 0 THEN 9223372036854772807 ELSE 1 END AS amount"
                        + " FROM range(5000) t(i)",
                ", ROW_GROUP_SIZE 2048");
        assertThat(ParquetTotals.of(sum(file), 1, Optional.empty())).isEmpty();
        assertThat(ParquetTotals.of(sum(file), 3, Optional.empty())).isEmpty();
    }

    /** Where its parts lie is known from its footer, which is no longer true. */
    @Test
    void aFileThatHasChangedIsLeftToTheDatabase() throws SQLException, IOException {
        Path file = write("SELECT DATE '2026-03-01' AS day, 1.50 AS amount", "");
        ParquetQuestion question = sum(file);
        assertThat(ParquetTotals.of(question, 1, Optional.empty())).isPresent();
        Files.setLastModifiedTime(file, FileTime.fromMillis(0));
        assertThat(ParquetTotals.of(question, 1, Optional.empty())).isEmpty();
    }

    /** The caller does not wait for rows that nobody wants any more. */
    @Test
    void anInterruptEndsAPass() throws SQLException {
        ParquetQuestion question =
                sum(write("SELECT DATE '2026-03-01' AS day, i AS amount FROM range(300000) t(i)", ""));
        Thread.currentThread().interrupt();
        assertThatThrownBy(() -> ParquetTotals.of(question, 2, Optional.empty()))
                .isInstanceOf(StoppedException.class);
        assertThat(Thread.interrupted()).isTrue();
    }
}
