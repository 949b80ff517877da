package dev.mile.dimension;

import static java.util.Objects.requireNonNull;

import dev.mile.calendar.DateRange;

/**
 * A stretch of days with a label: {@code 2026-03-01..2026-03-14 Bulb week}.
 *
 * @param days first and last day
 * @param label what the days are called
 * @param place where it stands, for messages
 */
public record Event(DateRange days, String label, String place) {
    public Event {
        requireNonNull(days, "days is null");
        requireNonNull(label, "label is null");
        requireNonNull(place, "place is null");
    }
}
