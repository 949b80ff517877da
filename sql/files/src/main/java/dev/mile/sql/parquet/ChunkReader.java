package dev.mile.sql.parquet;

import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.LongUnaryOperator;
import java.util.function.ToLongFunction;
import org.apache.parquet.format.ColumnMetaData;
import org.apache.parquet.format.CompressionCodec;
import org.apache.parquet.format.DataPageHeader;
import org.apache.parquet.format.DictionaryPageHeader;
import org.apache.parquet.format.Encoding;
import org.apache.parquet.format.PageHeader;
import org.apache.parquet.format.PageType;
import org.apache.parquet.format.RowGroup;
import org.apache.parquet.format.Type;

/**
 * Reads what the values of one column stand for, a long a row, row group after row group. Values of dictionaries are translated once
 * for each dictionary. For one thread.
 */
final class ChunkReader {
    /** Rows that are read at a time: their columns fit into the fastest cache. */
    static final int ROWS_AT_ONCE = 1024;

    /** What the numbers stand for that mark rows without and with a value. */
    private static final long[] MARKS = {0, 1};

    private static final long LARGEST_BIT = 1L << 62;

    private static final LongUnaryOperator AS_IS = LongUnaryOperator.identity();

    private final ParquetColumn column;
    private final LongUnaryOperator ofNumber;
    private final ToLongFunction<String> ofText;
    private final long ofBlank;

    private final Map<CompressionCodec, PageReader> readers = new HashMap<>();
    private final HybridDecoder present = new HybridDecoder();
    private final HybridDecoder codes = new HybridDecoder();

    private PageReader pages;
    private long rowsLeft;
    private int pageLeft;
    private boolean isCoded;
    private int at;
    private int end;
    private long[] dictionary = new long[0];
    /** The bits of all numbers of the row group so far, those of negative ones turned round. */
    private long bits;

    private int[] ints = new int[0];
    private long[] longs = new long[0];

    private ChunkReader(ParquetColumn column, LongUnaryOperator ofNumber, ToLongFunction<String> ofText, long ofBlank) {
        this.column = column;
        this.ofNumber = ofNumber;
        this.ofText = ofText;
        this.ofBlank = ofBlank;
    }

    /** Returns a reader of numbers as they are; 0 for blanks. */
    static ChunkReader ofNumbers(ParquetColumn column) {
        return ofNumbers(column, AS_IS, 0);
    }

    /** Returns a reader of what dates and numbers stand for. */
    static ChunkReader ofNumbers(ParquetColumn column, LongUnaryOperator ofNumber, long ofBlank) {
        return new ChunkReader(column, ofNumber, text -> 0, ofBlank);
    }

    /** Returns a reader of texts that are numbers in a dictionary. */
    static ChunkReader ofTexts(ParquetColumn column, ToLongFunction<String> ofText, long ofBlank) {
        return new ChunkReader(column, number -> 0, ofText, ofBlank);
    }

    /** Adds the texts of a row group to others: those of its dictionary where that holds all, which some rows need not have. */
    static void addTexts(ParquetFile file, RowGroup group, ParquetColumn column, Set<String> texts) throws IOException {
        ColumnMetaData chunk = column.in(group);
        if (column.isBlank(group)) {
            return;
        }
        if (column.isInDictionary(group)) {
            PageReader pages = new PageReader(chunk.getCodec());
            pages.openDictionary(file, chunk);
            texts.addAll(texts(pages.next(), pages.bytes()));
            return;
        }
        ChunkReader reader = ofTexts(column, text -> texts.add(text) ? 1 : 0, 0);
        reader.open(file, group);
        long[] read = new long[ROWS_AT_ONCE];
        for (long left = group.getNum_rows(); left > 0; left -= read.length) {
            reader.add(read, null, (int) Math.min(left, read.length));
        }
    }

    /** Goes to the first row of a row group. */
    void open(ParquetFile file, RowGroup group) throws IOException {
        if (rowsLeft != 0 || pageLeft != 0) {
            throw new UnsupportedParquetException("a column has more values than there are rows");
        }
        ColumnMetaData chunk = column.in(group);
        pages = readers.get(chunk.getCodec());
        if (pages == null) {
            pages = new PageReader(chunk.getCodec());
            readers.put(chunk.getCodec(), pages);
        }
        pages.open(file, chunk);
        dictionary = new long[0];
        bits = 0;
        rowsLeft = group.getNum_rows();
    }

    /**
     * Reads the next rows, and adds what the value of each stands for.
     *
     * @param blank is set for rows without a value; null where it is enough that they have a meaning of their own
     * @return whether there are rows without a value
     */
    boolean add(long[] into, boolean[] blank, int count) throws IOException {
        boolean hasBlanks = false;
        int n = 0;
        while (n < count) {
            while (pageLeft == 0) {
                nextPage();
            }
            int some = Math.min(pageLeft, count - n);
            hasBlanks |= addOfPage(into, blank, n, some);
            n += some;
            pageLeft -= some;
            rowsLeft -= some;
        }
        return hasBlanks;
    }

    /** Returns a number that none lies farther from zero than which was read from the row group so far; {@link Long#MAX_VALUE} for any. */
    long largest() {
        return bits < 0 || bits >= LARGEST_BIT ? Long.MAX_VALUE : 2 * Long.highestOneBit(bits | 1);
    }

    /**
     * Returns whether the next rows all have the same value, so far as that is known without reading each, as where rows stand in its order.
     * Their meaning is that of {@link #skipSame} then.
     */
    boolean areSame(int count) throws IOException {
        while (pageLeft == 0) {
            nextPage();
        }
        return count <= pageLeft && isCoded && isFull(count) && codes.repeated(count) >= 0;
    }

    /** Leaves out the next rows, which {@link #areSame}; returns what their value stands for. */
    long skipSame(int count) throws IOException {
        long meaning = dictionary[codes.repeated(count)];
        codes.skip(count);
        if (column.isOptional()) {
            present.skip(count);
        }
        pageLeft -= count;
        rowsLeft -= count;
        return meaning;
    }

    private boolean isFull(int count) throws UnsupportedParquetException {
        return !column.isOptional() || present.repeated(count) == 1;
    }

    private boolean addOfPage(long[] into, boolean[] blank, int from, int count) throws IOException {
        if (isFull(count)) {
            if (column.isOptional()) {
                present.skip(count);
            }
            if (blank != null) {
                Arrays.fill(blank, from, from + count, false);
            }
            addValues(into, from, count);
            return false;
        }
        long[] marks = new long[count];
        present.add(marks, 0, count, MARKS);
        int there = (int) Arrays.stream(marks).sum();
        long[] values = new long[there];
        addValues(values, 0, there);
        int next = 0;
        for (int i = 0; i < count; i++) {
            boolean isBlank = marks[i] == 0;
            into[from + i] += isBlank ? ofBlank : values[next++];
            if (blank != null) {
                blank[from + i] = isBlank;
            }
        }
        return there < count;
    }

    private void addValues(long[] into, int from, int count) throws IOException {
        if (isCoded) {
            codes.add(into, from, count, dictionary);
        } else if (column.content() == ParquetColumn.Content.TEXT) {
            for (int i = from; i < from + count; i++) {
                int length = textLength(pages.bytes(), at, end);
                into[i] += ofText.applyAsLong(text(pages.bytes(), at + Integer.BYTES, length));
                at += Integer.BYTES + length;
            }
        } else {
            addNumbers(into, from, count);
        }
    }

    private void addNumbers(long[] into, int from, int count) throws UnsupportedParquetException {
        int size = size();
        if ((long) count * size > end - at) {
            throw new UnsupportedParquetException("a page has fewer values than rows");
        }
        ByteBuffer page = ByteBuffer.wrap(pages.bytes(), at, count * size).order(ByteOrder.LITTLE_ENDIAN);
        at += count * size;
        if (ofNumber != AS_IS) {
            for (int i = 0; i < count; i++) {
                into[from + i] += ofNumber.applyAsLong(number(pages.bytes(), page.position() + i * size));
            }
        } else if (column.type() == Type.INT32) {
            ints = ints.length < count ? new int[count] : ints;
            page.asIntBuffer().get(ints, 0, count);
            add(ints, into, from, count);
        } else {
            longs = longs.length < count ? new long[count] : longs;
            page.asLongBuffer().get(longs, 0, count);
            add(longs, into, from, count);
        }
    }

    private void add(int[] numbers, long[] into, int from, int count) {
        int all = 0;
        for (int i = 0; i < count; i++) {
            all |= numbers[i] ^ numbers[i] >> Integer.SIZE - 1;
            into[from + i] += numbers[i];
        }
        bits |= all;
    }

    private void add(long[] numbers, long[] into, int from, int count) {
        long all = 0;
        for (int i = 0; i < count; i++) {
            all |= numbers[i] ^ numbers[i] >> Long.SIZE - 1;
            into[from + i] += numbers[i];
        }
        bits |= all;
    }

    private int size() {
        return column.type() == Type.INT32 ? Integer.BYTES : Long.BYTES;
    }

    private long number(byte[] bytes, int from) {
        return column.type() == Type.INT32 ? LittleEndian.int32(bytes, from) : LittleEndian.int64(bytes, from);
    }

    private void nextPage() throws IOException {
        PageHeader header = pages.next();
        if (header.getType() == PageType.DICTIONARY_PAGE) {
            dictionary = dictionary(header);
            return;
        }
        if (header.getType() != PageType.DATA_PAGE || !header.isSetData_page_header()) {
            throw new UnsupportedParquetException("pages of another kind");
        }
        DataPageHeader page = header.getData_page_header();
        byte[] bytes = pages.bytes();
        at = 0;
        end = header.getUncompressed_page_size();
        if (column.isOptional()) {
            if (page.getDefinition_level_encoding() != Encoding.RLE) {
                throw new UnsupportedParquetException("marks of blanks in another encoding");
            }
            int length = LittleEndian.int32(bytes, 0);
            if (length < 0 || length > end - Integer.BYTES) {
                throw new UnsupportedParquetException("marks of blanks are longer than their page");
            }
            at = Integer.BYTES + length;
            present.open(bytes, Integer.BYTES, at, 1);
        }
        isCoded = ParquetColumn.ofDictionary(page.getEncoding());
        if (isCoded) {
            // a page of blanks alone may have no numbers
            int width = at < end ? bytes[at] : 0;
            codes.open(bytes, Math.min(at + 1, end), end, width);
        } else if (page.getEncoding() != Encoding.PLAIN) {
            throw new UnsupportedParquetException("values in another encoding");
        }
        pageLeft = page.getNum_values();
        if (pageLeft < 0 || pageLeft > rowsLeft) {
            throw new UnsupportedParquetException("a column has more values than there are rows");
        }
    }

    private long[] dictionary(PageHeader header) throws IOException {
        if (column.content() == ParquetColumn.Content.TEXT) {
            return texts(header, pages.bytes()).stream().mapToLong(ofText).toArray();
        }
        int size = size();
        long[] values = new long[entries(header, size)];
        for (int i = 0; i < values.length; i++) {
            values[i] = ofNumber.applyAsLong(number(pages.bytes(), i * size));
            bits |= values[i] ^ values[i] >> Long.SIZE - 1;
        }
        return values;
    }

    private static List<String> texts(PageHeader header, byte[] bytes) throws UnsupportedParquetException {
        List<String> texts = new ArrayList<>();
        int size = header.getUncompressed_page_size();
        int from = 0;
        for (int i = entries(header, Integer.BYTES); i > 0; i--) {
            int length = textLength(bytes, from, size);
            texts.add(text(bytes, from + Integer.BYTES, length));
            from += Integer.BYTES + length;
        }
        return texts;
    }

    /** Returns the length of a text in bytes, which stands before it. */
    private static int textLength(byte[] bytes, int from, int end) throws UnsupportedParquetException {
        int length = from + Integer.BYTES <= end ? LittleEndian.int32(bytes, from) : -1;
        if (length < 0 || length > end - from - Integer.BYTES) {
            throw new UnsupportedParquetException("a text is longer than its page");
        }
        return length;
    }

    private static String text(byte[] bytes, int from, int length) throws UnsupportedParquetException {
        String text = new String(bytes, from, length, StandardCharsets.UTF_8);
        // what cannot be read became this sign, unless the text has it itself
        if (text.indexOf('\uFFFD') >= 0
                && !Arrays.equals(
                        text.getBytes(StandardCharsets.UTF_8), Arrays.copyOfRange(bytes, from, from + length))) {
            throw new UnsupportedParquetException("texts are not in UTF-8");
        }
        return text;
    }

    private static int entries(PageHeader header, int leastSize) throws UnsupportedParquetException {
        DictionaryPageHeader dictionary = header.getDictionary_page_header();
        boolean isPlain = dictionary != null
                && (dictionary.getEncoding() == Encoding.PLAIN
                        || dictionary.getEncoding() == Encoding.PLAIN_DICTIONARY);
        if (!isPlain
                || dictionary.getNum_values() < 0
                || dictionary.getNum_values() > header.getUncompressed_page_size() / leastSize) {
            throw new UnsupportedParquetException("a dictionary in another encoding, or longer than its page");
        }
        return dictionary.getNum_values();
    }
}
