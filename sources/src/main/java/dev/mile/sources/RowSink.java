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
     * @param values a value for each column, as the file has it
     * @param line the line on which it begins, from 1
     */
    void row(List<String> values, long line);

    /**
     * Takes a line that is no row.
     *
     * @param line the line, from 1
     * @param why what is wrong with it
     */
    void rejected(long line, String why);

    /**
     * Takes how many rows stand behind the end of the table; the last that is said of a file, and only where the format says where
     * tables end.
     *
     * @param rows how many
     */
    void behind(long rows);
}
