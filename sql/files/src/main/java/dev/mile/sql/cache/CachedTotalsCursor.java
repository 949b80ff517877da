package dev.mile.sql.cache;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.StoppedException;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalsCursor;
import java.io.BufferedInputStream;
import java.io.DataInputStream;
import java.io.IOException;
import java.nio.BufferUnderflowException;
import java.nio.ByteBuffer;
import java.nio.channels.Channels;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;

/** Totals that are read from a file of the store, as {@link TotalsWriter} writes them. */
final class CachedTotalsCursor implements TotalsCursor {
    private final Path file;
    private final FileChannel channel;
    private final DataInputStream in;
    private final int groups;
    private final int columns;
    private final CacheMetadata notes;
    private final long end;
    private long at;
    private long read;

    /**
     * Opens a file.
     *
     * @throws IOException if it is not there
     * @throws MileException if it is damaged; it is deleted
     */
    CachedTotalsCursor(Path file, int groups, int columns) throws IOException {
        this.file = file;
        this.channel = FileChannel.open(file);
        this.groups = groups;
        this.columns = columns;
        try {
            this.end = notesAt();
            this.notes = readNotes();
            channel.position(0);
        } catch (IOException | RuntimeException e) {
            close();
            throw damaged(e);
        }
        // from the beginning of the file
        this.in = new DataInputStream(new BufferedInputStream(Channels.newInputStream(channel), 1 << 16));
    }

    private ByteBuffer bytes(long position, long length) throws IOException {
        if (position < 0 || length < 0 || position + length > channel.size() || length > Integer.MAX_VALUE) {
            throw new IOException("no such bytes");
        }
        ByteBuffer bytes = ByteBuffer.allocate((int) length);
        int more = 0;
        while (bytes.hasRemaining() && more >= 0) {
            more = channel.read(bytes, position + bytes.position());
        }
        return bytes.flip();
    }

    private long notesAt() throws IOException {
        return bytes(channel.size() - Long.BYTES, Long.BYTES).getLong();
    }

    private CacheMetadata readNotes() throws IOException {
        ByteBuffer record = bytes(end, channel.size() - Long.BYTES - end);
        int length = record.getInt();
        int sum = record.getInt();
        if (length != record.remaining()) {
            throw new IOException("another length");
        }
        byte[] text = new byte[length];
        record.get(text);
        if (TotalsWriter.sum(text) != sum) {
            throw new IOException("another check sum");
        }
        return CacheMetadata.read(new String(text, StandardCharsets.UTF_8));
    }

    /** Returns what is noted with them. */
    CacheMetadata notes() {
        return notes;
    }

    @Override
    public GroupTotals next() {
        try {
            if (at == end && read == notes.groups()) {
                return null;
            }
            return group(ByteBuffer.wrap(record()));
        } catch (IOException | BufferUnderflowException e) {
            throw damaged(e);
        }
    }

    private byte[] record() throws IOException {
        int length = in.readInt();
        int sum = in.readInt();
        at += TotalsWriter.HEAD + length;
        if (length < 0 || at > end) {
            throw new IOException("a record that is too long");
        }
        byte[] bytes = in.readNBytes(length);
        if (bytes.length < length || TotalsWriter.sum(bytes) != sum) {
            throw new IOException("another check sum");
        }
        read++;
        return bytes;
    }

    private GroupTotals group(ByteBuffer record) {
        String[] members = new String[groups];
        for (int g = 0; g < groups; g++) {
            members[g] = field(record)
                    .map(member -> new String(member, StandardCharsets.UTF_8))
                    .orElse(null);
        }
        int[] days = TotalsCodec.days(field(record).orElseThrow());
        DailyTotals[] values = new DailyTotals[columns];
        for (int c = 0; c < columns; c++) {
            byte[] packed = field(record).orElseThrow();
            int same = TotalsCodec.sameAs(packed);
            values[c] = same < 0 ? TotalsCodec.values(packed, days.length) : values[same];
        }
        return new GroupTotals(members, days, values);
    }

    private static Optional<byte[]> field(ByteBuffer record) {
        int length = record.getInt();
        if (length < 0) {
            return Optional.empty();
        }
        byte[] bytes = new byte[length];
        record.get(bytes);
        return Optional.of(bytes);
    }

    /** Deletes the file, unless an interrupt is why it cannot be read. */
    private MileException damaged(Exception cause) {
        StoppedException.throwIfInterrupted(Thread.currentThread());
        CacheFiles.delete(file);
        return DataException.of(
                        "the stored totals %s were damaged, and are deleted; run the command again", file.getFileName())
                .withCause(cause);
    }

    @Override
    public double progress() {
        return (double) read / notes.groups();
    }

    @Override
    public Map<RoleAccounts.RowOutcome, Long> rowOutcomes() {
        return notes.rows();
    }

    @Override
    public void close() {
        try {
            channel.close();
        } catch (IOException e) {
            // what was read is whole all the same
        }
    }
}
