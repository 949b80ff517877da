package dev.mile.report;

import dev.mile.fact.Comparisons;
import dev.mile.fact.GroupTotals;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;

/**
 * Reads several passes side by side, each sorted by its first grouping column, and puts the groups of one member after the other
 * into the store.
 */
final class UnitReader implements AutoCloseable {
    private final SeriesStore store;
    private final Runnable begun;
    private final List<Integer> passes;
    private final List<PassReader> readers = new ArrayList<>();
    private final List<GroupTotals> ahead = new ArrayList<>();

    /**
     * Returns a reader.
     *
     * @param begun is told when the groups of another member begin
     */
    UnitReader(SeriesStore store, List<Integer> passes, List<PassReader> readers, Runnable begun) {
        this.store = store;
        this.passes = passes;
        this.readers.addAll(readers);
        this.begun = begun;
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

    @Override
    public void close() {
        readers.forEach(PassReader::close);
    }
}
