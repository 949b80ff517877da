package dev.mile.report;

import java.util.List;

/** Takes a report as it is computed, so that one longer than the memory can be written: the head, then every row, then the notes. */
public interface GridSink {
    /**
     * Takes what is known before the first row.
     *
     * @param head what is known before the first row
     */
    void header(Grid.Header head);

    /**
     * Takes the next row; subtotals come before their parts.
     *
     * @param row the row
     */
    void row(Grid.Row row);

    /**
     * Takes what a reader must know, in sentences.
     *
     * @param notes what a reader must know, in sentences
     */
    void notes(List<String> notes);
}
