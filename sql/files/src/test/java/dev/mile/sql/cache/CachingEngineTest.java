package dev.mile.sql.cache;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.spy;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;

import dev.mile.MileException;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.engine.Engine;
import dev.mile.engine.FileFormat;
import dev.mile.engine.Source;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import dev.mile.fact.Fact;
import dev.mile.measure.Measure;
import dev.mile.report.DateBound;
import dev.mile.report.Grid;
import dev.mile.report.Project;
import dev.mile.report.Report;
import dev.mile.report.Session;
import dev.mile.sql.files.DuckDbEngine;
import dev.mile.sql.files.DuckDbEngineTest;
import dev.mile.sql.files.TableFiles;
import dev.mile.testkit.EngineContract;
import dev.mile.testkit.TestRows;
import java.io.IOException;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.Month;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CachingEngineTest {
    @TempDir
    Path folder;

    private final List<String> notices = new ArrayList<>();
    private final List<Double> fractions = new ArrayList<>();

    /** Changes within a tick of the file system's clock could look alike, so what is younger is not kept. */
    private static void settle() {
        try {
            Thread.sleep(150);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** The whole contract, each answer given from the store. */
    @Nested
    class Contract extends EngineContract {
        private int projects;

        @Override
        protected Engine engine(Project project, Map<String, TestRows> rows) {
            Map<String, Source> sources = new LinkedHashMap<>();
            Path own = folder.resolve("p" + projects++);
            rows.forEach((name, table) -> sources.put(name, DuckDbEngineTest.write(own, name + ".csv", table.csv())));
            settle();
            Engine kept = caching(DuckDbEngine.over(project.schema().withSources(sources)), own.resolve("store"));
            return (Engine) Proxy.newProxyInstance(
                    Engine.class.getClassLoader(), new Class<?>[] {Engine.class}, (proxy, method, arguments) -> {
                        try {
                            if (method.getName().equals("totals")) {
                                ((TotalsCursor) method.invoke(kept, arguments)).all();
                            }
                            return method.invoke(kept, arguments);
                        } catch (InvocationTargetException e) {
                            throw e.getCause();
                        }
                    });
        }

        @Override
        protected int shallowRandomRows() {
            return 1;
        }
    }

    private Project project(String measure) {
        return Project.named("shops")
                .calendar("c", FiscalCalendar.startingIn(Month.JANUARY))
                .dates(DateBound.at(LocalDate.parse("2025-01-01")), DateBound.at(LocalDate.parse("2026-12-31")))
                .fact(Fact.of("sales", "ordered", "day"))
                .measure("m", measure.equals("sum") ? Measure.sum("sales", "amount") : Measure.max("sales", "amount"))
                .report(Report.of("r", List.of("shop", "year"), List.of("m")))
                .build();
    }

    private Engine files(Project project, String location) {
        return spy(DuckDbEngine.over(project.schema().withSources(Map.of("sales", Source.files(location)))));
    }

    private Engine caching(Engine base, Path store) {
        return new CachingEngine(base, new FileTables(base.schema()), TotalsCache.in(store), notices::add);
    }

    /** Returns the rows of the report as texts. */
    private List<String> report(Project project, Engine files, Path store) {
        Engine kept = caching(files, store);
        try (Session session = Session.open(project, () -> kept)) {
            fractions.clear();
            session.onProgress(fractions::add);
            Grid grid = session.report("r");
            return grid.rows().stream().map(r -> r.labels() + "=" + r.values()).toList();
        }
    }

    private Path write(String name, String rows) throws IOException {
        Path file = Files.writeString(folder.resolve(name), "day,shop,amount\n" + rows);
        settle();
        return file;
    }

    private static final String NAME = "0123456789ab-" + "0".repeat(40);
    private static final String ROWS = "2025-03-01,S1,1.50\n2026-03-01,S1,2.25\n2026-03-02,S2,4.00\nno date,S2,9.00\n";

    @Test
    void anAnswerIsGivenAgainWithoutReadingTheSource() throws IOException {
        String csv = write("sales.csv", ROWS).toString();
        Path store = folder.resolve("store");
        List<String> first = report(project("sum"), files(project("sum"), csv), store);
        Engine again = files(project("sum"), csv);
        assertThat(report(project("sum"), again, store)).isEqualTo(first).contains("[S1, FY2026]=[2.25]");
        verify(again, never()).totals(any(), any());
        verify(again, never()).columns(any());
        verify(again, never()).accounts(any(), any(), any());
        TotalsCache of = TotalsCache.in(store);
        assertThat(of.list()).extracting(TotalsCache.Entry::about).contains("sales by ordered and day, shop");
        assertThat(of.clear()).isGreaterThan(2);
        assertThat(of.list()).isEmpty();
    }

    @Test
    void aChangedFileOrQuestionIsNeverAnsweredFromWhatIsOld() throws IOException {
        Path csv = write("sales.csv", ROWS);
        Path store = folder.resolve("store");
        FileTime before = Files.getLastModifiedTime(csv);
        report(project("sum"), files(project("sum"), csv.toString()), store);
        write("sales.csv", ROWS.replace("4.00", "5.00"));
        // as long as before, and said to be as old as before
        Files.setLastModifiedTime(csv, before);
        Engine changed = files(project("sum"), csv.toString());
        assertThat(report(project("sum"), changed, store)).contains("[S2, FY2026]=[5.00]");
        settle();
        Engine other = files(project("max"), csv.toString());
        assertThat(report(project("max"), other, store)).contains("[S1]=[2.25]");
        // by shop, and over all shops
        verify(other, times(2)).totals(any(), any());
    }

    @Test
    void aFileThatIsStillBeingChangedIsNotKept() throws IOException {
        Path csv = Files.writeString(folder.resolve("young.csv"), "day,shop,amount\n" + ROWS);
        Files.setLastModifiedTime(csv, FileTime.fromMillis(System.currentTimeMillis() + 5_000));
        Path store = folder.resolve("store");
        report(project("sum"), files(project("sum"), csv.toString()), store);
        assertThat(store).doesNotExist();
    }

    private void parquet(String name, String rows) throws IOException {
        TableFiles.parquet(
                Files.writeString(folder.resolve("rows.csv"), "day,shop,amount\n" + rows),
                new LinkedHashMap<>(Map.of("day", "DATE")) {
                    {
                        put("shop", "VARCHAR");
                        put("amount", name.contains("wide") ? "DECIMAL(12, 3)" : "DECIMAL(9, 2)");
                    }
                },
                folder.resolve(name));
        settle();
    }

    @Test
    void addedPartsAreReadAlone() throws IOException {
        String pattern = folder + "/part*.parquet";
        Path store = folder.resolve("store");
        parquet("part1.parquet", "2025-03-01,S1,1.50\n2026-03-01,S3,2.25\n");
        parquet("part2.parquet", "2026-03-01,S3,0.25\n,S9,1.00\n");
        report(project("sum"), files(project("sum"), pattern), store);
        parquet("part3.parquet", "2026-03-01,S3,4.00\n2026-03-05,S2,8.00\n2030-01-01,S1,7.00\n");
        List<String> fresh = report(project("sum"), files(project("sum"), pattern), folder.resolve("another store"));
        Engine grown = files(project("sum"), pattern);
        assertThat(report(project("sum"), grown, store))
                .isEqualTo(fresh)
                .contains("[S3, FY2026]=[6.50]", "[S2, FY2026]=[8.00]");
        verify(grown, never()).totals(any(), any());
        verify(grown, never()).dates(any());
        Engine again = files(project("sum"), pattern);
        assertThat(report(project("sum"), again, store)).isEqualTo(fresh);
        verify(again, never()).totals(any(), any());
        verify(again, never()).coverage(any(), any(), any());
    }

    /** A floating sum depends in its last digit on the order of its parts, so it is never put together of old and new. */
    @Test
    void floatingSumsAreReadWhole() throws IOException {
        String pattern = folder + "/float*.parquet";
        Path store = folder.resolve("store");
        for (int part = 1; part <= 2; part++) {
            TableFiles.parquet(
                    Files.writeString(
                            folder.resolve("rows.csv"),
                            "day,shop,amount\n2026-03-01,S1,0." + part + "\n2026-03-01,S1,1e16\n"),
                    new LinkedHashMap<>(Map.of("day", "DATE")) {
                        {
                            put("shop", "VARCHAR");
                            put("amount", "DOUBLE");
                        }
                    },
                    folder.resolve("float" + part + ".parquet"));
            settle();
            Engine files = files(project("sum"), pattern);
            List<String> fresh = report(project("sum"), files(project("sum"), pattern), folder.resolve("other" + part));
            assertThat(report(project("sum"), files, store)).isEqualTo(fresh);
            verify(files, times(2)).totals(any(), any());
        }
    }

    @Test
    void keysDoNotDependOnTheOrderOfMaps() {
        Map<String, String> one = new LinkedHashMap<>();
        Map<String, String> other = new LinkedHashMap<>();
        for (int i = 0; i < 20; i++) {
            one.put("column" + i, "lookup" + i);
            other.put("column" + (19 - i), "lookup" + (19 - i));
        }
        String name = new CacheKey().add(one).name();
        assertThat(new CacheKey().add(other).name()).isEqualTo(name);
        other.put("column3", "another");
        assertThat(new CacheKey().add(other).name()).isNotEqualTo(name);
        assertThat(new CacheKey().add(List.of("a", "b")).name())
                .isNotEqualTo(new CacheKey().add(List.of("ab")).name())
                .isNotEqualTo(new CacheKey().add("a").add("b").name());
    }

    @Test
    void partsOfOtherTypesAreNamed() throws IOException {
        parquet("part1.parquet", "2025-03-01,S1,1.50\n");
        parquet("part2wide.parquet", "2025-03-01,S1,1.505\n");
        String pattern = folder + "/part*.parquet";
        assertThatThrownBy(() -> report(project("sum"), files(project("sum"), pattern), folder.resolve("store")))
                .hasMessageContaining(
                        "the column 'amount' holds decimals with 2 places in part1.parquet and decimals with 3"
                                + " places in part2wide.parquet; write all files with the same types");
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 4, 200, -40})
    void aDamagedFileIsNeverBelieved(int at) throws IOException {
        String csv = write("sales.csv", ROWS).toString();
        Path store = folder.resolve("store");
        List<String> first = report(project("sum"), files(project("sum"), csv), store);
        List<Path> kept;
        try (var files = Files.list(store)) {
            kept = files.toList();
        }
        for (Path file : kept) {
            byte[] bytes = Files.readAllBytes(file);
            int place = at < 0 ? bytes.length + at : Math.min(at, bytes.length - 1);
            bytes[Math.max(place, 0)] ^= 0x20;
            Files.write(file, bytes);
        }
        for (int run = 0; run < kept.size(); run++) {
            try {
                assertThat(report(project("sum"), files(project("sum"), csv), store))
                        .isEqualTo(first);
            } catch (MileException e) {
                assertThat(e).hasMessageContaining("were damaged, and are deleted; run the command again");
            }
        }
        assertThat(report(project("sum"), files(project("sum"), csv), store)).isEqualTo(first);
    }

    @Test
    void damagedNotesAreNeverBelieved() throws IOException {
        String csv = write("sales.csv", ROWS).toString();
        Path store = folder.resolve("store");
        List<String> first = report(project("sum"), files(project("sum"), csv), store);
        int kept;
        TotalsCache of = TotalsCache.in(store);
        kept = of.list().size();
        for (TotalsCache.Entry entry : of.list()) {
            String bytes = Files.readString(entry.file(), StandardCharsets.ISO_8859_1);
            assertThat(bytes).contains("PLACED");
            Files.writeString(entry.file(), bytes.replace("PLACED", "PLASED"), StandardCharsets.ISO_8859_1);
        }
        assertThat(of.list()).hasSize(kept);
        assertThat(report(project("sum"), files(project("sum"), csv), store)).isEqualTo(first);
        assertThat(of.list()).hasSize(kept).noneMatch(entry -> entry.about().contains("damaged"));
    }

    @Test
    void rowsAreComputedOnceAndAgainWhereTheyAreDamaged() throws IOException {
        TotalsCache of = TotalsCache.in(folder.resolve("store"));
        List<List<String>> rows = List.of(List.of("2026-05-01", "a\tb\\n\n"), List.of("2026-05-02", ""));
        List<String> computed = new ArrayList<>();
        for (String key : List.of("a", "a", "b")) {
            assertThat(of.rows(List.of("holidays", key), () -> {
                        computed.add(key);
                        return rows;
                    }))
                    .isEqualTo(rows);
        }
        assertThat(computed).containsExactly("a", "b");
        try (Stream<Path> files = Files.list(folder.resolve("store"))) {
            for (Path file : files.toList()) {
                Files.writeString(file, Files.readString(file).replace("2026", "2027"));
            }
        }
        assertThat(of.rows(List.of("holidays", "a"), () -> rows)).isEqualTo(rows);
    }

    /** What is kept where such lines are counted must not stand in where they stop the report. */
    @Test
    void linesThatAreNoRowsStopAReportAlsoAfterOneThatCountedThem() throws IOException {
        String csv = write("ragged.csv", ROWS + "2026-04-01,S1,1.00,surplus\n").toString();
        Path store = folder.resolve("store");
        Project project = project("sum");
        Source counted = Source.files(csv, FileFormat.PLAIN.withRejectsCounted());
        Engine lenient = DuckDbEngine.over(project.schema().withSources(Map.of("sales", counted)));
        assertThat(report(project, lenient, store)).contains("[S1, FY2026]=[2.25]");
        assertThatThrownBy(() -> report(project, files(project, csv), store))
                .hasMessageStartingWith("ragged.csv:6: this line is no row");
    }

    @Test
    void whatWasUsedLongestAgoGoesFirst() throws IOException {
        String csv = write("sales.csv", ROWS).toString();
        Path store = folder.resolve("store");
        report(project("sum"), files(project("sum"), csv), store);
        Instant now = Instant.now();
        TotalsCache of = TotalsCache.in(store);
        for (TotalsCache.Entry entry : of.list()) {
            Files.setLastModifiedTime(entry.file(), FileTime.from(now.minus(Duration.ofHours(1))));
        }
        Project other = project("max");
        TotalsCache small =
                TotalsCache.in(store, CacheLimits.DEFAULT.withBytes(1)).ofProject("other");
        Engine engine = files(other, csv);
        Engine kept = new CachingEngine(engine, new FileTables(engine.schema()), small, notices::add);
        try (Session session = Session.open(other, () -> kept)) {
            session.report("r");
        }
        // what was kept a moment ago may be in use
        assertThat(of.list()).isNotEmpty().allMatch(entry -> entry.project().equals("other"));
        assertThat(of.clear("shops")).isZero();
        assertThat(of.clear("other")).isPositive();
        assertThat(of.list()).isEmpty();
        assertThat(notices).isEmpty();
    }

    /** A clock that was wrong, and is right again. */
    @Test
    void whatWasUsedInTheFutureIsUsedNow() throws IOException {
        String csv = write("sales.csv", ROWS).toString();
        Path store = folder.resolve("store");
        List<String> first = report(project("sum"), files(project("sum"), csv), store);
        Instant later = Instant.now().plus(Duration.ofDays(3_000));
        TotalsCache of = TotalsCache.in(store);
        for (TotalsCache.Entry entry : of.list()) {
            Files.setLastModifiedTime(entry.file(), FileTime.from(later));
        }
        assertThat(of.list()).allMatch(entry -> entry.lastUsed().isBefore(later));
        assertThat(of.clearUnused(Duration.ofDays(30))).isZero();
        assertThat(of.clearUnused(Duration.ZERO)).isPositive();
        assertThat(report(project("sum"), files(project("sum"), csv), store)).isEqualTo(first);
    }

    /** Two programs that read, keep and clear away answers at once never get a wrong one; 200 rounds in the deep profile. */
    @Test
    void twoProgramsShareAStore() throws Exception {
        int rounds = Integer.getInteger("mile.store.rounds", 4);
        String csv = write("sales.csv", ROWS).toString();
        Path store = folder.resolve("store");
        List<String> expected = report(project("sum"), files(project("sum"), csv), store);
        ExecutorService programs = Executors.newFixedThreadPool(2);
        try {
            List<Future<?>> running = new ArrayList<>();
            for (int program = 0; program < 2; program++) {
                running.add(programs.submit(() -> {
                    for (int round = 0; round < rounds; round++) {
                        Engine engine = DuckDbEngine.over(
                                project("sum").schema().withSources(Map.of("sales", Source.files(csv))));
                        Engine kept = new CachingEngine(
                                engine, new FileTables(engine.schema()), TotalsCache.in(store), why -> {});
                        try (Session session = Session.open(project("sum"), () -> kept)) {
                            List<String> rows = session.report("r").rows().stream()
                                    .map(r -> r.labels() + "=" + r.values())
                                    .toList();
                            assertThat(rows).isEqualTo(expected);
                        }
                        if (round % 3 == 2) {
                            TotalsCache of = TotalsCache.in(store);
                            of.clear();
                        }
                    }
                    return null;
                }));
            }
            for (Future<?> program : running) {
                program.get(10, TimeUnit.MINUTES);
            }
        } finally {
            programs.shutdownNow();
        }
        try (Stream<Path> left = Files.list(store)) {
            assertThat(left).noneMatch(file -> file.toString().endsWith(".part"));
        }
    }

    @Test
    void aStoreThatCannotBeWrittenIsSaidOnce() throws IOException {
        String csv = write("sales.csv", ROWS).toString();
        Path blocked = Files.writeString(folder.resolve("blocked"), "a file where a folder should be");
        assertThat(report(project("sum"), files(project("sum"), csv), blocked.resolve("store")))
                .contains("[S1, FY2026]=[2.25]");
        assertThat(notices).hasSize(1).first().asString().startsWith("totals are not kept for the next time: ");
    }

    @Test
    void totalsThatAreNotReadToTheEndLeaveNothing() throws IOException {
        String csv = write("sales.csv", ROWS).toString();
        Path store = folder.resolve("store");
        Project project = project("sum");
        Engine kept = caching(files(project, csv), store);
        try (Session session = Session.open(project, () -> kept)) {
            TotalsRequest request = TotalsRequest.daily(
                    "sales", "ordered", session.dayContext().dimensionRange(), List.of(), List.of());
            try (TotalsCursor cursor = kept.totals(request, session.dayContext())) {
                assertThat(cursor.next()).isNotNull();
            }
        }
        TotalsCache of = TotalsCache.in(store);
        assertThat(of.list()).isEmpty();
    }

    /** A store in a folder with other files leaves them alone. */
    @Test
    void onlyAnswersAreDeleted() throws IOException {
        String csv = write("sales.csv", ROWS).toString();
        Path own = Files.writeString(folder.resolve("sales.parquet"), "data");
        Path notes = Files.writeString(folder.resolve("notes.txt"), "text");
        Path part = Files.writeString(folder.resolve("download.part"), "half");
        Path earlier = Files.writeString(folder.resolve(NAME + ".parquet"), "totals");
        report(project("sum"), files(project("sum"), csv), folder);
        assertThat(earlier).doesNotExist();
        assertThat(TotalsCache.in(folder).clear()).isPositive();
        assertThat(own).exists();
        assertThat(notes).exists();
        assertThat(part).exists();
    }

    @Test
    void whatKilledProgramsLeftIsClearedAway() throws IOException {
        String csv = write("sales.csv", ROWS).toString();
        Path store = Files.createDirectory(folder.resolve("store"));
        Path left = Files.writeString(store.resolve(NAME + ".totals.1.part"), "half");
        Path writing = Files.writeString(store.resolve(NAME + ".totals.2.part"), "half");
        Files.setLastModifiedTime(
                left,
                FileTime.from(Files.getLastModifiedTime(writing).toInstant().minus(Duration.ofDays(2))));
        report(project("sum"), files(project("sum"), csv), store);
        assertThat(left).doesNotExist();
        assertThat(writing).exists();
    }

    @Test
    void somebodyIsToldHowManyGroupsAreDone() throws IOException {
        StringBuilder rows = new StringBuilder();
        for (int shop = 0; shop < 1_000; shop++) {
            rows.append("2026-03-01,S").append(1_000 + shop).append(",1\n");
        }
        String csv = write("sales.csv", rows.toString()).toString();
        Path store = folder.resolve("store");
        for (int run = 0; run < 2; run++) {
            report(project("sum"), files(project("sum"), csv), store);
            // some groups are read ahead of the 256th, 512th and 768th
            assertThat(fractions).hasSize(4).isSorted().endsWith(1.0);
            assertThat(fractions.get(0)).isCloseTo(0.256, within(0.01));
        }
    }

    @Test
    void severalAtOnceDoNoHarm() throws Exception {
        String csv = write("sales.csv", ROWS).toString();
        Path store = folder.resolve("store");
        ExecutorService threads = Executors.newFixedThreadPool(4);
        try {
            List<Callable<List<String>>> runs = new ArrayList<>();
            for (int i = 0; i < 12; i++) {
                runs.add(() -> report(project("sum"), files(project("sum"), csv), store));
            }
            List<List<String>> answers = new ArrayList<>();
            for (Future<List<String>> run : threads.invokeAll(runs)) {
                answers.add(run.get());
            }
            assertThat(answers).allMatch(answers.get(0)::equals);
            try (var files = Files.list(store)) {
                assertThat(files).noneMatch(f -> f.toString().endsWith(".part"));
            }
        } finally {
            threads.shutdown();
        }
    }
}
