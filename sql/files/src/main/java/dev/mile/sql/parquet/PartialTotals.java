package dev.mile.sql.parquet;

import dev.mile.internal.CountedSums;
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

    private static final long[] NO_NUMBERS = new long[ROWS_AT_ONCE];

    private final ParquetQuestion question;
    private final SlotLayout layout;
    private final Map<TextCondition, TruthTable> tables;
    /** By total; null where it is the number of all rows. */
    private final List<@Nullable CountedSums> totals = new ArrayList<>();

    /** Counts all rows, and may be one of the totals. */
    private final CountedSums rows;

    private final long[] slots = new long[ROWS_AT_ONCE];
    /** The slots of the rows that count for a total. */
    private final long[] counting = new long[ROWS_AT_ONCE];

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
        CountedSums full = null;
        for (int t = 0; t < question.totals().size(); t++) {
            boolean isRows =
                    layout.isFull(t) && question.totals().get(t).number().isEmpty();
            totals.add(isRows ? null : new CountedSums(layout.length()));
            full = full == null && layout.isFull(t) ? totals.get(t) : full;
        }
        rows = full == null ? new CountedSums(layout.length()) : full;
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

    /** The numbers of the rows at hand in a column, and how far from zero they lie at most; blanks are zeros. */
    private static final class Numbers {
        private final ChunkReader reader;
        private final long[] values = new long[ROWS_AT_ONCE];
        private final boolean[] blank = new boolean[ROWS_AT_ONCE];
        private boolean hasBlanks;
        private long largest;

        Numbers(ParquetColumn column) {
            reader = ChunkReader.ofNumbers(column);
        }

        void read(int count) throws IOException {
            Arrays.fill(values, 0);
            hasBlanks = reader.add(values, blank, count);
            largest = reader.largest();
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
        if (!totals.contains(rows)) {
            rows.add(slots, same, NO_NUMBERS, count, 0);
        }
        for (int t = 0; t < numbersOf.size(); t++) {
            Numbers column = numbersOf.get(t);
            CountedSums into = totals.get(t);
            if (!layout.isFull(t)) {
                findCounting(whereOf.get(t), column, count, same);
                into.add(
                        counting,
                        0,
                        column == null ? NO_NUMBERS : column.values,
                        count,
                        column == null ? 0 : column.largest);
            } else if (column != null) {
                if (column.hasBlanks) {
                    throw new UnsupportedParquetException("a column has blanks where it says that there are none");
                }
                into.add(slots, same, column.values, count, column.largest);
            }
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

    /** Finds the slots of the rows that have a number and count; those of the others are that of rows left out. */
    private void findCounting(@Nullable Filter where, @Nullable Numbers column, int count, int same) {
        for (int i = 0; i < count; i++) {
            boolean isOut = where != null && !where.holds(i) || column != null && column.blank[i];
            counting[i] = isOut ? layout.ofRowsLeftOut() : slots[i] + same;
        }
    }

    /** Adds what another thread has added up. */
    void add(PartialTotals other) {
        rows.add(other.rows);
        for (int t = 0; t < totals.size(); t++) {
            CountedSums into = totals.get(t);
            if (into != null && into != rows) {
                into.add(other.totals.get(t));
            }
        }
    }

    /** Returns how many rows a slot has. */
    long rows(int slot) {
        return rows.count(slot);
    }

    /** Returns how many rows each of some slots has. */
    long[] rows(int[] slots) {
        return rows.counts(slots);
    }

    /** Returns how many rows of each of some slots count for a total. */
    long[] counts(int total, int[] slots) {
        CountedSums counted = totals.get(total);
        return (counted == null ? rows : counted).counts(slots);
    }

    /** Returns the sums of some slots. */
    long[] sums(int total, int[] slots) {
        return totals.get(total).sums(slots);
    }
}
