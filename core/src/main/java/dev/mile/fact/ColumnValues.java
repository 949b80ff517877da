package dev.mile.fact;

import org.jspecify.annotations.Nullable;

/** The values of a column of a {@link Table}; rows are numbered from 0. */
public sealed interface ColumnValues {
    /**
     * Texts, coded by a dictionary.
     *
     * @param codes for each row an index into the dictionary; -1 for a blank
     * @param dictionary the texts
     */
    record Texts(WholeNumbers codes, String[] dictionary) implements ColumnValues {
        /**
         * {@return the code of a row; -1 for a blank}
         *
         * @param row the row
         */
        public int code(int row) {
            return (int) codes.get(row);
        }

        /**
         * {@return the text of a row; null for a blank}
         *
         * @param row the row
         */
        public @Nullable String text(int row) {
            int code = code(row);
            return code < 0 ? null : dictionary[code];
        }
    }

    /**
     * Exact decimals.
     *
     * @param unscaled the unscaled value of each row; 0 for a blank
     * @param scale how many digits each has after the decimal point
     * @param blank which rows are blank; null where none is
     */
    record Decimals(WholeNumbers unscaled, int scale, boolean @Nullable [] blank) implements ColumnValues {
        /**
         * {@return whether a row has no number}
         *
         * @param row the row
         */
        public boolean isBlank(int row) {
            return blank != null && blank[row];
        }
    }

    /** Binary floating numbers; NaN is a blank. */
    record Doubles(double[] values) implements ColumnValues {}

    /** Epoch days. */
    final class Dates implements ColumnValues {
        private final int first;
        private final int last;

        /** Epoch days; one less than the first stands for a date that cannot be read, two less for a blank. */
        private final WholeNumbers numbers;

        private Dates(int first, int last, WholeNumbers numbers) {
            this.first = first;
            this.last = last;
            this.numbers = numbers;
        }

        /**
         * {@return a column of dates}
         *
         * @param days the epoch day of each row, {@link Table#NO_DATE} or {@link Table#UNREADABLE}
         */
        public static Dates of(int[] days) {
            WholeNumbers all = WholeNumbers.of(days);
            if (all.smallest() > Table.UNREADABLE && days.length > 0) {
                return new Dates((int) all.smallest(), (int) all.largest(), all);
            }
            int first = Integer.MAX_VALUE;
            for (int day : days) {
                first = day > Table.UNREADABLE ? Math.min(first, day) : first;
            }
            int[] numbers = days.clone();
            for (int row = 0; row < numbers.length; row++) {
                numbers[row] =
                        days[row] == Table.NO_DATE ? first - 2 : days[row] == Table.UNREADABLE ? first - 1 : days[row];
            }
            return new Dates(
                    first, days.length == 0 ? Table.UNREADABLE : (int) all.largest(), WholeNumbers.of(numbers));
        }

        /** {@return how many rows there are} */
        public int size() {
            return numbers.size();
        }

        /** {@return whether each row has a date that can be read} */
        public boolean isFull() {
            return numbers.smallest() >= first;
        }

        /** {@return the first day; after the last where no row has one} */
        public int first() {
            return first;
        }

        /** {@return the last day} */
        public int last() {
            return last;
        }

        /**
         * {@return the day of a row, {@link Table#NO_DATE} or {@link Table#UNREADABLE}}
         *
         * @param row the row
         */
        public int day(int row) {
            return ofNumber((int) numbers.get(row));
        }

        private int ofNumber(int number) {
            return number >= first ? number : number == first - 1 ? Table.UNREADABLE : Table.NO_DATE;
        }

        /**
         * Reads the days of rows that follow one another, {@link Table#NO_DATE} or {@link Table#UNREADABLE}.
         *
         * @param from the first row
         * @param n how many
         * @param into where the first of them is put at 0
         */
        public void read(int from, int n, int[] into) {
            numbers.read(from, n, into);
            for (int i = 0; i < n && !isFull(); i++) {
                into[i] = ofNumber(into[i]);
            }
        }
    }

    /** Blanks only. */
    record Blanks() implements ColumnValues {}
}
