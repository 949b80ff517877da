package dev.mile.report;

import dev.mile.engine.Comparisons;
import dev.mile.engine.GroupTotals;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.DoubleConsumer;

/**
 * Reads several passes side by side, each sorted by its first grouping column, and puts the groups of one member after the other
 * into the store.
 */
final class UnitReader implements AutoCloseable {
    /** Members after which somebody is told how far reading is. */
    private static final int TOLD = 256;

    private final SeriesStore store;
    private final Runnable begun;
    private final DoubleConsumer listener;
    private int members;
    private final List<Integer> passes;
    private final List<PassReader> readers = new ArrayList<>();
    private final List<GroupTotals> ahead = new ArrayList<>();

    /**
     * Returns a reader.
     *
     * @param begun is told when the groups of another member begin
     * @param listener is told now and then which share of the groups has been read, and 1 at the end
     */
    UnitReader(
            SeriesStore store,
            List<Integer> passes,
            List<PassReader> readers,
            Runnable begun,
            DoubleConsumer listener) {
        this.store = store;
        this.passes = passes;
        this.readers.addAll(readers);
        this.begun = begun;
        this.listener = listener;
        readers.forEach(reader -> ahead.add(reader.next()));
    }

    /** Puts the groups of the next member into the store; tells false where there is none. */
    boolean next() {
        GroupTotals first = null;
        for (GroupTotals group : ahead) {
            if (group != null
                    && (first == null
                            || Comparisons.BY_CODE_POINT.compare(group.members()[0], first.members()[0]) < 0)) {
                first = group;
            }
        }
        if (first == null) {
            return false;
        }
        begun.run();
        if (++members % TOLD == 0) {
            tell();
        }
        String member = first.members()[0];
        for (int p = 0; p < passes.size(); p++) {
            store.begin(passes.get(p));
            while (ahead.get(p) != null && Objects.equals(ahead.get(p).members()[0], member)) {
                store.add(passes.get(p), ahead.get(p));
                ahead.set(p, readers.get(p).next());
            }
        }
        return true;
    }

    private void tell() {
        double share = readers.stream().mapToDouble(PassReader::share).average().orElse(Double.NaN);
        if (share > 0 && share < 1) {
            listener.accept(share);
        }
    }

    @Override
    public void close() {
        listener.accept(1);
        readers.forEach(PassReader::close);
    }
}
