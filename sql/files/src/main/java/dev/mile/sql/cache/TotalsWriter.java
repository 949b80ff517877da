package dev.mile.sql.cache;

import dev.mile.engine.GroupTotals;
import java.io.BufferedOutputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.zip.CRC32C;

/**
 * Writes totals to a file, which {@link CachedTotalsCursor} reads. It holds a record for each group, then one of notes, and ends with
 * eight bytes that say where the notes begin, high byte first. A record is the length of its bytes, their check sum, and the bytes.
 */
final class TotalsWriter implements AutoCloseable {
    /** The bytes before those of a record: its length, and its check sum. */
    static final int HEAD = 2 * Integer.BYTES;

    private final DataOutputStream out;
    private final ByteArrayOutputStream record = new ByteArrayOutputStream();
    private final DataOutputStream fields = new DataOutputStream(record);
    private long written;

    /**
     * Begins a file.
     *
     * @throws IOException if it cannot be made
     */
    TotalsWriter(Path file) throws IOException {
        out = new DataOutputStream(new BufferedOutputStream(Files.newOutputStream(file), 1 << 16));
    }

    /** Returns the check sum of a record. */
    static int sum(byte[] bytes) {
        CRC32C sum = new CRC32C();
        sum.update(bytes);
        return (int) sum.getValue();
    }

    /** Writes a group: its members, its days, and its columns, each with its length in front, which is -1 for a blank member. */
    void write(GroupTotals group) throws IOException {
        for (String member : group.members()) {
            if (member == null) {
                fields.writeInt(-1);
            } else {
                field(member.getBytes(StandardCharsets.UTF_8));
            }
        }
        field(TotalsCodec.days(group.days()));
        for (int c = 0; c < group.values().length; c++) {
            int same = 0;
            while (group.values()[same] != group.values()[c]) {
                same++;
            }
            field(same < c ? TotalsCodec.same(same) : TotalsCodec.values(group.values()[c]));
        }
        endRecord();
    }

    private void field(byte[] bytes) throws IOException {
        fields.writeInt(bytes.length);
        fields.write(bytes);
    }

    private void endRecord() throws IOException {
        byte[] bytes = record.toByteArray();
        record.reset();
        out.writeInt(bytes.length);
        out.writeInt(sum(bytes));
        out.write(bytes);
        written += HEAD + bytes.length;
    }

    /** Ends the file with its notes. */
    void end(CacheMetadata notes) throws IOException {
        long at = written;
        fields.write(notes.written().getBytes(StandardCharsets.UTF_8));
        endRecord();
        out.writeLong(at);
        close();
    }

    @Override
    public void close() throws IOException {
        out.close();
    }
}
