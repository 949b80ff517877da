package dev.mile.testkit;

import dev.mile.calendar.DateRange;
import dev.mile.span.Span;
import java.math.BigDecimal;
import java.util.Map;
import java.util.function.IntFunction;

/**
 * What the reference evaluator knows of days.
 *
 * @param calendars the calendars by name; {@code c} is the default
 * @param worked the share of a day that is worked
 * @param asOf the as-of date as an epoch day
 * @param dimension the days of the date dimension
 */
record ReferenceDays(
        Map<String, ReferenceCalendar> calendars, IntFunction<BigDecimal> worked, int asOf, DateRange dimension) {
    ReferenceCalendar calendar() {
        return calendars.get("c");
    }

    BigDecimal workedShare(int day) {
        return worked.apply(day);
    }

    DateRange resolve(Span span, DateRange window) {
        return ReferenceCalendar.resolve(span, window, calendars, asOf, dimension);
    }
}
