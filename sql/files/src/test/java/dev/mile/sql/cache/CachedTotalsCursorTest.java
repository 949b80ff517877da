package dev.mile.sql.cache;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.DataException;
import dev.mile.StoppedException;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Files of totals: what was written is read, and no byte of them can change unseen. */
class CachedTotalsCursorTest {
    private static final CacheMetadata NOTES =
            new CacheMetadata("sales by day", List.of("a.csv 1"), 3, Map.of(RoleAccounts.RowOutcome.PLACED, 7L));

    @TempDir
    private Path folder;

    private Path file;

    @BeforeEach
    void write() throws IOException {
        file = folder.resolve("t.totals");
        DailyTotals counts = DailyTotals.counts(new long[] {1, 2});
        try (TotalsWriter writer = new TotalsWriter(file)) {
            writer.write(new GroupTotals(new String[] {"ä", ""}, new int[] {5, 9}, new DailyTotals[] {counts, counts}));
            writer.write(new GroupTotals(new String[] {"b", null}, new int[] {5, 6}, new DailyTotals[] {
                new DailyTotals.Longs(new long[] {Long.MAX_VALUE / 2, 0}, 2, new boolean[] {false, true}),
                new DailyTotals.Doubles(new double[] {0.5, Double.NaN})
            }));
            writer.write(new GroupTotals(new String[] {null, null}, new int[] {7}, new DailyTotals[] {
                new DailyTotals.Decimals(new BigDecimal[] {new BigDecimal("1e40")}),
                new DailyTotals.StringSets(new String[][] {{"x", "y"}})
            }));
            writer.end(NOTES);
        }
    }

    private String read() throws IOException {
        StringBuilder text = new StringBuilder();
        try (CachedTotalsCursor cursor = new CachedTotalsCursor(file, 2, 2)) {
            text.append(cursor.notes());
            for (GroupTotals group = cursor.next(); group != null; group = cursor.next()) {
                text.append('\n')
                        .append(Arrays.toString(group.members()))
                        .append(Arrays.toString(group.days()))
                        .append(Arrays.stream(group.values())
                                .map(CachedTotalsCursorTest::text)
                                .toList());
            }
        }
        return text.toString();
    }

    private static String text(DailyTotals values) {
        if (values instanceof DailyTotals.Longs exact) {
            return Arrays.toString(exact.unscaled()) + exact.scale() + Arrays.toString(exact.blanks());
        }
        return values instanceof DailyTotals.Doubles floating
                ? Arrays.toString(floating.values())
                : values instanceof DailyTotals.Decimals decimals
                        ? Arrays.toString(decimals.values())
                        : Arrays.deepToString(((DailyTotals.StringSets) values).values());
    }

    @Test
    void whatWasWrittenIsRead() throws IOException {
        assertThat(read())
                .isEqualTo(
                        NOTES
                                + """

                        [ä, ][5, 9][[1, 2]0null, [1, 2]0null]
                        [b, null][5, 6][[4611686018427387903, 0]2[false, true], [0.5, NaN]]
                        [null, null][7][[1E+40], [[x, y]]]""");
    }

    @Test
    void everyByteThatChangesAndEveryByteThatIsMissingIsSeen() throws IOException {
        byte[] whole = Files.readAllBytes(file);
        for (int at = 0; at < whole.length; at++) {
            byte[] other = whole.clone();
            other[at] ^= 0x20;
            assertDamaged(other, at);
            assertDamaged(Arrays.copyOf(whole, at), at);
        }
    }

    private void assertDamaged(byte[] bytes, int at) throws IOException {
        Files.write(file, bytes);
        assertThatThrownBy(this::read)
                .as("byte %s", at)
                .isInstanceOf(DataException.class)
                .hasMessageContaining("were damaged, and are deleted");
        assertThat(file).doesNotExist();
    }

    @Test
    void aFileWhoseReaderWasInterruptedStays() {
        Thread.currentThread().interrupt();
        assertThatThrownBy(this::read).isInstanceOf(StoppedException.class);
        assertThat(Thread.interrupted()).isTrue();
        assertThat(file).exists();
    }
}
