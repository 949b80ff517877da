package dev.mile.sql.parquet;

/** Decodes the hybrid of repeated and packed numbers in which Parquet writes numbers of dictionaries, and which rows have a value. */
final class HybridDecoder {
    private static final int MOST_BITS = 32;
    private static final int PACKED_TOGETHER = 8;

    private byte[] bytes = new byte[0];
    /** Where the next run begins, and where there is none any more. */
    private int next;

    private int end;
    private int width;
    private int left;
    private boolean isPacked;
    /** The number of a run that repeats it. */
    private int repeated;
    /** Where the next number of a run of packed ones begins, in bits. */
    private long bit;

    /** Goes to the first number of some bytes; behind them, {@link PageReader#SLACK} more can be read. */
    void open(byte[] from, int start, int stop, int bits) throws UnsupportedParquetException {
        if (bits < 0 || bits > MOST_BITS || start > stop) {
            throw new UnsupportedParquetException("numbers of a width that there is not");
        }
        bytes = from;
        next = start;
        end = stop;
        width = bits;
        left = 0;
    }

    /** Returns the number that the next ones all are, so many of them; -1 where they may differ. */
    int repeated(int count) throws UnsupportedParquetException {
        if (left == 0) {
            nextRun();
        }
        return isPacked || left < count ? -1 : repeated;
    }

    /** Leaves out the next numbers, of which {@link #repeated} has said what they are. */
    void skip(int count) {
        left -= count;
    }

    /** Takes the next numbers, and adds what each stands for. */
    void add(long[] into, int from, int count, long[] meanings) throws UnsupportedParquetException {
        int n = from;
        int stop = from + count;
        while (n < stop) {
            if (left == 0) {
                nextRun();
            }
            int some = Math.min(left, stop - n);
            if (isPacked) {
                addPacked(into, n, n + some, meanings);
            } else {
                long meaning = meanings[repeated];
                for (int i = n; i < n + some; i++) {
                    into[i] += meaning;
                }
            }
            n += some;
            left -= some;
        }
    }

    private void addPacked(long[] into, int from, int stop, long[] meanings) {
        // not fields: Java's first compiler would load them for each number
        byte[] packed = bytes;
        int bits = width;
        int mask = (int) ((1L << bits) - 1);
        // one load of eight bytes holds several numbers, whatever the bit at which it begins
        int perLoad = (Long.SIZE - Byte.SIZE + 1) / Math.max(bits, 1);
        long at = bit;
        int i = from;
        while (i < stop) {
            long loaded = LittleEndian.int64(packed, (int) (at >>> 3)) >>> (at & 7);
            int some = Math.min(perLoad, stop - i);
            for (int end = i + some; i < end; i++) {
                into[i] += meanings[(int) loaded & mask];
                loaded >>>= bits;
            }
            at += (long) some * bits;
        }
        bit = at;
    }

    private void nextRun() throws UnsupportedParquetException {
        long header = header();
        isPacked = (header & 1) == 1;
        long count = header >>> 1;
        long size;
        if (isPacked) {
            size = count * width;
            count *= PACKED_TOGETHER;
            bit = (long) next * Byte.SIZE;
        } else {
            size = (width + Byte.SIZE - 1) / Byte.SIZE;
            repeated = (int) (LittleEndian.int64(bytes, next) & (1L << size * Byte.SIZE) - 1);
        }
        if (count == 0 || count > Integer.MAX_VALUE || size > end - next) {
            throw new UnsupportedParquetException("a run of numbers is longer than its page");
        }
        left = (int) count;
        next += (int) size;
    }

    /** Returns the number before a run: seven bits a byte, the lowest first. */
    private long header() throws UnsupportedParquetException {
        long header = 0;
        for (int shift = 0; shift < MOST_BITS; shift += 7) {
            if (next >= end) {
                break;
            }
            byte some = bytes[next++];
            header |= (long) (some & 0x7f) << shift;
            if (some >= 0) {
                return header;
            }
        }
        throw new UnsupportedParquetException("there are fewer numbers than rows");
    }
}
