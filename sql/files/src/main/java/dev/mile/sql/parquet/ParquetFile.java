package dev.mile.sql.parquet;

import java.io.ByteArrayInputStream;
import java.io.EOFException;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import org.apache.parquet.format.ColumnMetaData;
import org.apache.parquet.format.FileMetaData;
import org.apache.parquet.format.RowGroup;
import org.apache.parquet.format.SchemaElement;
import org.apache.parquet.format.Util;

/** A Parquet file that is open, with what its footer says. Safe for use by several threads. */
final class ParquetFile implements AutoCloseable {
    private static final String MAGIC = "PAR1";
    /** The length of the footer, and the magic number. */
    private static final int TAIL = 8;

    private final FileChannel channel;
    private final FileMetaData footer;

    private ParquetFile(FileChannel channel, FileMetaData footer) {
        this.channel = channel;
        this.footer = footer;
    }

    static ParquetFile open(Path file) throws IOException {
        FileChannel channel = FileChannel.open(file);
        try {
            return new ParquetFile(channel, footer(channel));
        } catch (IOException | RuntimeException e) {
            channel.close();
            throw e;
        }
    }

    private static FileMetaData footer(FileChannel channel) throws IOException {
        byte[] tail = new byte[TAIL];
        read(channel, channel.size() - TAIL, ByteBuffer.wrap(tail));
        if (!MAGIC.equals(new String(tail, TAIL - MAGIC.length(), MAGIC.length(), StandardCharsets.US_ASCII))) {
            throw new UnreadParquetException("the footer is encrypted, or there is none");
        }
        int length = ByteBuffer.wrap(tail).order(ByteOrder.LITTLE_ENDIAN).getInt();
        if (length < 0 || length > channel.size() - TAIL) {
            throw new UnreadParquetException("the footer is longer than the file");
        }
        byte[] footer = new byte[length];
        read(channel, channel.size() - TAIL - length, ByteBuffer.wrap(footer));
        return Util.readFileMetaData(new ByteArrayInputStream(footer));
    }

    List<RowGroup> rowGroups() {
        return footer.getRow_groups();
    }

    /** Returns the elements of the schema, the root first; only files without nested columns have all others right below it. */
    List<SchemaElement> schema() {
        return footer.getSchema();
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

    private static void read(FileChannel channel, long from, ByteBuffer into) throws IOException {
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
