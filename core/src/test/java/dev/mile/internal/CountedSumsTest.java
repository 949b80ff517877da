package dev.mile.internal;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigInteger;
import java.util.Arrays;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CountedSumsTest {
    private static final int SLOTS = 7;

    @Property(tries = 200)
    void sumsAndCountsAreThoseOfOneNumberAfterTheOther(@ForAll long seed, @ForAll @IntRange(max = 55) int bits) {
        Random random = new Random(seed);
        CountedSums sums = new CountedSums(0);
        CountedSums others = new CountedSums(SLOTS);
        BigInteger[] expected = new BigInteger[SLOTS];
        long[] counts = new long[SLOTS];
        Arrays.fill(expected, BigInteger.ZERO);
        long largest = 1L << bits;
        for (int batch = 0; batch < 40; batch++) {
            int n = random.nextInt(50);
            int[] at = new int[n];
            long[] numbers = new long[n];
            int[] ints = new int[n];
            for (int i = 0; i < n; i++) {
                at[i] = random.nextInt(SLOTS);
                // at both ends as often as between
                numbers[i] = random.nextBoolean()
                        ? (random.nextBoolean() ? largest : -largest)
                        : random.nextLong() % largest;
                ints[i] = (int) numbers[i];
            }
            boolean counted = random.nextInt(4) == 0;
            boolean asInts = bits < Integer.SIZE - 1 && random.nextBoolean();
            CountedSums into = random.nextBoolean() ? sums : others;
            into.ensureSlots(SLOTS);
            if (counted) {
                into.count(at, n);
            } else if (asInts) {
                into.add(at, ints, n, largest);
            } else {
                into.add(at, numbers, n, largest);
            }
            for (int i = 0; i < n; i++) {
                counts[at[i]]++;
                expected[at[i]] = counted ? expected[at[i]] : expected[at[i]].add(BigInteger.valueOf(numbers[i]));
            }
        }

        sums.ensureSlots(SLOTS);
        sums.add(others);

        for (int slot = 0; slot < SLOTS; slot++) {
            assertThat(sums.sum(slot)).isEqualTo(expected[slot].longValueExact());
            assertThat(sums.count(slot)).isEqualTo(counts[slot]);
        }
    }

    @Test
    void countsBeyondWhatOneLongHoldsBesideASum() {
        CountedSums sums = new CountedSums(2);
        int[] at = new int[1 << 20];
        long[] numbers = new long[at.length];
        Arrays.fill(numbers, -3);
        for (int i = 0; i < 40; i++) {
            sums.add(at, numbers, at.length, 3);
        }
        assertThat(sums.count(0)).isEqualTo(40L << 20);
        assertThat(sums.sum(0)).isEqualTo(-3 * (40L << 20));
        assertThat(sums.count(1)).isZero();
    }

    @ParameterizedTest
    @CsvSource({"1, 2", "1, 5", "-1, 2", "-1, 5"})
    void sumsOfOneSignGrowBeyondWhatOneLongHoldsBesideACount(int sign, int before) {
        CountedSums sums = new CountedSums(2);
        CountedSums others = new CountedSums(2);
        int[] at = new int[100];
        long[] numbers = new long[at.length];
        Arrays.fill(numbers, sign * (1L << 30));
        for (int i = 0; i < 40; i++) {
            // 2 batches and 2 more are less than 2^39 together, 5 and 5 more are not
            CountedSums into = i < before ? sums : i < 2 * before ? others : i % 2 == 0 ? sums : others;
            into.add(at, numbers, at.length, 1L << 30);
            if (i == 2 * before - 1) {
                sums.add(others);
                others = new CountedSums(2);
            }
        }

        sums.add(others);

        assertThat(sums.sum(0)).isEqualTo(sign * 40L * at.length << 30);
        assertThat(sums.count(0)).isEqualTo(40L * at.length);
        assertThat(sums.count(1)).isZero();
    }

    @Test
    void aSumBeyondALongIsRefused() {
        CountedSums sums = new CountedSums(1);
        long[] largest = {Long.MAX_VALUE, 1};
        assertThatThrownBy(() -> sums.add(new int[2], largest, 2, Long.MAX_VALUE))
                .isInstanceOf(ArithmeticException.class);
    }
}
