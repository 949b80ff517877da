package dev.mile.model;

import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Dates as RFC 5545 writes them: {@code 20261225}, or with a time of the day, {@code 20261225T100000Z}. */
final class ICalendarDate {
    private static final Pattern DATE =
            Pattern.compile("([0-9]{4})([0-9]{2})([0-9]{2})(T([0-9]{2})([0-9]{2})([0-9]{2})Z?)?");

    private ICalendarDate() {}

    /** Returns the day of the text; empty where it is no date of the calendar, or no time of a day. */
    static Optional<LocalDate> day(String text) {
        Matcher date = DATE.matcher(text);
        if (!date.matches()) {
            return Optional.empty();
        }
        // a minute may have a leap second
        if (date.group(4) != null && (number(date, 5) > 23 || number(date, 6) > 59 || number(date, 7) > 60)) {
            return Optional.empty();
        }
        try {
            return Optional.of(LocalDate.of(number(date, 1), number(date, 2), number(date, 3)));
        } catch (DateTimeException e) {
            return Optional.empty();
        }
    }

    private static int number(Matcher date, int group) {
        return Integer.parseInt(date.group(group));
    }
}
