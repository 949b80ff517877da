package dev.mile.engine;

import dev.mile.calendar.DateRange;
import dev.mile.fact.Table;
import java.math.BigDecimal;
import java.util.Map;

/**
 * What became of the rows of a fact in one date role; the parts add up to the rows kept.
 *
 * @param role the role
 * @param outcomes by what became of them
 * @param unreadable an example of a date that cannot be read, in quotes, with what is known of it; empty if there is none
 */
public record RoleAccounts(String role, Map<RowOutcome, Account> outcomes, String unreadable) {
    /** What may become of a row. */
    public enum RowOutcome {
        /** Rows with a day in the date dimension. */
        PLACED("placed"),
        /** Rows of a fact that is not a plan, with a day in the date dimension after the as-of date: they never count. */
        AFTER_AS_OF("after the as-of date"),
        /** Rows whose date is blank. */
        NO_DATE("without a date"),
        /** Rows with something else where a date should be. */
        UNREADABLE("with a date that can't be read"),
        /** Rows with a day before or after the date dimension. */
        OUTSIDE("outside the date dimension");

        private final String describe;

        RowOutcome(String words) {
            this.describe = words;
        }

        /**
         * {@return the outcome of a row on the epoch day, {@link Table#NO_DATE} or {@link Table#UNREADABLE}}
         *
         * @param day the epoch day
         * @param placed the days of the date dimension
         */
        public static RowOutcome of(int day, DateRange placed) {
            if (day == Table.NO_DATE) {
                return NO_DATE;
            }
            if (day == Table.UNREADABLE) {
                return UNREADABLE;
            }
            return placed.contains(day) ? PLACED : OUTSIDE;
        }

        /**
         * {@return the outcome of a row in accounts, which tell the rows after the as-of date from those that count}
         *
         * @param day the epoch day
         * @param placed the days of the date dimension
         * @param lastThatCounts the as-of date; for plans the last day of the dimension
         */
        public static RowOutcome of(int day, DateRange placed, int lastThatCounts) {
            RowOutcome outcome = of(day, placed);
            return outcome == PLACED && day > lastThatCounts ? AFTER_AS_OF : outcome;
        }

        /** {@return how people read it} */
        public String describe() {
            return describe;
        }
    }

    /** {@return the rows of all outcomes: those that the fact keeps} */
    public long rows() {
        return outcomes.values().stream().mapToLong(Account::rows).sum();
    }

    /**
     * Rows and their amounts.
     *
     * @param rows how many
     * @param amounts the sums of the amount columns asked for, in order; null where no row has one
     */
    public record Account(long rows, BigDecimal[] amounts) {}
}
