package dev.mile.render.layout;

import dev.mile.ModelException;

/** Refuses reports of more columns than anybody could look at; data files have no such limit. */
public final class ColumnLimit {
    /** The most columns that a page or a terminal shows. */
    public static final int SHOWN = 1_000;

    /** The most columns of a sheet, which spreadsheets open without a pause. */
    public static final int OF_A_SHEET = 4_000;

    private ColumnLimit() {}

    /**
     * Requires that a report has no more columns than may be.
     *
     * @param what what would show them: {@code a page}
     * @throws dev.mile.MileException if it has more
     */
    public static void require(int columns, int most, String what) {
        if (columns > most) {
            throw ModelException.of(
                    "the report has %,d columns, and %s shows at most %,d: put the dimension into the rows, or write data (-o report.csv)",
                    columns, what, most);
        }
    }
}
