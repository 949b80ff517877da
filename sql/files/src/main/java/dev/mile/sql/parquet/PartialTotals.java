package dev.mile.sql.parquet;

import dev.mile.internal.Overflow;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** What one thread has added up. */
final class PartialTotals implements RowGroupPass.Work {
    private static final int ROWS_AT_ONCE = ChunkReader.ROWS_AT_ONCE;

    private final SlotLayout layout;
    private final long[] totals;
    private final long[] slots = new long[ROWS_AT_ONCE];
    private final long[] values = new long[ROWS_AT_ONCE];
    private final boolean[] blank = new boolean[ROWS_AT_ONCE];
    private ParquetSource.Part part;
    private final List<ChunkReader> places = new ArrayList<>();
    private final List<ChunkReader> numbers = new ArrayList<>();

    PartialTotals(SlotLayout layout) {
        this.layout = layout;
        this.totals = new long[layout.length()];
    }

    /** Adds the rows of a group, or some of them once it is told to stop. */
    @Override
    public void with(ParquetSource.Rows rows, RowGroupPass pass) throws IOException {
        open(rows);
        long left = rows.group().getNum_rows();
        while (left > 0 && !pass.isStopped()) {
            int count = (int) Math.min(left, ROWS_AT_ONCE);
            add(count);
            left -= count;
        }
    }

    private void open(ParquetSource.Rows rows) throws IOException {
        if (part != rows.part()) {
            part = rows.part();
            places.clear();
            numbers.clear();
            places.add(ChunkReader.ofNumbers(part.date(), layout::ofDay, layout.ofNoDate()));
            for (int c = 0; c < part.texts().size(); c++) {
                int column = c;
                places.add(ChunkReader.ofTexts(
                        part.texts().get(c), text -> layout.ofText(column, text), layout.ofBlank(c)));
            }
            part.numbers().forEach(column -> numbers.add(ChunkReader.ofNumbers(column)));
        }
        for (ChunkReader reader : places) {
            reader.open(part.file(), rows.group());
        }
        for (ChunkReader reader : numbers) {
            reader.open(part.file(), rows.group());
        }
    }

    private void add(int count) throws IOException {
        int same = 0;
        Arrays.fill(slots, 0);
        for (ChunkReader place : places) {
            if (place.areSame(count)) {
                same += (int) place.skipSame(count);
            } else {
                place.add(slots, null, count);
            }
        }
        if (numbers.isEmpty()) {
            count(count, same);
        }
        for (int n = 0; n < numbers.size(); n++) {
            boolean counts = layout.countAt(n) > 0;
            Arrays.fill(values, 0);
            boolean hasBlanks = numbers.get(n).add(values, counts ? blank : null, count);
            if (hasBlanks && !counts) {
                throw new UnreadParquetException("a column has blanks where it says that there are none");
            }
            if (n == 0) {
                countAndSum(count, same, layout.sumAt(n));
            } else {
                sum(count, same + layout.sumAt(n));
            }
            if (counts) {
                countPresent(count, same + layout.countAt(n));
            }
        }
    }

    private void count(int count, int same) {
        for (int i = 0; i < count; i++) {
            totals[(int) slots[i] + same]++;
        }
    }

    /** Does both in one pass, in which each slot is in the cache of the processor. */
    private void countAndSum(int count, int same, int at) throws UnreadParquetException {
        // not fields: Java's first compiler would load them for each row
        long[] into = totals;
        long[] from = slots;
        long[] added = values;
        long overflow = 0;
        for (int i = 0; i < count; i++) {
            int slot = (int) from[i] + same;
            into[slot]++;
            long value = added[i];
            long running = into[slot + at];
            long sum = running + value;
            overflow |= (running ^ sum) & (value ^ sum);
            into[slot + at] = sum;
        }
        check(overflow < 0);
    }

    /** Adds the values; blanks are zeros. */
    private void sum(int count, int at) throws UnreadParquetException {
        long[] into = totals;
        long[] from = slots;
        long[] added = values;
        long overflow = 0;
        for (int i = 0; i < count; i++) {
            int slot = (int) from[i] + at;
            long value = added[i];
            long running = into[slot];
            long sum = running + value;
            overflow |= (running ^ sum) & (value ^ sum);
            into[slot] = sum;
        }
        check(overflow < 0);
    }

    private void countPresent(int count, int at) {
        for (int i = 0; i < count; i++) {
            totals[(int) slots[i] + at] += blank[i] ? 0 : 1;
        }
    }

    /** Adds what another thread has added up. */
    void add(PartialTotals other) throws UnreadParquetException {
        boolean tooLarge = false;
        for (int i = 0; i < totals.length; i++) {
            long sum = totals[i] + other.totals[i];
            tooLarge |= Overflow.ofSum(totals[i], other.totals[i], sum);
            totals[i] = sum;
        }
        check(tooLarge);
    }

    private static void check(boolean tooLarge) throws UnreadParquetException {
        if (tooLarge) {
            throw new UnreadParquetException("a sum of more digits than are added up here");
        }
    }

    long[] totals() {
        return totals;
    }
}
