package dev.mile.report.series;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.engine.DailyTotals;
import dev.mile.measure.Measure.Aggregation;
import dev.mile.measure.Value;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.TreeMap;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;

/** Windows over running sums, trees and sets say what adding the days one by one says. */
class DailySeriesTest {
    /** One day as a person would note it. */
    private record Day(long rows, List<BigDecimal> amounts) {}

    private static TreeMap<Integer, Day> days(Random random, int size, int digits) {
        TreeMap<Integer, Day> days = new TreeMap<>();
        int day = random.nextInt(100) - 50;
        for (int i = 0; i < size; i++) {
            day += 1 + (random.nextInt(3) == 0 ? random.nextInt(9) : 0);
            List<BigDecimal> amounts = new ArrayList<>();
            int rows = 1 + random.nextInt(3);
            for (int r = 0; r < rows; r++) {
                if (random.nextInt(4) > 0) {
                    BigDecimal amount = new BigDecimal(random.nextInt(2_000_001) - 1_000_000).movePointLeft(2);
                    amounts.add(digits > 0 ? amount.scaleByPowerOfTen(digits).setScale(2) : amount);
                }
            }
            days.put(day, new Day(rows, amounts));
        }
        return days;
    }

    private static DailySeries series(TreeMap<Integer, Day> days) {
        int n = days.size();
        int[] on = new int[n];
        long[] rows = new long[n];
        long[] counts = new long[n];
        BigDecimal[] sums = new BigDecimal[n];
        BigDecimal[] least = new BigDecimal[n];
        BigDecimal[] most = new BigDecimal[n];
        int i = 0;
        for (var entry : days.entrySet()) {
            on[i] = entry.getKey();
            rows[i] = entry.getValue().rows();
            counts[i] = entry.getValue().amounts().size();
            sums[i] =
                    entry.getValue().amounts().stream().reduce(BigDecimal::add).orElse(null);
            least[i] =
                    entry.getValue().amounts().stream().reduce(BigDecimal::min).orElse(null);
            most[i] =
                    entry.getValue().amounts().stream().reduce(BigDecimal::max).orElse(null);
            i++;
        }
        return DailySeries.of(
                on,
                DailyTotals.counts(rows),
                DailyTotals.counts(counts),
                DailyTotals.of(sums),
                DailyTotals.of(least),
                DailyTotals.of(most),
                null);
    }

    private static Value slow(Aggregation how, TreeMap<Integer, Day> days, int first, int last) {
        List<BigDecimal> all = new ArrayList<>();
        BigDecimal edge = null;
        for (Day day : days.subMap(first, true, last, true).values()) {
            all.addAll(day.amounts());
            BigDecimal sum = day.amounts().stream().reduce(BigDecimal::add).orElse(null);
            edge = sum == null || how == Aggregation.FIRST && edge != null ? edge : sum;
        }
        BigDecimal sum = all.stream().reduce(BigDecimal::add).orElse(null);
        return switch (how) {
            case COUNT -> Value.of(all.size());
            case SUM -> sum == null ? Value.NOTHING : Value.of(sum);
            case AVG -> sum == null ? Value.UNDEFINED : Value.of(sum).dividedBy(Value.of(all.size()));
            case MIN -> orUndefined(all.stream().reduce(BigDecimal::min).orElse(null));
            case MAX -> orUndefined(all.stream().reduce(BigDecimal::max).orElse(null));
            default -> orUndefined(edge);
        };
    }

    private static Value orUndefined(BigDecimal number) {
        return number == null ? Value.UNDEFINED : Value.of(number);
    }

    private static void agree(TreeMap<Integer, Day> days, DailySeries series, Random random) {
        for (int i = 0; i < 40; i++) {
            int first = random.nextInt(400) - 120;
            int last = first + random.nextInt(200);
            long rows = days.subMap(first, true, last, true).values().stream()
                    .mapToLong(Day::rows)
                    .sum();
            assertThat(series.rows(first, last)).isEqualTo(rows);
            for (Aggregation aggregation : Aggregation.values()) {
                if (aggregation != Aggregation.DISTINCT) {
                    assertThat(series.value(
                                    aggregation, false, series.indexOfFirstFrom(first), series.indexAfter(last)))
                            .as("%s from %d to %d of %s", aggregation, first, last, days)
                            .isEqualTo(slow(aggregation, days, first, last));
                }
            }
        }
    }

    /** From 14 digits on, some sums outgrow 64 bits: one day's, the running ones, or those of several series. */
    @Property(tries = 300)
    void windowsAreWhatTheirDaysAddUpTo(
            @ForAll @IntRange(max = 60) int size, @ForAll @IntRange(max = 16) int digits, @ForAll long seed) {
        Random random = new Random(seed);
        TreeMap<Integer, Day> days = days(random, size, digits);
        agree(days, series(days), random);
    }

    @Property(tries = 200)
    void seriesAddUpDayByDay(
            @ForAll @IntRange(min = 1, max = 5) int count, @ForAll @IntRange(max = 17) int digits, @ForAll long seed) {
        Random random = new Random(seed);
        TreeMap<Integer, Day> all = new TreeMap<>();
        List<DailySeries> parts = new ArrayList<>();
        for (int p = 0; p < count; p++) {
            TreeMap<Integer, Day> one = days(random, random.nextInt(30), random.nextBoolean() ? digits : 0);
            parts.add(series(one));
            one.forEach((day, is) -> all.merge(day, is, (a, b) -> {
                List<BigDecimal> both = new ArrayList<>(a.amounts());
                both.addAll(b.amounts());
                return new Day(a.rows() + b.rows(), both);
            }));
        }
        DailySeries together = DailySeriesBuilder.of(parts);
        agree(all, together, random);
        all.keySet().removeIf(day -> Math.floorMod(day, 3) == 1);
        agree(all, DailySeriesBuilder.filtered(together, day -> Math.floorMod(day, 3) != 1), random);
    }

    @Example
    void floatingSumsKeepWhatSmallNumbersAdd() {
        int[] days = {1, 2, 3, 4};
        DailyTotals ones = DailyTotals.counts(new long[] {1, 1, 1, 1});
        DailySeries series = DailySeries.of(
                days, ones, ones, new DailyTotals.Doubles(new double[] {1e16, 1, 1, -1e16}), null, null, null);
        assertThat(series.value(Aggregation.SUM, false, 0, 4).toDouble()).isEqualTo(2.0);
        assertThat(series.value(Aggregation.SUM, false, 1, 3).toDouble()).isEqualTo(2.0);
        assertThat(series.value(Aggregation.LAST, false, 0, 3).toDouble()).isEqualTo(1.0);
    }

    @Example
    void theSameTextOnSeveralDaysCountsOnce() {
        DailyTotals rows = DailyTotals.counts(new long[] {2, 1, 3});
        DailySeries one =
                DailySeries.of(new int[] {1, 2, 9}, rows, null, null, null, null, new int[][] {{0, 1}, {1}, {0, 2, 3}});
        DailySeries other = DailySeries.of(
                new int[] {2}, DailyTotals.counts(new long[] {1}), null, null, null, null, new int[][] {{7}});
        assertThat(one.value(Aggregation.DISTINCT, false, one.indexOfFirstFrom(1), one.indexAfter(2)))
                .isEqualTo(Value.of(2));
        assertThat(one.value(Aggregation.DISTINCT, false, one.indexOfFirstFrom(1), one.indexAfter(9)))
                .isEqualTo(Value.of(4));
        DailySeries both = DailySeriesBuilder.of(List.of(one, other));
        assertThat(both.value(Aggregation.DISTINCT, false, both.indexOfFirstFrom(1), both.indexAfter(8)))
                .isEqualTo(Value.of(3));
        assertThat(both.rows()).isEqualTo(7);
    }
}
