package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.Level;
import dev.mile.calendar.MileException;
import dev.mile.span.Span;
import dev.mile.span.TimeFrame;

/** Which cells a report shows: those that begin in it. */
public sealed interface When {
    /** Returns the days. */
    DateRange days(TimeFrame frame);

    /** Two dates. */
    record Dates(DateRange days) implements When {
        @Override
        public DateRange days(TimeFrame frame) {
            return days;
        }
    }

    /** A span on the as-of day. */
    record OnAsOf(Span span) implements When {
        @Override
        public DateRange days(TimeFrame frame) {
            return span.resolve(DateRange.ofDays(frame.asOf(), frame.asOf()), frame);
        }
    }

    /** The label of a period, in the report's calendar or, failing that, in another of the model. */
    record Labelled(String label) implements When {
        @Override
        public DateRange days(TimeFrame frame) {
            return frame.calendarOf("")
                    .parse(label)
                    .or(() -> frame.calendars().values().stream()
                            .flatMap(c -> c.parse(label).stream())
                            .findFirst())
                    .orElseThrow(() -> MileException.model(
                            "'%s' is not a period of the calendar '%s', whose years read like '%s'; give a label, two dates"
                                    + " (2026-04-01..2026-06-30) or a span (year to date)",
                            label,
                            frame.calendar(),
                            frame.calendarOf("")
                                    .label(Level.YEAR, frame.calendarOf("").ordinal(Level.YEAR, frame.asOf()))))
                    .range();
        }
    }
}
