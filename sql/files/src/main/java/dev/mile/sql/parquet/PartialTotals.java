package dev.mile.sql.parquet;

import dev.mile.internal.Overflow;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What one thread has added up. */
final class PartialTotals implements RowGroupPass.Work<ParquetSource.OpenRowGroup> {
    private static final int ROWS_AT_ONCE = ChunkReader.ROWS_AT_ONCE;

    private final ParquetQuestion question;
    private final SlotLayout layout;
    private final Map<TextCondition, TruthTable> tables;
    private final long[] totals;
    private final long[] slots = new long[ROWS_AT_ONCE];
    private ParquetSource.@Nullable FileColumns file;
    private final List<ChunkReader> slotReaders = new ArrayList<>();
    private final List<Filter> filters = new ArrayList<>();
    private final List<Numbers> numbers = new ArrayList<>();
    private @Nullable Filter keep;
    /** By total, its numbers and the rows that count for it; null where it has none, and where all do. */
    private final List<@Nullable Numbers> numbersOf = new ArrayList<>();

    private final List<@Nullable Filter> whereOf = new ArrayList<>();

    PartialTotals(ParquetQuestion question, SlotLayout layout, Map<TextCondition, TruthTable> tables) {
        this.question = question;
        this.layout = layout;
        this.tables = tables;
        this.totals = new long[layout.length()];
    }

    /** Which of the rows at hand a condition holds for. */
    private static final class Filter {
        private final TruthTable table;
        private final List<ChunkReader> texts = new ArrayList<>();
        private final long[] rows = new long[ROWS_AT_ONCE];

        Filter(TruthTable table, ParquetSource.FileColumns file) {
            this.table = table;
            for (int v = 0; v < table.values().size(); v++) {
                int value = v;
                ParquetColumn column = file.texts().get(table.values().get(v).column());
                texts.add(ChunkReader.ofTexts(column, text -> table.ofText(value, text), table.ofBlank(v)));
            }
        }

        void read(int count) throws IOException {
            Arrays.fill(rows, 0);
            for (ChunkReader reader : texts) {
                reader.add(rows, null, count);
            }
        }

        boolean holds(int row) {
            return table.holds(rows[row]);
        }
    }

    /** The numbers of the rows at hand in a column; blanks are zeros. */
    private static final class Numbers {
        private final ChunkReader reader;
        private final long[] values = new long[ROWS_AT_ONCE];
        private final boolean[] blank = new boolean[ROWS_AT_ONCE];
        private boolean hasBlanks;

        Numbers(ParquetColumn column) {
            reader = ChunkReader.ofNumbers(column);
        }

        void read(int count) throws IOException {
            Arrays.fill(values, 0);
            hasBlanks = reader.add(values, blank, count);
        }
    }

    /** Adds the rows of a group, or some of them once it is told to stop. */
    @Override
    public void with(ParquetSource.OpenRowGroup rows, RowGroupPass<ParquetSource.OpenRowGroup> pass)
            throws IOException {
        if (file != rows.columns()) {
            open(rows.columns());
        }
        List<ChunkReader> readers = new ArrayList<>(slotReaders);
        filters.forEach(filter -> readers.addAll(filter.texts));
        numbers.forEach(column -> readers.add(column.reader));
        for (ChunkReader reader : readers) {
            reader.open(rows.columns().file(), rows.group());
        }
        long left = rows.group().getNum_rows();
        while (left > 0 && !pass.isStopped()) {
            int count = (int) Math.min(left, ROWS_AT_ONCE);
            add(count);
            left -= count;
        }
    }

    private void open(ParquetSource.FileColumns next) {
        file = next;
        slotReaders.clear();
        slotReaders.add(ChunkReader.ofNumbers(next.date(), layout::ofDay, layout.ofNoDate()));
        for (int g = 0; g < question.groups().size(); g++) {
            int group = g;
            slotReaders.add(ChunkReader.ofTexts(
                    next.texts().get(question.groups().get(g).column()),
                    text -> layout.ofText(group, text),
                    layout.ofBlank(g)));
        }
        Map<TextCondition, Filter> byCondition = new LinkedHashMap<>();
        tables.forEach((condition, table) -> byCondition.put(condition, new Filter(table, next)));
        Map<String, Numbers> byColumn = new LinkedHashMap<>();
        next.numbers().forEach((name, column) -> byColumn.put(name, new Numbers(column)));
        filters.clear();
        filters.addAll(byCondition.values());
        numbers.clear();
        numbers.addAll(byColumn.values());
        keep = question.keep().map(byCondition::get).orElse(null);
        numbersOf.clear();
        whereOf.clear();
        for (ParquetQuestion.Total total : question.totals()) {
            numbersOf.add(total.number().map(byColumn::get).orElse(null));
            whereOf.add(total.where().map(byCondition::get).orElse(null));
        }
    }

    private void add(int count) throws IOException {
        int same = findSlots(count);
        for (Filter filter : filters) {
            filter.read(count);
        }
        for (Numbers column : numbers) {
            column.read(count);
        }
        if (keep != null) {
            leaveOut(keep, count, same);
            same = 0;
        }
        boolean counted = false;
        for (int t = 0; t < numbersOf.size(); t++) {
            Numbers column = numbersOf.get(t);
            if (layout.countAt(t) > 0) {
                sumCounted(t, column, whereOf.get(t), count, same);
            } else if (column.hasBlanks) {
                throw new UnsupportedParquetException("a column has blanks where it says that there are none");
            } else {
                sum(column, count, same, layout.sumAt(t), counted ? 0 : 1);
                counted = true;
            }
        }
        for (int i = 0; i < count && !counted; i++) {
            totals[(int) slots[i] + same]++;
        }
    }

    /** Finds the slots of the rows; returns what is to be added to each of them. */
    private int findSlots(int count) throws IOException {
        int same = 0;
        Arrays.fill(slots, 0);
        for (ChunkReader reader : slotReaders) {
            if (reader.areSame(count)) {
                same += (int) reader.skipSame(count);
            } else {
                reader.add(slots, null, count);
            }
        }
        return same;
    }

    private void leaveOut(Filter kept, int count, int same) {
        for (int i = 0; i < count; i++) {
            slots[i] = kept.holds(i) ? slots[i] + same : layout.ofRowsLeftOut();
        }
    }

    /**
     * Adds numbers up and counts rows in one pass, in which each slot is in the cache of the processor.
     *
     * @param rows 1 where rows are to be counted, 0 where they were
     */
    private void sum(Numbers column, int count, int same, int at, int rows) throws UnsupportedParquetException {
        // not fields: Java's first compiler would load them for each row
        long[] into = totals;
        long[] from = slots;
        long[] added = column.values;
        long overflow = 0;
        for (int i = 0; i < count; i++) {
            int slot = (int) from[i] + same;
            into[slot] += rows;
            long value = added[i];
            long running = into[slot + at];
            long sum = running + value;
            overflow |= (running ^ sum) & (value ^ sum);
            into[slot + at] = sum;
        }
        check(overflow < 0);
    }

    /** Adds up the rows that have a number and count, and counts them. */
    private void sumCounted(int total, @Nullable Numbers column, @Nullable Filter where, int count, int same)
            throws UnsupportedParquetException {
        boolean tooLarge = false;
        for (int i = 0; i < count; i++) {
            if (where != null && !where.holds(i) || column != null && column.blank[i]) {
                continue;
            }
            int slot = (int) slots[i] + same;
            totals[slot + layout.countAt(total)]++;
            if (column != null) {
                int at = slot + layout.sumAt(total);
                long sum = totals[at] + column.values[i];
                tooLarge |= Overflow.ofSum(totals[at], column.values[i], sum);
                totals[at] = sum;
            }
        }
        check(tooLarge);
    }

    /** Adds what another thread has added up. */
    void add(PartialTotals other) throws UnsupportedParquetException {
        boolean tooLarge = false;
        for (int i = 0; i < totals.length; i++) {
            long sum = totals[i] + other.totals[i];
            tooLarge |= Overflow.ofSum(totals[i], other.totals[i], sum);
            totals[i] = sum;
        }
        check(tooLarge);
    }

    private static void check(boolean tooLarge) throws UnsupportedParquetException {
        if (tooLarge) {
            throw new UnsupportedParquetException("a sum of more digits than are added up here");
        }
    }

    long[] totals() {
        return totals;
    }
}
