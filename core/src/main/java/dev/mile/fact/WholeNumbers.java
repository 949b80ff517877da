package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import java.util.Objects;
import java.util.function.IntUnaryOperator;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * Whole numbers, one a row, each in 1, 2, 4 or 8 bytes: as few as the distance between the smallest and the largest of them needs. Many
 * rows are read as fast as the memory of the machine hands them over, so fewer bytes take less time.
 *
 * <p>Rows are numbered from 0. Safe for use by several threads.
 */
public final class WholeNumbers {
    private static final int BYTE = 0xff;
    private static final int SHORT = 0xffff;
    private static final long INT = 0xffff_ffffL;

    private static final int ROWS_OF_A_CHUNK = 1 << 18;

    private final int size;
    private final long smallest;
    private final long largest;

    // one of them is there; all but the last hold distances from the smallest number
    private final byte[] bytes;
    private final short[] shorts;
    private final int[] ints;
    private final long[] longs;

    private WholeNumbers(int size, Stream<Range> ranges) {
        Range range = size == 0 ? new Range(0, 0) : ranges.reduce(Range::hull).orElseThrow();
        this.size = size;
        smallest = range.smallest;
        largest = range.largest;
        // negative where it takes more than 63 bits
        long distance = largest - smallest;
        bytes = distance >= 0 && distance <= BYTE ? new byte[size] : null;
        shorts = distance > BYTE && distance <= SHORT ? new short[size] : null;
        ints = distance > SHORT && distance <= INT ? new int[size] : null;
        longs = bytes == null && shorts == null && ints == null ? new long[size] : null;
    }

    private record Range(long smallest, long largest) {
        static Range of(int[] numbers, int from, int to) {
            int smallest = Integer.MAX_VALUE;
            int largest = Integer.MIN_VALUE;
            for (int row = from; row < to; row++) {
                smallest = Math.min(smallest, numbers[row]);
                largest = Math.max(largest, numbers[row]);
            }
            return new Range(smallest, largest);
        }

        static Range of(long[] numbers, int from, int to) {
            long smallest = Long.MAX_VALUE;
            long largest = Long.MIN_VALUE;
            for (int row = from; row < to; row++) {
                smallest = Math.min(smallest, numbers[row]);
                largest = Math.max(largest, numbers[row]);
            }
            return new Range(smallest, largest);
        }

        Range hull(Range other) {
            return new Range(Math.min(smallest, other.smallest), Math.max(largest, other.largest));
        }
    }

    /**
     * {@return a copy of the numbers}
     *
     * @param numbers the number of each row
     */
    public static WholeNumbers of(int[] numbers) {
        requireNonNull(numbers, "numbers is null");
        WholeNumbers copy = new WholeNumbers(
                numbers.length,
                chunks(numbers.length)
                        .mapToObj(from -> Range.of(numbers, from, from + rowsOfChunk(from, numbers.length))));
        chunks(numbers.length).forEach(from -> copy.fill(numbers, from, from, rowsOfChunk(from, numbers.length)));
        return copy;
    }

    /**
     * {@return a copy of the numbers}
     *
     * @param numbers the number of each row
     */
    public static WholeNumbers of(long[] numbers) {
        requireNonNull(numbers, "numbers is null");
        WholeNumbers copy = new WholeNumbers(
                numbers.length,
                chunks(numbers.length)
                        .mapToObj(from -> Range.of(numbers, from, from + rowsOfChunk(from, numbers.length))));
        chunks(numbers.length).forEach(from -> copy.fill(numbers, from, from, rowsOfChunk(from, numbers.length)));
        return copy;
    }

    /** Returns the first row of each chunk; chunks are read side by side. */
    private static IntStream chunks(int size) {
        return IntStream.range(0, size / ROWS_OF_A_CHUNK + 1)
                .map(chunk -> chunk * ROWS_OF_A_CHUNK)
                .parallel();
    }

    private static int rowsOfChunk(int from, int size) {
        return Math.min(size - from, ROWS_OF_A_CHUNK);
    }

    /** Sets the numbers of rows that follow one another from those that begin at an index. */
    private void fill(int[] numbers, int at, int row, int n) {
        int base = (int) smallest;
        if (bytes != null) {
            for (int i = 0; i < n; i++) {
                bytes[row + i] = (byte) (numbers[at + i] - base);
            }
        } else if (shorts != null) {
            for (int i = 0; i < n; i++) {
                shorts[row + i] = (short) (numbers[at + i] - base);
            }
        } else {
            for (int i = 0; i < n; i++) {
                ints[row + i] = numbers[at + i] - base;
            }
        }
    }

    /** Sets the numbers of rows that follow one another from those that begin at an index. */
    private void fill(long[] numbers, int at, int row, int n) {
        long base = smallest;
        if (bytes != null) {
            for (int i = 0; i < n; i++) {
                bytes[row + i] = (byte) (numbers[at + i] - base);
            }
        } else if (shorts != null) {
            for (int i = 0; i < n; i++) {
                shorts[row + i] = (short) (numbers[at + i] - base);
            }
        } else if (ints != null) {
            for (int i = 0; i < n; i++) {
                ints[row + i] = (int) (numbers[at + i] - base);
            }
        } else {
            System.arraycopy(numbers, at, longs, row, n);
        }
    }

    /**
     * {@return what the numbers of the rows stand for}
     *
     * @param meaning what one of them stands for; asked once for each from the smallest to the largest
     * @throws ArithmeticException if a number is not an int
     */
    public WholeNumbers map(IntUnaryOperator meaning) {
        requireNonNull(meaning, "meaning is null");
        if (size == 0) {
            return this;
        }
        int first = Math.toIntExact(smallest);
        int[] meanings = IntStream.rangeClosed(first, Math.toIntExact(largest))
                .map(meaning)
                .toArray();
        WholeNumbers mapped = new WholeNumbers(size, Stream.of(Range.of(meanings, 0, meanings.length)));
        chunks(size).forEach(from -> {
            int n = rowsOfChunk(from, size);
            int[] chunk = new int[n];
            read(from, n, chunk);
            for (int i = 0; i < n; i++) {
                chunk[i] = meanings[chunk[i] - first];
            }
            mapped.fill(chunk, 0, from, n);
        });
        return mapped;
    }

    /** {@return how many rows there are} */
    public int size() {
        return size;
    }

    /** {@return the smallest number; 0 if there is none} */
    public long smallest() {
        return smallest;
    }

    /** {@return the largest number; 0 if there is none} */
    public long largest() {
        return largest;
    }

    /**
     * {@return the number of a row}
     *
     * @param row the row
     */
    public long get(int row) {
        if (bytes != null) {
            return smallest + (bytes[row] & BYTE);
        }
        if (shorts != null) {
            return smallest + (shorts[row] & SHORT);
        }
        return ints != null ? smallest + (ints[row] & INT) : longs[row];
    }

    /**
     * Reads the numbers of rows that follow one another.
     *
     * @param from the first row
     * @param n how many
     * @param into where the first of them is put at 0
     */
    public void read(int from, int n, long[] into) {
        Objects.checkFromIndexSize(from, n, size);
        // not fields: Java's first compiler would load them for each row
        long base = smallest;
        if (bytes != null) {
            byte[] read = bytes;
            for (int i = 0; i < n; i++) {
                into[i] = base + (read[from + i] & BYTE);
            }
        } else if (shorts != null) {
            short[] read = shorts;
            for (int i = 0; i < n; i++) {
                into[i] = base + (read[from + i] & SHORT);
            }
        } else if (ints != null) {
            int[] read = ints;
            for (int i = 0; i < n; i++) {
                into[i] = base + (read[from + i] & INT);
            }
        } else {
            System.arraycopy(longs, from, into, 0, n);
        }
    }

    /**
     * Reads the numbers of rows that follow one another.
     *
     * @param from the first row
     * @param n how many
     * @param into where the first of them is put at 0
     * @throws ArithmeticException if any row has a number that is not an int
     */
    public void read(int from, int n, int[] into) {
        Objects.checkFromIndexSize(from, n, size);
        int base = Math.toIntExact(smallest);
        Math.toIntExact(largest);
        if (bytes != null) {
            byte[] read = bytes;
            for (int i = 0; i < n; i++) {
                into[i] = base + (read[from + i] & BYTE);
            }
        } else if (shorts != null) {
            short[] read = shorts;
            for (int i = 0; i < n; i++) {
                into[i] = base + (read[from + i] & SHORT);
            }
        } else {
            int[] read = ints;
            for (int i = 0; i < n; i++) {
                into[i] = base + read[from + i];
            }
        }
    }
}
