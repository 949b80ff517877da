package dev.mile.sql.cache;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.StoppedException;
import dev.mile.engine.DailyTotals;
import dev.mile.engine.GroupTotals;
import dev.mile.engine.RoleAccounts;
import dev.mile.engine.TotalsCursor;
import dev.mile.sql.query.Cursor;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.sql.Blob;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.Map;
import java.util.zip.CRC32C;

/** Totals that are read from a file of the store: a row of notes, then one for each group, each with a check sum. */
final class CachedTotalsCursor implements TotalsCursor {
    private static final int NOTES = 1;
    private static final int SUM = 2;

    private final Path file;
    private final Cursor cursor;
    private final int groups;
    private final int columns;
    private final CacheMetadata notes;
    private long read;

    /**
     * Returns the totals.
     *
     * @param cursor the rows of the file, in order; closed with the totals
     * @throws MileException if the file is damaged; it is deleted
     */
    CachedTotalsCursor(Path file, Cursor cursor, int groups, int columns) {
        this.file = file;
        this.cursor = cursor;
        this.groups = groups;
        this.columns = columns;
        try {
            this.notes = notes(cursor.rows());
        } catch (RuntimeException e) {
            cursor.close();
            throw e;
        }
    }

    private CacheMetadata notes(ResultSet row) {
        try {
            if (!row.next()) {
                throw damaged();
            }
            return CacheMetadata.read(row.getString(NOTES), row.getLong(SUM)).orElseThrow(this::damaged);
        } catch (SQLException e) {
            throw damaged().withCause(e);
        }
    }

    /** Returns what is noted with them. */
    CacheMetadata notes() {
        return notes;
    }

    @Override
    public GroupTotals next() {
        try {
            ResultSet row = cursor.rows();
            if (!row.next()) {
                return null;
            }
            read++;
            CRC32C sum = new CRC32C();
            String[] members = new String[groups];
            int at = SUM + 1;
            for (int g = 0; g < groups; g++) {
                members[g] = row.getString(at++);
                sum.update(String.valueOf(members[g]).getBytes(StandardCharsets.UTF_8));
            }
            byte[] packed = bytes(row, at++, sum);
            byte[][] values = new byte[columns][];
            for (int c = 0; c < columns; c++) {
                values[c] = bytes(row, at++, sum);
            }
            if (row.getLong(SUM) != sum.getValue()) {
                throw damaged();
            }
            int[] days = TotalsCodec.days(packed);
            DailyTotals[] of = new DailyTotals[columns];
            for (int c = 0; c < columns; c++) {
                int same = TotalsCodec.sameAs(values[c]);
                of[c] = same < 0 ? TotalsCodec.values(values[c], days.length) : of[same];
            }
            return new GroupTotals(members, days, of);
        } catch (SQLException e) {
            throw damaged().withCause(e);
        }
    }

    private static byte[] bytes(ResultSet row, int at, CRC32C sum) throws SQLException {
        Blob blob = row.getBlob(at);
        byte[] bytes = blob.getBytes(1, (int) blob.length());
        sum.update(bytes);
        return bytes;
    }

    /** Deletes the file, unless an interrupt is why it cannot be read. */
    private MileException damaged() {
        StoppedException.throwIfInterrupted(Thread.currentThread());
        CacheFiles.delete(file);
        return DataException.of(
                "the stored totals %s were damaged, and are deleted; run the command again", file.getFileName());
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
        cursor.close();
    }
}
