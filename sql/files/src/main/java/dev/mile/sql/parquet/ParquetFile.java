package dev.mile.sql.parquet;

import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import org.apache.parquet.format.ColumnMetaData;

/** A Parquet file that is open. Safe for use by several threads. */
final class ParquetFile implements AutoCloseable {
    private final FileChannel channel;

    ParquetFile(FileChannel channel) {
        this.channel = channel;
    }

    /** Returns where the column begins in the file. */
    static long start(ColumnMetaData column) {
        return column.isSetDictionary_page_offset()
                ? Math.min(column.getDictionary_page_offset(), column.getData_page_offset())
                : column.getData_page_offset();
    }

    /** Fills a buffer with the bytes from a place on. */
    void read(long from, ByteBuffer into) throws IOException {
        read(channel, from, into);
    }

    /** Fills a buffer with the bytes from a place on. */
    static void read(FileChannel channel, long from, ByteBuffer into) throws IOException {
        if (from < 0) {
            throw new EOFException("the file is too short");
        }
        int before = into.position();
        while (into.hasRemaining()) {
            if (channel.read(into, from + into.position() - before) < 0) {
                throw new EOFException("the file ends too early");
            }
        }
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
