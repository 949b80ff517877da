package dev.mile.calendar;

import static java.util.Objects.requireNonNull;

import java.time.LocalDate;

/**
 * One line of a listed calendar.
 *
 * @param end the period's last day
 * @param year the number of its year
 * @param period its number within the year, from 1
 * @param quarter its quarter, from 1; 0 where the list has no quarters
 * @param place where the line stands, for messages: {@code period_ends.csv:7}
 */
public record PeriodEnd(LocalDate end, int year, int period, int quarter, String place) {
    public PeriodEnd {
        requireNonNull(end, "end is null");
        requireNonNull(place, "place is null");
    }
}
