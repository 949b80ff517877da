package dev.mile.sql.parquet;

import io.airlift.compress.Decompressor;
import io.airlift.compress.lz4.Lz4Decompressor;
import io.airlift.compress.snappy.SnappyDecompressor;
import io.airlift.compress.zstd.ZstdDecompressor;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
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
    /** Outside the heap, where files are read without a copy on the way. */
    private ByteBuffer compressed = ByteBuffer.allocateDirect(0);

    private byte[] page = new byte[0];
    private long longest;

    /** Takes bytes from a buffer, and no more of them than it needs. */
    private static final class BufferStream extends InputStream {
        private final ByteBuffer bytes;

        BufferStream(ByteBuffer bytes) {
            this.bytes = bytes;
        }

        @Override
        public int read() {
            return bytes.hasRemaining() ? Byte.toUnsignedInt(bytes.get()) : -1;
        }

        @Override
        public int read(byte[] into, int from, int length) {
            if (!bytes.hasRemaining() && length > 0) {
                return -1;
            }
            int some = Math.min(length, bytes.remaining());
            bytes.get(into, from, some);
            return some;
        }
    }

    PageReader(CompressionCodec codec) throws UnsupportedParquetException {
        this.codec = codec;
        this.decompressor = switch (codec) {
            case SNAPPY -> new SnappyDecompressor();
            case ZSTD -> new ZstdDecompressor();
            case LZ4_RAW -> new Lz4Decompressor();
            case UNCOMPRESSED, GZIP -> null;
            default -> throw new UnsupportedParquetException("compressed in another way");
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
            throw new UnsupportedParquetException("too large to be read in one piece");
        }
        compressed =
                compressed.capacity() < length ? ByteBuffer.allocateDirect((int) (length + length / 8)) : compressed;
        compressed.clear().limit((int) length);
        file.read(from, compressed);
        compressed.flip();
    }

    /** Returns the header of the next page, whose bytes are those of {@link #bytes} then. */
    PageHeader next() throws IOException {
        PageHeader header = Util.readPageHeader(new BufferStream(compressed));
        int length = header.getCompressed_page_size();
        int size = header.getUncompressed_page_size();
        if (length < 0 || length > compressed.remaining() || size < 0 || size > longest) {
            throw new UnsupportedParquetException("a page is longer than its column");
        }
        page = page.length < size + SLACK ? new byte[size + size / 8 + SLACK] : page;
        if (decompress(compressed.slice(compressed.position(), length), size) != size) {
            throw new UnsupportedParquetException("a page has another length than it says");
        }
        // nothing of the page before is to be seen
        Arrays.fill(page, size, size + SLACK, (byte) 0);
        compressed.position(compressed.position() + length);
        return header;
    }

    private int decompress(ByteBuffer from, int size) throws IOException {
        if (codec == CompressionCodec.UNCOMPRESSED) {
            int length = from.remaining();
            from.get(page, 0, Math.min(length, size));
            return length;
        }
        if (codec == CompressionCodec.GZIP) {
            try (GZIPInputStream decompressed = new GZIPInputStream(new BufferStream(from))) {
                return decompressed.readNBytes(page, 0, size);
            }
        }
        ByteBuffer into = ByteBuffer.wrap(page, 0, size);
        decompressor.decompress(from, into);
        return into.position();
    }

    /** Returns the bytes of the page, and at least {@link #SLACK} zeros behind them; good until the next page. */
    byte[] bytes() {
        return page;
    }
}
