package dev.mile.dimension;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.calendar.DateRange;
import dev.mile.internal.EpochDays;
import java.time.LocalDate;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DateRangeFinderTest {
    private final DateRangeFinder survey = new DateRangeFinder();

    private void add(String source, String date, long rows) {
        survey.add(source, LocalDate.parse(date).toEpochDay(), rows);
    }

    private void body() {
        add("sales.ordered", "2025-01-05", 500);
        add("sales.ordered", "2026-01-01", 500);
        add("sales.paid", "2026-02-01", 1_000);
    }

    // a group of dates more than 366 days away with less than 1 % of the body's 2,000 rows
    @ParameterizedTest(name = "{1} rows on {0}: {2}")
    @CsvSource({
        "2206-01-05, 1, 2025-01-05..2026-02-01",
        "1961-07-01, 19, 2025-01-05..2026-02-01",
        "1961-07-01, 20, 1961-07-01..2026-02-01",
        "2024-01-05, 1, 2024-01-05..2026-02-01",
        "2024-01-04, 1, 2025-01-05..2026-02-01",
        "1899-12-30, 9000, 2025-01-05..2026-02-01",
        "1900-01-01, 1, 2025-01-05..2026-02-01",
        "9999-12-31, 5000, 2025-01-05..2026-02-01",
        "0026-01-05, 900, 2025-01-05..2026-02-01"
    })
    void sentinelsAndLoneOutliersAreLeftOut(String date, long rows, String range) {
        body();
        add("sales.ordered", date, rows);
        DateRangeFinder.Result result = survey.result();
        assertThat(result.range()).hasToString(range);
        boolean out = range.startsWith("2025-01-05");
        assertThat(result.excluded()).hasSize(out ? 1 : 0);
        if (out) {
            assertThat(result.excluded().get(0).rows()).isEqualTo(rows);
            assertThat(result.excluded().get(0).first()).isEqualTo(LocalDate.parse(date));
        }
    }

    @Test
    void outliersAreToldByRole() {
        body();
        add("sales.ordered", "2206-01-05", 1);
        add("sales.paid", "2206-01-07", 2);
        assertThat(survey.result().excluded())
                .containsExactlyInAnyOrder(
                        new DateRangeFinder.ExcludedDates(
                                "sales.ordered",
                                false,
                                LocalDate.parse("2206-01-05"),
                                LocalDate.parse("2206-01-05"),
                                1),
                        new DateRangeFinder.ExcludedDates(
                                "sales.paid", false, LocalDate.parse("2206-01-07"), LocalDate.parse("2206-01-07"), 2));
    }

    @Test
    void nothingGivesNothing() {
        assertThat(survey.result().range()).isEqualTo(DateRange.EMPTY);
        add("sales.ordered", "9999-12-31", 3);
        assertThat(survey.result().range()).isEqualTo(DateRange.EMPTY);
    }

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
        }
        assertThat(days).hasToString(".AAAAAAAAABBBAAAAAAAACCCCC..");
        assertThatThrownBy(() -> EventColumn.of("e", spans))
                .hasMessageContaining("the e 'A' (2026-03-01..2026-03-20, x) and 'B'");
    }

    private static Event span(String from, String to, String label) {
        return new Event(DateRange.of(LocalDate.parse(from), LocalDate.parse(to)), label, "x");
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
