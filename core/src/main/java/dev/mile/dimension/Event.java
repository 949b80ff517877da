package dev.mile.dimension;

import static java.util.Objects.requireNonNull;

import dev.mile.Located;
import dev.mile.SourceLocation;
import dev.mile.calendar.DateRange;
import java.util.Optional;

/**
 * Something that lasts some days, such as a promotion.
 *
 * @param days its days
 * @param label how people read it
 * @param location where it is listed, for messages
 */
public record Event(DateRange days, String label, Optional<SourceLocation> location) implements Located {
    public Event {
        requireNonNull(days, "days is null");
        requireNonNull(label, "label is null");
        requireNonNull(location, "location is null");
    }

    /**
     * {@return an event that is listed in no file}
     *
     * @param days the days
     * @param label what people read
     */
    public static Event of(DateRange days, String label) {
        requireNonNull(days, "days is null");
        requireNonNull(label, "label is null");
        return new Event(days, label, Optional.empty());
    }

    /**
     * {@return the event with where it is listed}
     *
     * @param where its file, line and column
     */
    public Event withLocation(SourceLocation where) {
        requireNonNull(where, "where is null");
        return new Event(days, label, Optional.of(where));
    }

    /** Returns the event on other days. */
    Event withDays(DateRange other) {
        return new Event(other, label, location);
    }

    /** Returns the days and where they are listed: {@code 2026-03-01..2026-03-10, promotions.csv:2}. */
    String describeDays() {
        return days + location.map(where -> ", " + where).orElse("");
    }
}
