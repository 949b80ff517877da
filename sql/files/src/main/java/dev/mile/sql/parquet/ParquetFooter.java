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
import java.util.EnumSet;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.apache.parquet.format.FieldRepetitionType;
import org.apache.parquet.format.FileMetaData;
import org.apache.parquet.format.RowGroup;
import org.apache.parquet.format.SchemaElement;
import org.apache.parquet.format.Type;
import org.apache.parquet.format.Util;

/** What the footer of a Parquet file says: its columns, and where their parts lie. Safe for use by several threads. */
public final class ParquetFooter {
    private static final String MAGIC = "PAR1";
    /** The length of the footer, and the magic number. */
    private static final int TAIL = 8;

    /** Types that mean to the database what they are called. */
    private static final Set<Type> PLAIN = EnumSet.of(Type.BOOLEAN, Type.DOUBLE, Type.FLOAT);

    private final Path file;
    private final long size;
    private final FileTime modified;
    private final FileMetaData says;

    private ParquetFooter(Path file, long size, FileTime modified, FileMetaData says) {
        this.file = file;
        this.size = size;
        this.modified = modified;
        this.says = says;
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
                throw new UnreadParquetException("the footer is encrypted, or there is none");
            }
            int length = tail.getInt(0);
            if (length < 0 || length > size - TAIL) {
                throw new UnreadParquetException("the footer is longer than the file");
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
            throw new UnreadParquetException("the file has changed");
        }
        return new ParquetFile(channel);
    }

    List<RowGroup> rowGroups() {
        return says.getRow_groups();
    }

    /** Returns the elements of the schema, the root first; only files without nested columns have all others right below it. */
    List<SchemaElement> schema() {
        return says.getSchema();
    }

    /**
     * Returns the columns that all files have alike, each with its type in the words of the database; empty if files differ, or have columns
     * of other types than dates, texts, truth values, floating and exact numbers, which the database knows better.
     */
    public static Optional<Map<String, String>> types(List<ParquetFooter> footers) {
        Map<String, String> types = new LinkedHashMap<>();
        Set<String> names = new HashSet<>();
        try {
            for (SchemaElement column : columns(footers.get(0))) {
                types.put(column.getName(), type(column));
                names.add(column.getName().toLowerCase(Locale.ROOT));
            }
            for (ParquetFooter footer : footers) {
                if (!columns(footer).equals(columns(footers.get(0)))) {
                    return Optional.empty();
                }
            }
        } catch (UnreadParquetException e) {
            return Optional.empty();
        }
        // the database takes names in any case for the same
        return names.size() == columns(footers.get(0)).size() ? Optional.of(types) : Optional.empty();
    }

    private static List<SchemaElement> columns(ParquetFooter footer) {
        return footer.schema().subList(1, footer.schema().size());
    }

    private static String type(SchemaElement column) throws UnreadParquetException {
        if (column.isSetNum_children() || column.getRepetition_type() == FieldRepetitionType.REPEATED) {
            throw new UnreadParquetException("columns are nested");
        }
        boolean isPlain = !column.isSetLogicalType() && !column.isSetConverted_type();
        if (isPlain && PLAIN.contains(column.getType())) {
            return column.getType().name();
        }
        return switch (ParquetColumn.content(column)) {
            case DATE -> "DATE";
            case TEXT -> "VARCHAR";
            case NUMBER -> "DECIMAL";
            case OTHER -> throw new UnreadParquetException("values of another type");
        };
    }
}
