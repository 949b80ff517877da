package dev.mile.report;

import dev.mile.calendar.DateRange;
import dev.mile.span.Span;
import dev.mile.span.SpanContext;

/** Which days a report shows: these and no others; a cell that reaches beyond them is cut to them. */
public sealed interface When {
    /**
     * {@return the days}
     *
     * @param spans the calendars, the as-of date and the range of the date dimension
     * @throws dev.mile.MileException if no calendar has a period of the label
     */
    DateRange resolve(SpanContext spans);

    /** Two dates and the days between. */
    record Dates(DateRange range) implements When {
        @Override
        public DateRange resolve(SpanContext spans) {
            return range;
        }
    }

    /** A span on the as-of day. */
    record OnAsOf(Span span) implements When {
        @Override
        public DateRange resolve(SpanContext spans) {
            return span.resolve(DateRange.ofEpochDays(spans.asOf(), spans.asOf()), spans);
        }
    }

    /** The label of a period, in the report's calendar or, failing that, in another of the model. */
    record Labelled(String label) implements When {
        @Override
        public DateRange resolve(SpanContext spans) {
            return spans.period(label).range();
        }
    }
}
