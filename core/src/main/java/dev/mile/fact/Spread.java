package dev.mile.fact;

/**
 * How an amount of a period is dealt out to its days.
 *
 * @param kind by what
 * @param name the working week for {@link Kind#WORKING_DAYS} (empty for the first); the fact for {@link Kind#LIKE}
 * @param column the column of the fact for {@link Kind#LIKE}; else empty
 */
public record Spread(Kind kind, String name, String column) {
    /** Evenly over all days. */
    public static final Spread DAYS = new Spread(Kind.DAYS, "", "");

    /** Evenly over the working days of the first working week. */
    public static final Spread WORKING_DAYS = new Spread(Kind.WORKING_DAYS, "", "");

    /** By what days are weighed. */
    public enum Kind {
        /** All days alike. */
        DAYS,
        /** Days by the share of them that is worked. */
        WORKING_DAYS,
        /** Days by the amounts of another fact one year back. */
        LIKE
    }

    /** Returns the spread like another fact's column, on the days one year back. */
    public static Spread like(String fact, String column) {
        return new Spread(Kind.LIKE, fact, column);
    }

    @Override
    public String toString() {
        return switch (kind) {
            case DAYS -> "days";
            case WORKING_DAYS -> "working days" + (name.isEmpty() ? "" : " of " + name);
            case LIKE -> "like " + name + "." + column;
        };
    }
}
