package dev.mile.report;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;

/** Collects a report as it comes, and makes a grid of it. Not for use by several threads. */
public final class GridCollector implements GridSink {
    private Grid.Header header = new Grid.Header("", List.of(), List.of(), Optional.empty(), Optional.empty());
    private final List<Grid.Row> rows = new ArrayList<>();
    private List<String> notes = List.of();

    /** Returns a collector that has nothing yet. */
    public GridCollector() {}

    @Override
    public void header(Grid.Header known) {
        header = known;
    }

    @Override
    public void row(Grid.Row row) {
        rows.add(row);
    }

    @Override
    public void notes(List<String> sentences) {
        notes = sentences;
    }

    /** {@return what has come} */
    public Grid grid() {
        return new Grid(header, rows, notes);
    }
}
