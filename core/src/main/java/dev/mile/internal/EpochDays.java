package dev.mile.internal;

import dev.mile.ModelException;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeParseException;
import java.util.Optional;

/** Conversions between dates and epoch days. */
public final class EpochDays {
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
            return Optional.of(
                    text.length() == BASIC_LENGTH
                            ? LocalDate.parse(text, DateTimeFormatter.BASIC_ISO_DATE)
                            : LocalDate.parse(text));
        } catch (DateTimeParseException e) {
            return Optional.empty();
        }
    }
}
