package dev.mile.internal;

import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.Optional;

/** Conversions between dates and epoch days. */
public final class EpochDays {
    private EpochDays() {}

    /** Returns the epoch day of the date. */
    public static int of(LocalDate date) {
        return Math.toIntExact(date.toEpochDay());
    }

    /** Returns the date of the epoch day. */
    public static LocalDate toDate(int day) {
        return LocalDate.ofEpochDay(day);
    }

    /** Returns the ISO 8601 date of the text, or nothing where it is not one. */
    public static Optional<LocalDate> parse(String text) {
        try {
            return Optional.of(LocalDate.parse(text));
        } catch (DateTimeParseException e) {
            return Optional.empty();
        }
    }
}
