package dev.mile.dimension;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.internal.EpochDays;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;

class DateDimensionTest {
    @Test
    void eventsThatShareDaysAreTheFirstsWhereSaid() {
        List<Event> spans = List.of(
                span("2026-03-10", "2026-03-12", "B"),
                span("2026-03-01", "2026-03-20", "A"),
                span("2026-03-11", "2026-03-25", "C"));
        EventColumn events = EventColumn.ofOverlapping("e", spans);
        StringBuilder days = new StringBuilder();
        for (LocalDate d = LocalDate.parse("2026-02-28");
                d.isBefore(LocalDate.parse("2026-03-28"));
                d = d.plusDays(1)) {
            String label = events.label(EpochDays.of(d));
            days.append(label == null ? "." : label);
            assertThat(events.label(d)).isEqualTo(Optional.ofNullable(label));
        }
        assertThat(days).hasToString(".AAAAAAAAABBBAAAAAAAACCCCC..");
        assertThatThrownBy(() -> EventColumn.of("e", spans))
                .hasMessageContaining("the e 'A' (2026-03-01..2026-03-20) and 'B'");
    }

    private static Event span(String from, String to, String label) {
        return Event.of(DateRange.of(LocalDate.parse(from), LocalDate.parse(to)), label);
    }

    @Test
    void namesThatAreGivenTwiceAreRefused() {
        DateDimension.Builder builder = DateDimension.over(
                        DateRange.of(LocalDate.parse("2026-01-01"), LocalDate.parse("2026-12-31")))
                .calendar("fiscal", FiscalCalendar.startingIn(Month.APRIL));
        assertThatThrownBy(() -> builder.calendar("fiscal", FiscalCalendar.startingIn(Month.MAY)))
                .hasMessage("the calendar 'fiscal' was given twice; give each its own name");
        builder.calendar("retail", FiscalCalendar.startingIn(Month.MAY)).calendar("civil", FiscalCalendar.iso());
        assertThat(builder.build().calendars().keySet()).containsExactly("fiscal", "retail", "civil");
        assertThatThrownBy(builder::build).isInstanceOf(IllegalStateException.class);
    }

    @Test
    void columnsOfOneNameAreRefused() {
        DateDimension.Builder builder = DateDimension.over(
                        DateRange.of(LocalDate.parse("2026-01-01"), LocalDate.parse("2026-12-31")))
                .events(EventColumn.of("month_name", List.of()));
        assertThatThrownBy(builder::build)
                .hasMessage(
                        "two columns of the date dimension would be called 'month_name'; rename the calendar, working week or event that"
                                + " makes the second");
    }
}
