package dev.mile.internal;

import dev.mile.ModelException;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Optional;

/** Conversions between dates and epoch days. */
public final class EpochDays {
    private static final String PLAIN = "0000-00-00";
    private static final int BASIC_LENGTH = 8;
    private static final int MAX_YEAR = 999_999;

    private EpochDays() {}

    /**
     * Returns the epoch day of the date.
     *
     * @throws ModelException if its year has more than six digits
     */
    public static int of(LocalDate date) {
        if (Math.abs(date.getYear()) > MAX_YEAR) {
            throw ModelException.of("the date %s is outside the days that Mile knows; years have four digits", date);
        }
        return Math.toIntExact(date.toEpochDay());
    }

    /** Returns the date of the epoch day. */
    public static LocalDate toDate(int day) {
        return LocalDate.ofEpochDay(day);
    }

    /** Returns the weekday of the epoch day; day 0 was a Thursday. */
    public static DayOfWeek weekday(int day) {
        return DayOfWeek.of(Math.floorMod(day + 3, 7) + 1);
    }

    /** Returns the ISO 8601 date of the text, extended ({@code 2026-04-01}) or basic ({@code 20260401}), or nothing where it is not one. */
    public static Optional<LocalDate> parse(String text) {
        if (text.isEmpty() || "+-0123456789".indexOf(text.charAt(0)) < 0) {
            // an error takes a hundred times as long
            return Optional.empty();
        }
        try {
            if (isPlain(text)) {
                // Java's formatter takes a hundredth of a second when it is first used
                return Optional.of(LocalDate.of(number(text, 0, 4), number(text, 5, 7), number(text, 8, 10)));
            }
            return Optional.of(
                    text.length() == BASIC_LENGTH
                            ? LocalDate.parse(text, DateTimeFormatter.BASIC_ISO_DATE)
                            : LocalDate.parse(text));
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }

    /** Returns whether the text is of four digits, two and two, with hyphens between. */
    private static boolean isPlain(String text) {
        if (text.length() != PLAIN.length()) {
            return false;
        }
        for (int i = 0; i < PLAIN.length(); i++) {
            char c = text.charAt(i);
            if (PLAIN.charAt(i) == '-' ? c != '-' : c < '0' || c > '9') {
                return false;
            }
        }
        return true;
    }

    private static int number(String text, int from, int to) {
        return Integer.parseInt(text, from, to, 10);
    }
}
