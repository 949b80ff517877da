package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.span.Span;
import dev.mile.span.SpanContext;

/** Which cells a report shows: those that begin in it. */
public sealed interface When {
    /** Returns the days. */
    DateRange resolve(SpanContext frame);

    /** Two dates. */
    record Dates(DateRange days) implements When {
        @Override
        public DateRange resolve(SpanContext frame) {
            return days;
        }
    }

    /** A span on the as-of day. */
    record OnAsOf(Span span) implements When {
        @Override
        public DateRange resolve(SpanContext frame) {
            return span.resolve(DateRange.ofEpochDays(frame.asOf(), frame.asOf()), frame);
        }
    }

    /** The label of a period, in the report's calendar or, failing that, in another of the model. */
    record Labelled(String label) implements When {
        @Override
        public DateRange resolve(SpanContext frame) {
            return frame.period(label).range();
        }
    }
}
