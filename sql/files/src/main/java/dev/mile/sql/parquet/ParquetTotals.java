package dev.mile.sql.parquet;

import dev.mile.StoppedException;
import dev.mile.engine.TotalsCursor;
import java.io.IOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.DoubleConsumer;

/** Adds up the rows of Parquet files: first what members there are, then all rows, by each thread on its own. */
public final class ParquetTotals {
    /** The totals of all threads, of 8 bytes each, or 24 where they are large: 100 MB. */
    private static final int MOST_TOTALS = 1 << 22;

    private ParquetTotals() {}

    /**
     * Returns the totals of a question; empty if the files have something that is not read here.
     *
     * @param threads how many may read, at least 1
     * @param progress is told which fraction is done, where it takes long
     * @throws StoppedException if the thread is interrupted
     */
    public static Optional<TotalsCursor> of(ParquetQuestion question, int threads, Optional<DoubleConsumer> progress) {
        try (ParquetSource source = ParquetSource.open(question)) {
            SlotLayout layout = new SlotLayout(question, source, threads);
            Map<TextCondition, TruthTable> tables = new LinkedHashMap<>();
            for (TextCondition condition : question.conditions()) {
                tables.put(condition, new TruthTable(condition, source, threads));
            }
            List<PartialTotals> ofThreads = new ArrayList<>();
            RowGroupPass.over(
                    source.rowGroups(),
                    Math.max(1, Math.min(threads, MOST_TOTALS / layout.totals())),
                    () -> {
                        ofThreads.add(new PartialTotals(question, layout, tables));
                        return ofThreads.get(ofThreads.size() - 1);
                    },
                    progress);
            PartialTotals all = new PartialTotals(question, layout, tables);
            ofThreads.forEach(all::add);
            return Optional.of(new SlotCursor(question, layout, all));
        } catch (StoppedException e) {
            throw e;
        } catch (IOException | RuntimeException e) {
            // channels close when their thread is interrupted
            StoppedException.throwIfInterrupted(Thread.currentThread());
            // the database reads it, or says what is wrong with it
            return Optional.empty();
        }
    }
}
