package dev.mile.sources;

import java.util.List;

/** Takes the rows of a file. */
public interface RowSink {
    /**
     * Begins a file.
     *
     * @param names the names of its columns
     */
    void columns(List<String> names);

    /**
     * Takes a row.
     *
     * @param row the row, with a value for each column
     */
    void row(SourceRow row);

    /**
     * Takes a line that is no row; does nothing unless overridden, for those who look for something else.
     *
     * @param place where it is, such as {@code sales.csv:17}
     * @param why what is wrong with it
     */
    default void rejected(String place, String why) {}

    /**
     * Takes how many rows come after the end of the table; the last that is said of a file, and only where the format says where
     * tables end. Does nothing unless overridden.
     *
     * @param rows how many
     */
    default void afterEnd(long rows) {}
}
