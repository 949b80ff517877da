package dev.mile.sql.cache;

import dev.mile.engine.DailyTotals;
import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** The totals of a group as bytes, low byte first: a kind, then the values one after the other. */
final class TotalsCodec {
    private static final byte EXACT = 'e';
    private static final byte EXACT_WITH_BLANKS = 'b';
    private static final byte LARGE = 'l';
    private static final byte FLOATING = 'f';
    private static final byte TEXTS = 't';
    private static final byte SAME = 's';
    private static final byte RUN = 'r';
    private static final byte EACH = 'd';

    /** Bytes behind packed numbers, so that the last one can be read as a whole long. */
    private static final int SPARE = Long.BYTES - 1;

    private TotalsCodec() {}

    private static ByteBuffer room(int bytes) {
        return ByteBuffer.allocate(bytes).order(ByteOrder.LITTLE_ENDIAN);
    }

    static byte[] days(int[] days) {
        boolean run = days.length > 0 && days[days.length - 1] - days[0] == days.length - 1;
        if (run) {
            return room(1 + 2 * Integer.BYTES)
                    .put(RUN)
                    .putInt(days[0])
                    .putInt(days.length)
                    .array();
        }
        return numbers(EACH, 0, Arrays.stream(days).asLongStream().toArray(), null);
    }

    static int[] days(byte[] bytes) {
        ByteBuffer packed = ByteBuffer.wrap(bytes).order(ByteOrder.LITTLE_ENDIAN);
        if (packed.get() == RUN) {
            int first = packed.getInt();
            int[] days = new int[packed.getInt()];
            for (int i = 0; i < days.length; i++) {
                days[i] = first + i;
            }
            return days;
        }
        packed.getInt();
        return Arrays.stream(numbers(packed)).mapToInt(day -> (int) day).toArray();
    }

    /** Packs whole numbers: how many, the smallest, and how much larger each is, in as many bytes as the largest needs. */
    private static byte[] numbers(byte kind, int scale, long[] numbers, boolean[] blanks) {
        long least = Arrays.stream(numbers).min().orElse(0);
        long most = Arrays.stream(numbers).max().orElse(0);
        // beyond the reach of a long the difference is negative, and takes all bytes
        int width = Math.max(1, (Long.SIZE - Long.numberOfLeadingZeros(most - least) + Byte.SIZE - 1) / Byte.SIZE);
        ByteBuffer bytes = room(1
                + 2 * Integer.BYTES
                + Long.BYTES
                + 1
                + numbers.length * width
                + SPARE
                + (blanks == null ? 0 : numbers.length));
        bytes.put(kind).putInt(scale).putInt(numbers.length).putLong(least).put((byte) width);
        for (long number : numbers) {
            long more = number - least;
            for (int b = 0; b < width; b++) {
                bytes.put((byte) (more >>> (b * Byte.SIZE)));
            }
        }
        bytes.position(bytes.position() + SPARE);
        for (int i = 0; blanks != null && i < numbers.length; i++) {
            bytes.put((byte) (blanks[i] ? 1 : 0));
        }
        return bytes.array();
    }

    private static long[] numbers(ByteBuffer bytes) {
        long[] numbers = new long[bytes.getInt()];
        long least = bytes.getLong();
        int width = bytes.get();
        long mask = -1L >>> (Long.SIZE - width * Byte.SIZE);
        int at = bytes.position();
        for (int i = 0; i < numbers.length; i++) {
            numbers[i] = least + (bytes.getLong(at + i * width) & mask);
        }
        bytes.position(at + numbers.length * width + SPARE);
        return numbers;
    }

    /** Returns the mark of values that equal those of an earlier column. */
    static byte[] same(int column) {
        return room(1 + Integer.BYTES).put(SAME).putInt(column).array();
    }

    /** Returns the earlier column that has the same values; -1 if none has. */
    static int sameAs(byte[] packed) {
        ByteBuffer bytes = ByteBuffer.wrap(packed).order(ByteOrder.LITTLE_ENDIAN);
        return bytes.get() == SAME ? bytes.getInt() : -1;
    }

    static byte[] values(DailyTotals values) {
        if (values instanceof DailyTotals.Longs exact) {
            byte kind = exact.blanks() == null ? EXACT : EXACT_WITH_BLANKS;
            return numbers(kind, exact.scale(), exact.unscaled(), exact.blanks());
        }
        if (values instanceof DailyTotals.Doubles floating) {
            ByteBuffer bytes = room(1 + floating.values().length * Double.BYTES);
            bytes.put(FLOATING).asDoubleBuffer().put(floating.values());
            return bytes.array();
        }
        List<byte[]> texts = new ArrayList<>();
        List<Integer> counts = new ArrayList<>();
        boolean large = values instanceof DailyTotals.Decimals;
        if (values instanceof DailyTotals.Decimals many) {
            for (BigDecimal value : many.values()) {
                counts.add(value == null ? -1 : 1);
                if (value != null) {
                    texts.add(value.toString().getBytes(StandardCharsets.UTF_8));
                }
            }
        } else {
            for (String[] different :
                    ((DailyTotals.DistinctTexts) values).toStringSets().values()) {
                counts.add(different == null ? -1 : different.length);
                for (int i = 0; different != null && i < different.length; i++) {
                    texts.add(different[i].getBytes(StandardCharsets.UTF_8));
                }
            }
        }
        int length = texts.stream().mapToInt(t -> Integer.BYTES + t.length).sum();
        ByteBuffer bytes = room(1 + Integer.BYTES * (1 + counts.size()) + length);
        bytes.put(large ? LARGE : TEXTS).putInt(counts.size());
        counts.forEach(bytes::putInt);
        texts.forEach(text -> bytes.putInt(text.length).put(text));
        return bytes.array();
    }

    static DailyTotals values(byte[] packed, int size) {
        ByteBuffer bytes = ByteBuffer.wrap(packed).order(ByteOrder.LITTLE_ENDIAN);
        byte kind = bytes.get();
        switch (kind) {
            case EXACT, EXACT_WITH_BLANKS:
                int scale = bytes.getInt();
                long[] unscaled = numbers(bytes);
                boolean[] blanks = kind == EXACT ? null : new boolean[size];
                for (int i = 0; blanks != null && i < size; i++) {
                    blanks[i] = bytes.get() == 1;
                }
                return new DailyTotals.Longs(unscaled, scale, blanks);
            case FLOATING:
                double[] values = new double[size];
                bytes.asDoubleBuffer().get(values);
                return new DailyTotals.Doubles(values);
            default:
                String[][] texts = texts(bytes);
                if (kind == TEXTS) {
                    return new DailyTotals.StringSets(texts);
                }
                BigDecimal[] large = new BigDecimal[texts.length];
                for (int i = 0; i < large.length; i++) {
                    large[i] = texts[i] == null ? null : new BigDecimal(texts[i][0]);
                }
                return new DailyTotals.Decimals(large);
        }
    }

    private static String[][] texts(ByteBuffer bytes) {
        int[] counts = new int[bytes.getInt()];
        for (int i = 0; i < counts.length; i++) {
            counts[i] = bytes.getInt();
        }
        String[][] texts = new String[counts.length][];
        for (int i = 0; i < counts.length; i++) {
            texts[i] = counts[i] < 0 ? null : new String[counts[i]];
            for (int t = 0; t < counts[i]; t++) {
                byte[] text = new byte[bytes.getInt()];
                bytes.get(text);
                texts[i][t] = new String(text, StandardCharsets.UTF_8);
            }
        }
        return texts;
    }
}
