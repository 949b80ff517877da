package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

import java.util.Locale;
import java.util.Optional;

/** The levels of a fiscal calendar, coarsest first. A calendar need not have them all. */
public enum Level {
    /** The year of a calendar, 12 or 13 periods, or weeks alone. */
    YEAR("year", "years"),
    /** Six periods; calendars of 13 periods and listed ones have none. */
    HALF("half", "halves"),
    /** Three periods; in calendars of 13 the last has four. */
    QUARTER("quarter", "quarters"),
    /** A fiscal month. */
    PERIOD("month", "months"),
    /** Seven days; in month-based calendars cut at the ends of the year. */
    WEEK("week", "weeks"),
    /** One day. */
    DAY("day", "days");

    private final String word;
    private final String plural;

    Level(String word, String plural) {
        this.word = word;
        this.plural = plural;
    }

    /** {@return the word of the model file: {@code year}, {@code half}, {@code quarter}, {@code month}, {@code week}, {@code day}} */
    public String word() {
        return word;
    }

    /** {@return the word for several: {@code years}, {@code halves} ..} */
    public String plural() {
        return plural;
    }

    /** {@return the word of column names, where a month of a fiscal calendar is a {@code period}} */
    public String columnWord() {
        return this == PERIOD ? "period" : word;
    }

    /** {@return the plural of column names: {@code fiscal_periods_from_as_of}} */
    public String columnPlural() {
        return this == PERIOD ? "periods" : plural;
    }

    /**
     * {@return the level of a word in the singular or plural; {@code period} is accepted for {@code month}}
     *
     * @param text the text
     */
    public static Optional<Level> parse(String text) {
        requireNonNull(text, "text is null");
        String word = text.toLowerCase(Locale.ROOT);
        if (word.equals("period") || word.equals("periods")) {
            return Optional.of(PERIOD);
        }
        for (Level level : values()) {
            if (word.equals(level.word) || word.equals(level.plural)) {
                return Optional.of(level);
            }
        }
        return Optional.empty();
    }

    /**
     * {@return whether this level holds the other: a year is coarser than a day}
     *
     * @param other the other
     */
    public boolean isCoarserThan(Level other) {
        requireNonNull(other, "other is null");
        return ordinal() < other.ordinal();
    }
}
