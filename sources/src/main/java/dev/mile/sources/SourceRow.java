package dev.mile.sources;

/** A row of a file. Immutable. */
public interface SourceRow {
    /** {@return how many values it has: as many as there are names, in workbooks as many as its last filled cell tells} */
    int size();

    /**
     * {@return the value of a column as the file has it; an empty text for none}
     *
     * @param column the column, from 0
     */
    String value(int column);

    /**
     * {@return whether the file itself says that the value is a number, a date or a truth value; it is then written as 1234.56, as ISO
     *     8601 has it, or as true or false}
     *
     * @param column the column, from 0
     */
    boolean isTyped(int column);

    /**
     * {@return where the value stands, for messages: {@code sales.csv:17}, {@code sales.xlsx, Orders!D17}}
     *
     * @param column the column, from 0
     */
    String place(int column);
}
