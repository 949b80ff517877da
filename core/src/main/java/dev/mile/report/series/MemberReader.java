package dev.mile.report.series;

import dev.mile.engine.Comparisons;
import dev.mile.engine.GroupTotals;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.DoubleConsumer;

/**
 * Reads several requests side by side, each sorted by its first grouping column, and puts the groups of one member after the other
 * into a store. Closing it closes the requests.
 */
public final class MemberReader implements AutoCloseable {
    /** Members between two reports of progress. */
    private static final int PROGRESS_EVERY = 256;

    private final SeriesStore store;
    private final List<Integer> requests;
    private final List<TotalsReader> readers;
    private final List<GroupTotals> ahead = new ArrayList<>();
    private final DoubleConsumer progress;
    private int members;

    /**
     * Returns a reader.
     *
     * @param readers the reader of each request
     * @param progress receives the fraction of groups read, from time to time, and 1 at the end
     */
    public MemberReader(SeriesStore store, Map<Integer, TotalsReader> readers, DoubleConsumer progress) {
        this.store = store;
        this.requests = List.copyOf(readers.keySet());
        this.readers = requests.stream().map(readers::get).toList();
        this.progress = progress;
        this.readers.forEach(reader -> ahead.add(reader.next()));
    }

    /** Puts the groups of the next member into the store in place of those before; false if there is none. */
    public boolean next() {
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
        if (++members % PROGRESS_EVERY == 0) {
            notifyProgress();
        }
        String member = first.members()[0];
        for (int r = 0; r < requests.size(); r++) {
            store.reset(requests.get(r));
            while (ahead.get(r) != null && Objects.equals(ahead.get(r).members()[0], member)) {
                store.add(requests.get(r), ahead.get(r));
                ahead.set(r, readers.get(r).next());
            }
        }
        return true;
    }

    private void notifyProgress() {
        double fraction =
                readers.stream().mapToDouble(TotalsReader::progress).average().orElse(Double.NaN);
        if (fraction > 0 && fraction < 1) {
            progress.accept(fraction);
        }
    }

    @Override
    public void close() {
        progress.accept(1);
        readers.forEach(TotalsReader::close);
    }
}
