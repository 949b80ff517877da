package dev.mile.fact;

import static java.util.Objects.requireNonNull;

import java.util.Optional;

/** How an amount of a period is dealt out to its days. */
public sealed interface Spread {
    /** Evenly over all days. */
    record Days() implements Spread {
        @Override
        public String toString() {
            return "days";
        }
    }

    /**
     * By the share of each day that is worked.
     *
     * @param week the working week; empty for the first of the model
     */
    record WorkingDays(Optional<String> week) implements Spread {
        public WorkingDays {
            requireNonNull(week, "week is null");
        }

        @Override
        public String toString() {
            return "working days" + week.map(name -> " of " + name).orElse("");
        }
    }

    /** By the amounts of another fact's column on the days one year back. */
    record Like(String fact, String column) implements Spread {
        public Like {
            requireNonNull(fact, "fact is null");
            requireNonNull(column, "column is null");
        }

        @Override
        public String toString() {
            return "like " + fact + "." + column;
        }
    }

    /** Evenly over all days. */
    Spread DAYS = new Days();

    /** By the working days of the first working week. */
    Spread WORKING_DAYS = new WorkingDays(Optional.empty());

    /**
     * {@return the spread by the working days of a working week}
     *
     * @param week the name of a working week
     */
    static Spread workingDays(String week) {
        return new WorkingDays(Optional.of(week));
    }

    /**
     * {@return the spread by the amounts of another fact's column, on the days one year back}
     *
     * @param fact the fact
     * @param column the column
     */
    static Spread like(String fact, String column) {
        return new Like(fact, column);
    }
}
