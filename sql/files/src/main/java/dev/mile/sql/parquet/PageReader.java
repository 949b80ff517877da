package dev.mile.sql.parquet;

import io.airlift.compress.Decompressor;
import io.airlift.compress.lz4.Lz4Decompressor;
import io.airlift.compress.snappy.SnappyDecompressor;
import io.airlift.compress.zstd.ZstdDecompressor;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.Arrays;
import java.util.zip.GZIPInputStream;
import org.apache.parquet.format.ColumnMetaData;
import org.apache.parquet.format.CompressionCodec;
import org.apache.parquet.format.PageHeader;
import org.apache.parquet.format.Util;

/** Reads the pages of one column of a row group, one after the other. */
final class PageReader {
    /** Readers of numbers may take eight bytes where fewer are left. */
    static final int SLACK = Long.BYTES;

    private static final int LONGEST = Integer.MAX_VALUE / 2;

    private final CompressionCodec codec;
    private final Decompressor decompressor;
    private byte[] packed = new byte[0];
    private Rest rest = new Rest(packed, 0);
    private byte[] page = new byte[0];
    private long longest;

    /** Bytes of which a header is read, and how many it took. */
    private static final class Rest extends ByteArrayInputStream {
        Rest(byte[] bytes, int length) {
            super(bytes, 0, length);
        }

        int position() {
            return pos;
        }
    }

    PageReader(CompressionCodec codec) throws UnreadParquetException {
        this.codec = codec;
        this.decompressor = switch (codec) {
            case SNAPPY -> new SnappyDecompressor();
            case ZSTD -> new ZstdDecompressor();
            case LZ4_RAW -> new Lz4Decompressor();
            case UNCOMPRESSED, GZIP -> null;
            default -> throw new UnreadParquetException("packed in another way");
        };
    }

    /** Goes to the first page of a column. */
    void open(ParquetFile file, ColumnMetaData column) throws IOException {
        open(file, column, ParquetFile.start(column), column.getTotal_compressed_size());
    }

    /** Goes to the dictionary of a column that has one. */
    void openDictionary(ParquetFile file, ColumnMetaData column) throws IOException {
        long start = column.getDictionary_page_offset();
        open(file, column, start, column.getData_page_offset() - start);
    }

    private void open(ParquetFile file, ColumnMetaData column, long from, long length) throws IOException {
        longest = column.getTotal_uncompressed_size();
        if (length < 0 || length > LONGEST || longest > LONGEST) {
            throw new UnreadParquetException("too large to be read in one piece");
        }
        packed = packed.length < length ? new byte[(int) (length + length / 8)] : packed;
        file.read(from, packed, (int) length);
        rest = new Rest(packed, (int) length);
    }

    /** Returns the header of the next page, whose bytes are those of {@link #bytes} then. */
    PageHeader next() throws IOException {
        PageHeader header = Util.readPageHeader(rest);
        int length = header.getCompressed_page_size();
        int size = header.getUncompressed_page_size();
        if (length < 0 || length > rest.available() || size < 0 || size > longest) {
            throw new UnreadParquetException("a page is longer than its column");
        }
        page = page.length < size + SLACK ? new byte[size + size / 8 + SLACK] : page;
        int read = unpack(rest.position(), length, size);
        if (read != size) {
            throw new UnreadParquetException("a page has another length than it says");
        }
        // nothing of the page before is to be seen
        Arrays.fill(page, size, size + SLACK, (byte) 0);
        rest.skip(length);
        return header;
    }

    private int unpack(int from, int length, int size) throws IOException {
        if (codec == CompressionCodec.UNCOMPRESSED) {
            System.arraycopy(packed, from, page, 0, Math.min(length, size));
            return length;
        }
        if (codec == CompressionCodec.GZIP) {
            try (GZIPInputStream unpacked = new GZIPInputStream(new ByteArrayInputStream(packed, from, length))) {
                return unpacked.readNBytes(page, 0, size);
            }
        }
        return decompressor.decompress(packed, from, length, page, 0, size);
    }

    /** Returns the bytes of the page, and at least {@link #SLACK} zeros behind them; good until the next page. */
    byte[] bytes() {
        return page;
    }
}
