package dev.mile.cli;

import dev.mile.report.Grid;
import dev.mile.report.GridSink;
import java.util.List;

/** Passes a report on, and keeps its notes for standard error: for files that have no room for them. */
record NotesAside(GridSink sink, List<String> kept) implements GridSink {
    @Override
    public void header(Grid.Header header) {
        sink.header(header);
    }

    @Override
    public void row(Grid.Row row) {
        sink.row(row);
    }

    @Override
    public void notes(List<String> notes) {
        kept.addAll(notes);
        sink.notes(notes);
    }
}
