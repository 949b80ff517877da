package dev.mile.sql.parquet;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.apache.parquet.format.FileMetaData;
import org.apache.parquet.format.RowGroup;
import org.apache.parquet.format.SchemaElement;
import org.apache.parquet.format.Util;

/** What the footer of a Parquet file says: its columns, and where its row groups lie. Safe for use by several threads. */
public final class ParquetFooter {
    private static final String MAGIC = "PAR1";
    /** The length of the footer, and the magic number. */
    private static final int TAIL = 8;

    private final Path file;
    private final long size;
    private final FileTime modified;
    private final FileMetaData metadata;

    private ParquetFooter(Path file, long size, FileTime modified, FileMetaData metadata) {
        this.file = file;
        this.size = size;
        this.modified = modified;
        this.metadata = metadata;
    }

    /** Returns the footers of files; empty if one cannot be read here. */
    public static Optional<List<ParquetFooter>> of(List<Path> files) {
        List<ParquetFooter> footers = new ArrayList<>();
        try {
            for (Path file : files) {
                footers.add(read(file));
            }
            return Optional.of(footers);
        } catch (IOException | RuntimeException e) {
            // the database reads it, or says what is wrong with it
            return Optional.empty();
        }
    }

    private static ParquetFooter read(Path file) throws IOException {
        FileTime modified = Files.getLastModifiedTime(file);
        try (FileChannel channel = FileChannel.open(file)) {
            long size = channel.size();
            ByteBuffer tail = ByteBuffer.allocate(TAIL).order(ByteOrder.LITTLE_ENDIAN);
            ParquetFile.read(channel, size - TAIL, tail);
            if (!MAGIC.equals(
                    new String(tail.array(), TAIL - MAGIC.length(), MAGIC.length(), StandardCharsets.US_ASCII))) {
                throw new UnsupportedParquetException("the footer is encrypted, or there is none");
            }
            int length = tail.getInt(0);
            if (length < 0 || length > size - TAIL) {
                throw new UnsupportedParquetException("the footer is longer than the file");
            }
            ByteBuffer footer = ByteBuffer.allocate(length);
            ParquetFile.read(channel, size - TAIL - length, footer);
            return new ParquetFooter(
                    file, size, modified, Util.readFileMetaData(new ByteArrayInputStream(footer.array())));
        }
    }

    /** Returns the file, open; it has not changed since its footer was read. */
    ParquetFile open() throws IOException {
        FileChannel channel = FileChannel.open(file);
        if (channel.size() != size || !Files.getLastModifiedTime(file).equals(modified)) {
            channel.close();
            throw new UnsupportedParquetException("the file has changed");
        }
        return new ParquetFile(channel);
    }

    List<RowGroup> rowGroups() {
        return metadata.getRow_groups();
    }

    /** Returns the elements of the schema, the root first; only files without nested columns have all others right below it. */
    List<SchemaElement> schema() {
        return metadata.getSchema();
    }
}
