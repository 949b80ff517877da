package dev.mile.sql.cache;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalColumn;
import dev.mile.engine.TotalsCursor;
import dev.mile.engine.TotalsRequest;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.IntStream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

/** What is kept in the store, and added to what is kept, comes back as it was. */
class TotalsCodecTest {
    private static DailyTotals values(Random random, int kind, int size) {
        switch (kind) {
            case 0:
                return DailyTotals.counts(random.longs(size).map(Math::abs).toArray());
            case 1:
                boolean[] blanks = new boolean[size];
                for (int i = 0; i < size; i++) {
                    blanks[i] = random.nextBoolean();
                }
                return new DailyTotals.Longs(random.longs(size).toArray(), random.nextInt(9), blanks);
            case 2:
                BigDecimal[] large = new BigDecimal[size];
                for (int i = 0; i < size; i++) {
                    large[i] = random.nextInt(5) == 0 ? null : new BigDecimal(new BigInteger(90, random), 3).negate();
                }
                return new DailyTotals.Decimals(large);
            case 3:
                return new DailyTotals.Doubles(random.doubles(size)
                        .map(x -> x < 0.2 ? Double.NaN : x * 1e300 - 5e299)
                        .toArray());
            default:
                String[][] texts = new String[size][];
                for (int i = 0; i < size; i++) {
                    texts[i] = random.nextInt(4) == 0
                            ? null
                            : IntStream.range(0, random.nextInt(4))
                                    .mapToObj(t -> "ä\n\t'\"" + random.nextInt(99) + "𝄞")
                                    .toArray(String[]::new);
                }
                return new DailyTotals.StringSets(texts);
        }
    }

    private static void same(DailyTotals is, DailyTotals expected, int size) {
        assertThat(is).isInstanceOf(expected.getClass());
        for (int i = 0; i < size; i++) {
            assertThat(is.isBlank(i)).isEqualTo(expected.isBlank(i));
            assertThat(is.amount(i)).isEqualTo(expected.amount(i));
            if (is instanceof DailyTotals.StringSets texts) {
                assertThat(texts.values()[i]).isEqualTo(((DailyTotals.StringSets) expected).values()[i]);
            }
        }
    }

    @Property(tries = 300)
    void bytesComeBackAsTheValuesTheyWere(
            @ForAll @IntRange(max = 4) int kind, @ForAll @IntRange(max = 40) int size, @ForAll long seed) {
        DailyTotals values = values(new Random(seed), kind, size);
        byte[] packed = TotalsCodec.values(values);
        assertThat(TotalsCodec.sameAs(packed)).isEqualTo(-1);
        same(TotalsCodec.values(packed, size), values, size);
        int first = size / 2;
        same(values.slice(0, first), values, first);
        int[] days = new Random(seed).ints(size).sorted().toArray();
        assertThat(TotalsCodec.days(TotalsCodec.days(days))).isEqualTo(days);
    }

    @Test
    void aColumnMayStandForAnEarlierOne() {
        assertThat(TotalsCodec.sameAs(TotalsCodec.same(17))).isEqualTo(17);
    }

    private static final TotalsRequest REQUEST = TotalsRequest.daily(
            "t",
            "on",
            dev.mile.calendar.DateRange.ofEpochDays(0, 10),
            List.of(),
            List.of(
                    new TotalColumn(TotalColumn.Kind.ROWS, Optional.empty(), Optional.empty()),
                    new TotalColumn(TotalColumn.Kind.SUM, Optional.empty(), Optional.empty()),
                    new TotalColumn(TotalColumn.Kind.MIN, Optional.empty(), Optional.empty()),
                    new TotalColumn(TotalColumn.Kind.DISTINCT, Optional.empty(), Optional.empty())));

    private static GroupTotals group(String member, int[] days, long[] rows, String[] amounts, String... texts) {
        BigDecimal[] of = Arrays.stream(amounts)
                .map(a -> a.isEmpty() ? null : new BigDecimal(a))
                .toArray(BigDecimal[]::new);
        String[][] each = new String[days.length][];
        Arrays.fill(each, texts);
        return new GroupTotals(new String[] {member}, days, new DailyTotals[] {
            DailyTotals.counts(rows), DailyTotals.of(of), DailyTotals.of(of), new DailyTotals.StringSets(each)
        });
    }

    @Test
    void totalsOfNewFilesAreAddedGroupByGroupAndDayByDay() {
        TotalsCursor kept = TotalsCursor.of(
                List.of(
                        group("A", new int[] {1, 3}, new long[] {1, 2}, new String[] {"1.50", "-2.00"}, "x"),
                        group(null, new int[] {2}, new long[] {5}, new String[] {""}, "x")),
                Map.of(RoleAccounts.RowOutcome.PLACED, 8L));
        TotalsCursor added = TotalsCursor.of(
                List.of(
                        group(
                                "A",
                                new int[] {3, 4},
                                new long[] {4, 1},
                                new String[] {"7.005", "9223372036854775807"},
                                "y"),
                        group("B", new int[] {1}, new long[] {1}, new String[] {"3"}, "y")),
                Map.of(RoleAccounts.RowOutcome.PLACED, 6L, RoleAccounts.RowOutcome.NO_DATE, 1L));
        int[] closed = {0};
        try (MergingCursor totals = new MergingCursor(kept, added, REQUEST, () -> closed[0]++)) {
            GroupTotals a = totals.next();
            assertThat(a.members()).containsExactly("A");
            assertThat(a.days()).containsExactly(1, 3, 4);
            assertThat(a.values()[0].amount(1)).isEqualTo(BigDecimal.valueOf(6));
            assertThat((BigDecimal) a.values()[1].amount(1)).isEqualByComparingTo("5.005");
            assertThat((BigDecimal) a.values()[1].amount(2)).isEqualByComparingTo("9223372036854775807");
            assertThat((BigDecimal) a.values()[2].amount(1)).isEqualByComparingTo("-2");
            assertThat(((DailyTotals.StringSets) a.values()[3]).values()[1]).containsExactly("x", "y");
            assertThat(totals.next().members()).containsExactly("B");
            GroupTotals blank = totals.next();
            assertThat(blank.members()).containsExactly((String) null);
            assertThat(blank.values()[1].isBlank(0)).isTrue();
            assertThat(totals.next()).isNull();
            assertThat(totals.rowOutcomes())
                    .isEqualTo(Map.of(RoleAccounts.RowOutcome.PLACED, 14L, RoleAccounts.RowOutcome.NO_DATE, 1L));
        }
        assertThat(closed).containsExactly(1);
    }
}
