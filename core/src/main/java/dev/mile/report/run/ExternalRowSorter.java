package dev.mile.report.run;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.calendar.DateRange;
import dev.mile.internal.PrivateFolder;
import dev.mile.measure.TargetStatus;
import dev.mile.measure.Value;
import dev.mile.report.Grid;
import java.io.BufferedInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.RandomAccessFile;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.function.Consumer;

/**
 * Rows that come in another order than they are shown in: those below one place in time are put together and sorted, in a file of
 * their own where they are many, which is gone at the end.
 */
public final class ExternalRowSorter implements AutoCloseable {
    private static final byte EXACT = 1;
    private static final byte FLOATING = 2;
    private static final byte FIRST_BLANK = 3;
    private static final List<Value> BLANKS = List.of(Value.NOTHING, Value.UNDEFINED, Value.UNKNOWN);

    /** Rows that stay together, where they came, and what they are sorted by. */
    private record Block(int number, Value by, List<Grid.Row> rows) {}

    /** Sorted blocks in the file. */
    private record Run(long from, long to, int blocks) {}

    private static final class Bucket {
        final List<Run> runs = new ArrayList<>();
        final List<Block> blocks = new ArrayList<>();
    }

    private final int mostInMemory;
    private final Comparator<Block> order;
    private final Map<List<Object>, Bucket> places = new HashMap<>();
    private final Set<List<Object>> above = new HashSet<>();
    private int number;
    private int inMemory;
    private Path path;
    private RandomAccessFile file;

    /**
     * Returns a sorter without rows.
     *
     * @param mostInMemory how many rows are held outside the file
     * @param order how rows are sorted by their values; those that are equal stay as they came
     */
    public ExternalRowSorter(int mostInMemory, Comparator<Value> order) {
        this.mostInMemory = mostInMemory;
        this.order = Comparator.comparing(Block::by, order).thenComparing(Block::number);
    }

    /**
     * Adds rows that stay together, without windows, below a place in time.
     *
     * @param by what they are sorted by
     */
    public void add(List<Object> place, Value by, List<Grid.Row> rows) {
        Bucket kept = places.get(place);
        if (kept == null) {
            kept = new Bucket();
            places.put(place, kept);
            for (int i = 0; i <= place.size(); i++) {
                above.add(place.subList(0, i));
            }
        }
        kept.blocks.add(new Block(number++, by, rows));
        inMemory += rows.size();
        if (inMemory >= mostInMemory) {
            try {
                write();
            } catch (IOException e) {
                throw failed(e);
            }
        }
    }

    private static MileException failed(IOException e) {
        return DataException.of(
                        "the rows of the report do not fit into memory, and cannot be kept in the folder for temporary files %s:"
                                + " %s; make room there, or put the dimension first in the rows and do not sort",
                        System.getProperty("java.io.tmpdir"), e.getMessage())
                .withCause(e);
    }

    /** Returns whether there are rows at the place or below. */
    public boolean hasRows(List<Object> place) {
        return above.contains(place);
    }

    /** Hands the rows of the place over, sorted: runs that are sorted each are read side by side. */
    public void replay(List<Object> place, Consumer<Grid.Row> sink) {
        Bucket kept = places.get(place);
        if (kept == null) {
            return;
        }
        kept.blocks.sort(order);
        PriorityQueue<RunHead> next = new PriorityQueue<>(Comparator.comparing(RunHead::block, order));
        for (Run run : kept.runs) {
            RunHead.begin(new Blocks(run), next);
        }
        RunHead.begin(kept.blocks.iterator(), next);
        while (!next.isEmpty()) {
            RunHead first = next.poll();
            first.block().rows().forEach(sink);
            RunHead.begin(first.rest(), next);
        }
    }

    /** The next block of a run, and those behind it. */
    private record RunHead(Block block, Iterator<Block> rest) {
        static void begin(Iterator<Block> run, PriorityQueue<RunHead> next) {
            if (run.hasNext()) {
                next.add(new RunHead(run.next(), run));
            }
        }
    }

    /** Reads the blocks of a run, one after the other. */
    private final class Blocks implements Iterator<Block> {
        private final DataInputStream in;
        private int left;

        Blocks(Run run) {
            left = run.blocks();
            in = new DataInputStream(new BufferedInputStream(new FileSegment(run.from(), run.to())));
        }

        @Override
        public boolean hasNext() {
            return left > 0;
        }

        @Override
        public Block next() {
            left--;
            try {
                int blockNumber = in.readInt();
                Value by = readValue(in);
                List<Grid.Row> rows = new ArrayList<>();
                for (int more = in.readInt(); more > 0; more--) {
                    rows.add(read(in));
                }
                return new Block(blockNumber, by, rows);
            } catch (IOException e) {
                throw failed(e);
            }
        }
    }

    /** A part of the file, read while others are. */
    private final class FileSegment extends InputStream {
        private final long to;
        private long at;

        FileSegment(long from, long to) {
            this.at = from;
            this.to = to;
        }

        @Override
        public int read() throws IOException {
            byte[] one = new byte[1];
            return read(one, 0, 1) < 0 ? -1 : one[0] & 0xff;
        }

        @Override
        public int read(byte[] bytes, int offset, int length) throws IOException {
            if (at >= to) {
                return -1;
            }
            ByteBuffer some = ByteBuffer.wrap(bytes, offset, (int) Math.min(length, to - at));
            int n = file.getChannel().read(some, at);
            at += Math.max(n, 0);
            return n;
        }
    }

    private void write() throws IOException {
        if (file == null) {
            path = PrivateFolder.newFile(".rows");
            // where the program is interrupted
            path.toFile().deleteOnExit();
            file = new RandomAccessFile(path.toFile(), "rw");
        }
        for (Bucket kept : places.values()) {
            if (kept.blocks.isEmpty()) {
                continue;
            }
            kept.blocks.sort(order);
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            DataOutputStream out = new DataOutputStream(bytes);
            for (Block block : kept.blocks) {
                out.writeInt(block.number());
                writeValue(block.by(), out);
                out.writeInt(block.rows().size());
                for (Grid.Row row : block.rows()) {
                    write(row, out);
                }
            }
            long from = file.length();
            file.seek(from);
            file.write(bytes.toByteArray());
            kept.runs.add(new Run(from, from + bytes.size(), kept.blocks.size()));
            kept.blocks.clear();
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
        out.writeInt(row.days().firstEpochDay());
        out.writeInt(row.days().lastEpochDay());
        out.writeInt(row.cellDays().size());
        for (DateRange days : row.cellDays()) {
            out.writeInt(days.firstEpochDay());
            out.writeInt(days.lastEpochDay());
        }
        out.writeInt(row.values().size());
        for (Value value : row.values()) {
            writeValue(value, out);
        }
        out.writeInt(row.statuses().size());
        for (Map.Entry<Integer, TargetStatus> status : row.statuses().entrySet()) {
            out.writeInt(status.getKey());
            out.writeByte(status.getValue().ordinal());
        }
    }

    private static void writeValue(Value value, DataOutputStream out) throws IOException {
        if (value.isBlank()) {
            out.writeByte(FIRST_BLANK + BLANKS.indexOf(value));
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

    private static Grid.Row read(DataInputStream in) throws IOException {
        Grid.RowKind kind = Grid.RowKind.values()[in.readByte()];
        List<String> labels = new ArrayList<>();
        for (int more = in.readInt(); more > 0; more--) {
            labels.add(new String(in.readNBytes(in.readInt()), StandardCharsets.UTF_8));
        }
        DateRange days = DateRange.ofEpochDays(in.readInt(), in.readInt());
        List<DateRange> cellDays = new ArrayList<>();
        for (int more = in.readInt(); more > 0; more--) {
            cellDays.add(DateRange.ofEpochDays(in.readInt(), in.readInt()));
        }
        List<Value> values = new ArrayList<>();
        for (int more = in.readInt(); more > 0; more--) {
            values.add(readValue(in));
        }
        Map<Integer, TargetStatus> statuses = new LinkedHashMap<>();
        for (int more = in.readInt(); more > 0; more--) {
            statuses.put(in.readInt(), TargetStatus.values()[in.readByte()]);
        }
        return new Grid.Row(kind, labels, days, cellDays, values, statuses, List.of());
    }

    private static Value readValue(DataInputStream in) throws IOException {
        byte what = in.readByte();
        if (what == EXACT) {
            int scale = in.readInt();
            return Value.of(new BigDecimal(new BigInteger(in.readNBytes(in.readInt())), scale));
        }
        return what == FLOATING ? Value.of(in.readDouble()) : BLANKS.get(what - FIRST_BLANK);
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
