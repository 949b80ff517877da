package dev.mile.fact;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.ModelException;
import java.util.Arrays;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

class WholeNumbersTest {
    @Property(tries = 300)
    void numbersOfAnyRangeAreReadAsTheyWereGiven(
            @ForAll long seed, @ForAll @IntRange(max = 63) int bits, @ForAll @IntRange(max = 300) int size) {
        Random random = new Random(seed);
        long base = random.nextBoolean() ? random.nextLong() : random.nextInt();
        long[] given = new long[size];
        int[] ints = new int[size];
        for (int row = 0; row < size; row++) {
            given[row] = base + (random.nextLong() >> Long.SIZE - 1 - bits);
            ints[row] = (int) given[row];
        }

        expectSame(WholeNumbers.of(given), given);
        expectSame(WholeNumbers.of(ints), Arrays.stream(ints).asLongStream().toArray());
    }

    private static void expectSame(WholeNumbers numbers, long[] given) {
        int size = given.length;
        assertThat(numbers.size()).isEqualTo(size);
        assertThat(numbers.smallest()).isEqualTo(Arrays.stream(given).min().orElse(0));
        assertThat(numbers.largest()).isEqualTo(Arrays.stream(given).max().orElse(0));
        for (int row = 0; row < size; row++) {
            assertThat(numbers.get(row)).isEqualTo(given[row]);
        }
        int from = size / 3;
        long[] read = new long[size - from];
        numbers.read(from, read.length, read);
        assertThat(read).isEqualTo(Arrays.copyOfRange(given, from, size));
        if (numbers.smallest() >= Integer.MIN_VALUE && numbers.largest() <= Integer.MAX_VALUE) {
            int[] ints = new int[read.length];
            numbers.read(from, ints.length, ints);
            assertThat(ints)
                    .isEqualTo(Arrays.stream(read).mapToInt(n -> (int) n).toArray());
        } else {
            assertThatThrownBy(() -> numbers.read(0, 1, new int[1])).isInstanceOf(ArithmeticException.class);
        }
    }

    @Test
    void rowsOfManyPartsAreReadAsTheyWereGiven() {
        int[] given = new int[600_000];
        Arrays.setAll(given, row -> row % 70_000 - 5);
        WholeNumbers numbers = WholeNumbers.of(given);
        int[] read = new int[given.length];
        numbers.read(0, read.length, read);
        assertThat(read).isEqualTo(given);

        WholeNumbers mapped = numbers.map(number -> number % 3 - 1);
        mapped.read(0, read.length, read);
        assertThat(read)
                .isEqualTo(Arrays.stream(given).map(number -> number % 3 - 1).toArray());
        assertThat(WholeNumbers.of(new int[0]).map(number -> 1 / number).size()).isZero();
    }

    @Test
    void datesKeepBlanksAndWhatCannotBeRead() {
        int[] days = {20_000, Table.NO_DATE, 20_005, Table.UNREADABLE};
        ColumnValues.Dates dates = ColumnValues.Dates.of(days);
        int[] read = new int[4];
        dates.read(0, 4, read);
        assertThat(read).isEqualTo(days);
        assertThat(new int[] {dates.day(0), dates.day(1), dates.day(2), dates.day(3)})
                .isEqualTo(days);
        assertThat(new int[] {dates.first(), dates.last()}).containsExactly(20_000, 20_005);
        assertThat(dates.isFull()).isFalse();

        ColumnValues.Dates none = ColumnValues.Dates.of(new int[] {Table.NO_DATE, Table.UNREADABLE});
        assertThat(none.first()).isGreaterThan(none.last());
        assertThat(none.day(1)).isEqualTo(Table.UNREADABLE);
    }

    @Test
    void aCodeWithoutATextIsRefused() {
        String[] shops = {"Fernhollow", "Mossgate"};
        assertThatThrownBy(() -> Table.ofRows(3).coded("shop", new int[] {0, -1, 2}, shops))
                .isInstanceOf(ModelException.class)
                .hasMessage(
                        "the column 'shop' has the code 2 in row 3; its dictionary has 2 texts, numbered from 0, and -1"
                                + " is a blank");
    }
}
