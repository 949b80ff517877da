package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.sql.files.TableFiles;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Totals that are kept, limits, and Parquet, as the command line has them. */
class StoreTest extends DemoCommands {
    @Test
    void totalsAreKeptListedUsedAndCleared() throws IOException {
        String store = folder.resolve("kept").toString();
        Answer without = mile("report", "trading", "--no-store");
        assertThat(Path.of(store)).doesNotExist();
        assertThat(mile("report", "trading", "--store", store).out()).isEqualTo(without.out());
        assertThat(mile("report", "trading", "--store", store)).isEqualTo(without);
        Answer list = mile("store", "--store", store);
        assertThat(list.out())
                .startsWith("Fernhollow Garden Centres\n")
                .containsPattern(
                        "KiB  kept [-0-9]{10} [:0-9]{5}, used (never|1 time, last [-0-9]{10} [:0-9]{5})  sales by ordered and day\n")
                .contains("  sales by dispatched and day\n", "  sales by ordered, stretches of days");
        assertThat(list.err()).matches("(?s)4 stores of totals, \\d+ KiB in .*kept\\R");
        // a row more, and nothing is believed of the old
        Path sales = folder.resolve("demo/sales.csv");
        String before = Files.readString(sales);
        String last = before.lines().reduce((a, b) -> b).orElseThrow();
        Files.writeString(sales, before + last + "\n");
        try {
            assertThat(mile("report", "trading", "--store", store).out())
                    .isEqualTo(mile("report", "trading", "--no-store").out())
                    .isNotEqualTo(without.out());
        } finally {
            Files.writeString(sales, before);
        }
        assertThat(mile("store", "--clear", "--project", "Another", "--store", store)
                        .err())
                .startsWith("deleted 0 answers");
        assertThat(mile("store", "--clear", "--older", "30d", "--store", store).err())
                .startsWith("deleted 0 answers");
        try (var kept = Files.list(Path.of(store))) {
            for (Path file : kept.filter(f -> f.toString().endsWith(".totals")).toList()) {
                Files.setLastModifiedTime(file, FileTime.from(Instant.now().minus(Duration.ofDays(31))));
            }
        }
        assertThat(mile("store", "--clear", "--older", "30d", "--store", store).err())
                .matches("(?s)deleted [1-9] answers.*");
        assertThat(mile("store", "--clear", "--project", "Fernhollow Garden Centres", "--store", store)
                        .err())
                .matches("(?s)deleted [1-9] answers?.*");
        assertThat(mile("store", "--store", store).out()).isEmpty();
    }

    @Test
    void aFullDiskKeepsNothingAndSaysSo() throws Exception {
        String expected = mile("report", "trading", "--no-store").out();
        onSmallDisk("8k", disk -> {
            Path store = disk.resolve("store");
            Answer answer = mile("report", "trading", "--store", store.toString());
            assertThat(answer.code()).isZero();
            assertThat(answer.out()).isEqualTo(expected);
            assertThat(answer.err()).containsOnlyOnce("totals are not kept for the next time: ");
            try (var left = Files.list(store)) {
                assertThat(left).noneMatch(file -> file.toString().endsWith(".part"));
            }
        });
    }

    /** A run that is killed while it keeps totals leaves a store that the next run can use. */
    @Test
    void aKilledRunLeavesNothingHalf() throws Exception {
        Path store = folder.resolve("killed");
        String expected = mile("report", "trading", "--no-store").out();
        for (int wait = 600; wait <= 2_400; wait += 600) {
            Process process = start(
                    folder.resolve("demo"),
                    folder.resolve("out"),
                    folder.resolve("err"),
                    "-Xmx512m",
                    "report",
                    "trading",
                    "--store",
                    store.toString());
            if (!process.waitFor(wait, TimeUnit.MILLISECONDS)) {
                process.destroyForcibly().waitFor();
            }
            assertThat(mile("report", "trading", "--store", store.toString()).out())
                    .isEqualTo(expected);
            mile("store", "--clear", "--store", store.toString());
        }
    }

    @ParameterizedTest
    @CsvSource({
        "--memory, lots, 'is no size of memory; expected one such as 512MB or 2GB'",
        "--threads, 0, 'the number of threads is 0; expected 1 to 512'",
        "--master, local, '--master is for Spark; write --engine spark --master local'",
        "--engine, sprak, 'no engine ''sprak'' is on the class path;'"
    })
    void limitsThatAreNoneAreRefused(String option, String value, String message) {
        Answer answer = mile("report", "trading", option, value);
        assertThat(answer.code()).isEqualTo(2);
        assertThat(answer.err()).contains(message);
    }

    @Test
    void limitsThatFitAreTaken() {
        assertThat(mile("report", "trading", "--memory", "1GB", "--threads", "1")
                        .code())
                .isZero();
    }

    @Test
    void parquetHoldsEveryDigit() throws IOException {
        Path csv = folder.resolve("r.csv");
        Path parquet = folder.resolve("r.parquet");
        Answer both = mile("report", "trading", "-o", csv.toString(), "-o", parquet.toString());
        assertThat(both.code()).as(both.err()).isZero();
        Path alone = folder.resolve("alone.parquet");
        mile("report", "trading", "-o", alone.toString());
        assertThat(TableFiles.read(alone)).isEqualTo(TableFiles.read(parquet));
        TableFiles.Content read = TableFiles.read(parquet);
        TableFiles.Content text = TableFiles.read(csv);
        assertThat(read.header()).isEqualTo(text.header());
        assertThat(read.rows()).hasSameSizeAs(text.rows());
        for (int i = 0; i < read.rows().size(); i++) {
            for (int c = 0; c < read.header().size(); c++) {
                String expected = text.rows().get(i).get(c);
                String is = read.rows().get(i).get(c);
                assertThat(number(is)).as(read.header().get(c)).isEqualTo(number(expected));
            }
        }
    }

    private static Object number(String text) {
        return text.matches("-?[0-9.]+(e-?[0-9]+)?") ? (Object) Double.valueOf(text) : text;
    }

    @Test
    void theStoreHasItsPlaceAmongCaches() {
        assertThat(EngineOptions.standardFolder(Map.of("MILE_STORE", "/a/b"))).isEqualTo(Path.of("/a/b"));
        if (System.getProperty("os.name").startsWith("Linux")) {
            assertThat(EngineOptions.standardFolder(Map.of("XDG_CACHE_HOME", "/c")))
                    .isEqualTo(Path.of("/c/mile"));
            assertThat(EngineOptions.standardFolder(Map.of()))
                    .isEqualTo(Path.of(System.getProperty("user.home"), ".cache/mile"));
        }
    }
}
