package dev.mile.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.verify;
import static org.mockito.Mockito.when;

import dev.mile.calendar.DateRange;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SplittableRandom;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class DayBucketsTest {
    /** The case whose days all lie in the range. */
    private static final int WHOLE = 3;

    private static final DayBuckets BUCKETS =
            DayBuckets.of(DateRange.ofEpochDays(10, 29), List.of(20, 5, 15, 10, 20, 29, 30));

    @Test
    void theyBeginInTheRange() {
        assertThat(BUCKETS.firstEpochDays()).containsExactly(10, 15, 20, 29);
        assertThat(BUCKETS.isDaily()).isFalse();
        assertThat(DayBuckets.of(DateRange.EMPTY, List.of(3))).isSameAs(DayBuckets.DAILY);
        assertThat(DayBuckets.DAILY.isDaily()).isTrue();
        assertThat(DayBuckets.DAILY.isBoundary(7)).isTrue();
        assertThat(DayBuckets.DAILY.boundaryIndex(7)).isEqualTo(-1);
        assertThat(DayBuckets.DAILY.bucketOf(7)).isEqualTo(-1);
    }

    @ParameterizedTest
    @CsvSource({
        "9, true, 0, -1",
        "10, true, 0, 0",
        "11, false, 0, 0",
        "14, false, 0, 0",
        "15, true, 1, 1",
        "19, false, 1, 1",
        "20, true, 2, 2",
        "28, false, 2, 2",
        "29, true, 3, 3",
        "30, true, 4, -1",
        "31, true, 4, -1"
    })
    void daysHaveTheirBucket(int day, boolean isBoundary, int index, int bucket) {
        assertThat(BUCKETS.isBoundary(day)).isEqualTo(isBoundary);
        assertThat(BUCKETS.boundaryIndex(day)).isEqualTo(index);
        assertThat(BUCKETS.bucketOf(day)).isEqualTo(bucket);
    }

    @Test
    void equalBucketsAreEqual() {
        DayBuckets same = DayBuckets.of(DateRange.ofEpochDays(10, 29), List.of(15, 20, 29));
        assertThat(same).isEqualTo(BUCKETS).hasSameHashCodeAs(BUCKETS);
        assertThat(DayBuckets.of(DateRange.ofEpochDays(10, 30), List.of(15, 20, 29)))
                .isNotEqualTo(BUCKETS)
                .doesNotHaveSameHashCodeAs(BUCKETS);
        assertThat(DayBuckets.of(DateRange.ofEpochDays(10, 29), List.of(15, 20)))
                .isNotEqualTo(BUCKETS);
        assertThat(BUCKETS).isNotEqualTo("buckets").hasToString("4 buckets up to 29: [10, 15, 20, 29]");
        assertThat(DayBuckets.DAILY).hasToString("days");
    }

    private static TotalColumn column(TotalColumn.Kind kind) {
        return new TotalColumn(kind, Optional.empty(), Optional.empty());
    }

    /** Totals of days become those of a request's days and buckets; groups without rows in its days are passed over. */
    @ParameterizedTest
    @ValueSource(ints = {0, 1, 2, 3})
    void totalsOfDaysBecomeThoseOfBuckets(int seed) {
        SplittableRandom random = new SplittableRandom(seed);
        DateRange range = DateRange.ofEpochDays(20, 59);
        DayBuckets buckets = seed == 0 ? DayBuckets.DAILY : DayBuckets.of(range, List.of(25, 26, 40, 59));
        List<GroupTotals> groups = new ArrayList<>();
        Map<String, Map<Integer, List<Long>>> expected = new TreeMap<>();
        for (String member : List.of("A", "B", "C", "D")) {
            int from = member.equals("B") ? 60 : seed == WHOLE ? 20 : 10;
            int[] days = random.ints(from, from == 20 ? 60 : 80)
                    .distinct()
                    .limit(15)
                    .sorted()
                    .toArray();
            long[] sums = random.longs(days.length, 1, 100).toArray();
            DailyTotals counts = DailyTotals.counts(sums);
            groups.add(new GroupTotals(new String[] {member}, days, new DailyTotals[] {
                counts, counts, counts, new DailyTotals.Longs(sums, 0, null)
            }));
            for (int i = 0; i < days.length; i++) {
                if (range.contains(days[i])) {
                    int bucket = buckets.bucketOf(days[i]);
                    int first = bucket < 0 ? days[i] : buckets.firstEpochDays()[bucket];
                    expected.computeIfAbsent(member, m -> new TreeMap<>())
                            .computeIfAbsent(first, d -> new ArrayList<>())
                            .add(sums[i]);
                }
            }
        }
        TotalsCursor daily = mock(TotalsCursor.class);
        when(daily.next()).thenReturn(groups.get(0), groups.get(1), groups.get(2), groups.get(3), null);
        when(daily.progress()).thenReturn(0.25);
        when(daily.rowOutcomes()).thenReturn(Map.of(RoleAccounts.RowOutcome.PLACED, 7L));
        List<TotalColumn> columns = List.of(
                column(TotalColumn.Kind.ROWS),
                column(TotalColumn.Kind.COUNT),
                column(TotalColumn.Kind.SUM),
                column(TotalColumn.Kind.MAX));
        TotalsRequest request = new TotalsRequest("t", "on", range, buckets, List.of(), columns);
        try (BucketingCursor cursor = new BucketingCursor(daily, request)) {
            expected.forEach((member, byBucket) -> {
                GroupTotals totals = cursor.next();
                assertThat(totals.members()).containsExactly(member);
                assertThat(Arrays.stream(totals.days()).boxed()).containsExactlyElementsOf(byBucket.keySet());
                int place = 0;
                for (List<Long> values : byBucket.values()) {
                    long sum = values.stream().mapToLong(v -> v).sum();
                    for (int c = 0; c < 3; c++) {
                        assertThat(totals.values()[c].amount(place).longValue()).isEqualTo(sum);
                    }
                    assertThat(totals.values()[3].amount(place).longValue())
                            .isEqualTo(values.stream().mapToLong(v -> v).max().orElseThrow());
                    place++;
                }
                if (seed == WHOLE) {
                    // nothing is cut off, and rows and counts of the same are added once
                    assertThat(totals.values()[1]).isSameAs(totals.values()[0]);
                }
            });
            assertThat(cursor.next()).isNull();
            assertThat(cursor.progress()).isEqualTo(0.25);
            assertThat(cursor.rowOutcomes()).containsEntry(RoleAccounts.RowOutcome.PLACED, 7L);
        }
        verify(daily).close();
    }
}
