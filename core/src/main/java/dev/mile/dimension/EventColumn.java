package dev.mile.dimension;

import static java.util.Objects.requireNonNull;

import dev.mile.MileException;
import dev.mile.ModelException;
import dev.mile.calendar.DateRange;
import dev.mile.internal.EpochDays;
import dev.mile.internal.Messages;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** One event column: on each day the label of the one event that holds it, or blank. */
public final class EventColumn {
    private final String name;
    private final TreeMap<Integer, Event> byStart = new TreeMap<>();

    private EventColumn(String name) {
        this.name = name;
    }

    /**
     * {@return the events, none of which may share a day}
     *
     * @param name the name
     * @param spans the events
     * @throws MileException that names both, where two overlap
     */
    public static EventColumn of(String name, List<Event> spans) {
        requireNonNull(name, "name is null");
        requireNonNull(spans, "spans is null");
        return build(name, spans, false);
    }

    /**
     * {@return the events; where two share a day, it belongs to the first in the list}
     *
     * @param name the name
     * @param spans the events
     */
    public static EventColumn ofOverlapping(String name, List<Event> spans) {
        requireNonNull(name, "name is null");
        requireNonNull(spans, "spans is null");
        return build(name, spans, true);
    }

    private static EventColumn build(String name, List<Event> spans, boolean keepFirst) {
        EventColumn events = new EventColumn(name);
        if (keepFirst) {
            spans.forEach(span ->
                    events.fill(span, span.days().firstEpochDay(), span.days().lastEpochDay()));
            return events;
        }
        List<Event> sorted = new ArrayList<>(spans);
        sorted.sort(Comparator.comparingInt(s -> s.days().firstEpochDay()));
        Event previous = null;
        for (Event span : sorted) {
            if (previous != null
                    && span.days().firstEpochDay() <= previous.days().lastEpochDay()) {
                String both = Messages.format(
                        "the %s '%s' (%s) and '%s' (%s) share days; end one before the other begins",
                        name, previous.label(), previous.describeDays(), span.label(), span.describeDays());
                throw ModelException.of("%s", both).withModelWords("%s, or say `overlap: keep first`", both);
            }
            events.byStart.put(span.days().firstEpochDay(), span);
            previous = span;
        }
        return events;
    }

    /** Adds the event on those of its days that no other has. */
    private void fill(Event span, int first, int last) {
        int at = first;
        while (at <= last) {
            Map.Entry<Integer, Event> taken = byStart.floorEntry(at);
            if (taken != null && taken.getValue().days().contains(at)) {
                at = taken.getValue().days().lastEpochDay() + 1;
                continue;
            }
            Integer next = byStart.higherKey(at);
            int end = next == null ? last : Math.min(last, next - 1);
            byStart.put(at, span.withDays(DateRange.ofEpochDays(at, end)));
            at = end + 1;
        }
    }

    /** {@return the name of the column} */
    public String name() {
        return name;
    }

    /** Returns whether the other is a column of the same name with the same events on the same days. */
    @Override
    public boolean equals(Object other) {
        return other instanceof EventColumn events && events.name.equals(name) && events.byStart.equals(byStart);
    }

    @Override
    public int hashCode() {
        return Objects.hash(name, byStart);
    }

    /** Returns the name and the number of events. */
    @Override
    public String toString() {
        return name + " (" + Messages.quantity(byStart.size(), "event") + ")";
    }

    /**
     * {@return the label on the day; empty where it has none}
     *
     * @param day the day
     */
    public Optional<String> label(LocalDate day) {
        requireNonNull(day, "day is null");
        return Optional.ofNullable(label(EpochDays.of(day)));
    }

    /**
     * {@return the label on the day, or null}
     *
     * @param epochDay the day, as days since 1970-01-01
     */
    public @Nullable String label(int epochDay) {
        Map.Entry<Integer, Event> entry = byStart.floorEntry(epochDay);
        return entry != null && entry.getValue().days().contains(epochDay)
                ? entry.getValue().label()
                : null;
    }
}
