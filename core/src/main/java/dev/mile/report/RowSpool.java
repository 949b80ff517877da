package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.MileException;
import dev.mile.measure.Value;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.RandomAccessFile;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Rows that come in another order than they are shown in: those below one place in time are put together, in a file of their own
 * where they are many, which is gone at the end.
 */
final class RowSpool implements AutoCloseable {
    private static final byte BLANK = 0;
    private static final byte EXACT = 1;
    private static final byte FLOATING = 2;

    private record Chunk(long from, int length, int rows) {}

    private static final class Kept {
        final List<Chunk> chunks = new ArrayList<>();
        final List<Grid.Row> rows = new ArrayList<>();
    }

    private final int mostInMemory;
    private final Map<List<Object>, Kept> places = new HashMap<>();
    private final Set<List<Object>> above = new HashSet<>();
    private int inMemory;
    private Path path;
    private RandomAccessFile file;

    /**
     * Returns an empty spool.
     *
     * @param mostInMemory how many rows are held outside the file
     */
    RowSpool(int mostInMemory) {
        this.mostInMemory = mostInMemory;
    }

    /** Adds a row, without windows, below a place in time. */
    void add(List<Object> place, Grid.Row row) {
        Kept kept = places.get(place);
        if (kept == null) {
            kept = new Kept();
            places.put(place, kept);
            for (int i = 0; i <= place.size(); i++) {
                above.add(place.subList(0, i));
            }
        }
        kept.rows.add(row);
        if (++inMemory >= mostInMemory) {
            try {
                write();
            } catch (IOException e) {
                throw failed(e);
            }
        }
    }

    private static MileException failed(IOException e) {
        return MileException.data(
                        "the rows of the report do not fit into memory, and cannot be kept in the folder for temporary files %s:"
                                + " %s; make room there, or put the dimension first in `rows`",
                        System.getProperty("java.io.tmpdir"), e.getMessage())
                .causedBy(e);
    }

    /** Tells whether there are rows at the place or below. */
    boolean any(List<Object> place) {
        return above.contains(place);
    }

    /** Hands the rows of the place over in the order in which they came. */
    void replay(List<Object> place, GridSink sink) {
        Kept kept = places.get(place);
        if (kept == null) {
            return;
        }
        try {
            for (Chunk chunk : kept.chunks) {
                byte[] bytes = new byte[chunk.length()];
                file.seek(chunk.from());
                file.readFully(bytes);
                DataInputStream in = new DataInputStream(new ByteArrayInputStream(bytes));
                for (int r = 0; r < chunk.rows(); r++) {
                    sink.row(read(in));
                }
            }
        } catch (IOException e) {
            throw failed(e);
        }
        kept.rows.forEach(sink::row);
    }

    private void write() throws IOException {
        if (file == null) {
            path = Files.createTempFile("mile-rows", ".tmp");
            // where the program is interrupted
            path.toFile().deleteOnExit();
            file = new RandomAccessFile(path.toFile(), "rw");
        }
        for (Kept kept : places.values()) {
            if (kept.rows.isEmpty()) {
                continue;
            }
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            DataOutputStream out = new DataOutputStream(bytes);
            for (Grid.Row row : kept.rows) {
                write(row, out);
            }
            kept.chunks.add(new Chunk(file.length(), bytes.size(), kept.rows.size()));
            file.seek(file.length());
            file.write(bytes.toByteArray());
            kept.rows.clear();
        }
        inMemory = 0;
    }

    private static void write(Grid.Row row, DataOutputStream out) throws IOException {
        out.writeByte(row.kind().ordinal());
        out.writeInt(row.labels().size());
        for (String label : row.labels()) {
            byte[] text = label.getBytes(StandardCharsets.UTF_8);
            out.writeInt(text.length);
            out.write(text);
        }
        out.writeInt(row.days().firstDay());
        out.writeInt(row.days().lastDay());
        out.writeInt(row.values().size());
        for (Value value : row.values()) {
            if (value.isBlank()) {
                out.writeByte(BLANK);
            } else if (value.isExact()) {
                byte[] digits = value.decimal().unscaledValue().toByteArray();
                out.writeByte(EXACT);
                out.writeInt(value.decimal().scale());
                out.writeInt(digits.length);
                out.write(digits);
            } else {
                out.writeByte(FLOATING);
                out.writeDouble(value.toDouble());
            }
        }
    }

    private static Grid.Row read(DataInputStream in) throws IOException {
        Grid.Kind kind = Grid.Kind.values()[in.readByte()];
        List<String> labels = new ArrayList<>();
        for (int left = in.readInt(); left > 0; left--) {
            labels.add(new String(in.readNBytes(in.readInt()), StandardCharsets.UTF_8));
        }
        DateRange days = DateRange.ofDays(in.readInt(), in.readInt());
        List<Value> values = new ArrayList<>();
        for (int left = in.readInt(); left > 0; left--) {
            byte what = in.readByte();
            if (what == EXACT) {
                int scale = in.readInt();
                values.add(Value.of(new BigDecimal(new BigInteger(in.readNBytes(in.readInt())), scale)));
            } else {
                values.add(what == FLOATING ? Value.of(in.readDouble()) : Value.BLANK);
            }
        }
        return new Grid.Row(kind, labels, days, values, List.of());
    }

    @Override
    public void close() {
        if (file == null) {
            return;
        }
        try {
            file.close();
            Files.deleteIfExists(path);
        } catch (IOException e) {
            throw failed(e);
        }
    }
}
