package dev.mile.dimension;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.MileException;
import dev.mile.calendar.Texts;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;

/** One event column: on each day the label of the one event that holds it, or blank. */
public final class Events {
    private final String name;
    private final TreeMap<Integer, EventSpan> byStart = new TreeMap<>();

    private Events(String name) {
        this.name = name;
    }

    /**
     * Returns the events, none of which may share a day.
     *
     * @throws MileException that names both, where two overlap
     */
    public static Events of(String name, List<EventSpan> spans) {
        return build(name, spans, false);
    }

    /** Returns the events; where two share a day, it belongs to the one that stands first in the list. */
    public static Events keepingFirst(String name, List<EventSpan> spans) {
        return build(name, spans, true);
    }

    private static Events build(String name, List<EventSpan> spans, boolean keepFirst) {
        Events events = new Events(name);
        if (keepFirst) {
            spans.forEach(span ->
                    events.fill(span, span.days().firstDay(), span.days().lastDay()));
            return events;
        }
        List<EventSpan> sorted = new ArrayList<>(spans);
        sorted.sort(Comparator.comparingInt(s -> s.days().firstDay()));
        EventSpan previous = null;
        for (EventSpan span : sorted) {
            if (previous != null && span.days().firstDay() <= previous.days().lastDay()) {
                throw MileException.model(
                        "the %s '%s' (%s, %s) and '%s' (%s, %s) share days; end one before the other begins, or say"
                                + " `overlap: keep first`",
                        name,
                        previous.label(),
                        previous.days(),
                        previous.place(),
                        span.label(),
                        span.days(),
                        span.place());
            }
            events.byStart.put(span.days().firstDay(), span);
            previous = span;
        }
        return events;
    }

    /** Puts the parts of the stretch that are still free. */
    private void fill(EventSpan span, int first, int last) {
        int at = first;
        while (at <= last) {
            Map.Entry<Integer, EventSpan> taken = byStart.floorEntry(at);
            if (taken != null && taken.getValue().days().contains(at)) {
                at = taken.getValue().days().lastDay() + 1;
                continue;
            }
            Integer next = byStart.higherKey(at);
            int end = next == null ? last : Math.min(last, next - 1);
            byStart.put(at, new EventSpan(DateRange.ofDays(at, end), span.label(), span.place()));
            at = end + 1;
        }
    }

    /** Returns the name of the column. */
    public String name() {
        return name;
    }

    /** Tells whether the other is a column of the same name with the same events on the same days. */
    @Override
    public boolean equals(Object other) {
        return other instanceof Events events && events.name.equals(name) && events.byStart.equals(byStart);
    }

    @Override
    public int hashCode() {
        return Objects.hash(name, byStart);
    }

    /** Returns the name and the number of events. */
    @Override
    public String toString() {
        return name + " (" + Texts.count(byStart.size(), "event") + ")";
    }

    /** Returns the label on the day, or null. */
    public String label(int day) {
        Map.Entry<Integer, EventSpan> entry = byStart.floorEntry(day);
        return entry != null && entry.getValue().days().contains(day)
                ? entry.getValue().label()
                : null;
    }
}
