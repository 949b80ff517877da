package dev.mile.report.run;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.DateRange;
import dev.mile.dimension.ExcludedDates;
import dev.mile.engine.DateCount;
import java.time.LocalDate;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class DateRangeFinderTest {
    private final DateRangeFinder finder = new DateRangeFinder();

    private void add(String role, String date, long rows) {
        finder.add("sales", new DateCount(role, LocalDate.parse(date).toEpochDay(), rows));
    }

    private void body() {
        add("ordered", "2025-01-05", 500);
        add("ordered", "2026-01-01", 500);
        add("paid", "2026-02-01", 1_000);
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
        add("ordered", date, rows);
        DateRangeFinder.Result result = finder.result();
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
        add("ordered", "2206-01-05", 1);
        add("paid", "2206-01-07", 2);
        assertThat(finder.result().excluded())
                .containsExactlyInAnyOrder(
                        new ExcludedDates(
                                "sales",
                                "ordered",
                                false,
                                LocalDate.parse("2206-01-05"),
                                LocalDate.parse("2206-01-05"),
                                1),
                        new ExcludedDates(
                                "sales",
                                "paid",
                                false,
                                LocalDate.parse("2206-01-07"),
                                LocalDate.parse("2206-01-07"),
                                2));
    }

    @Test
    void aGapThatAnotherRoleFillsIsNone() {
        body();
        add("ordered", "2023-09-01", 1);
        add("paid", "2024-06-01", 1);
        assertThat(finder.result().range()).hasToString("2023-09-01..2026-02-01");
        assertThat(finder.result().excluded()).isEmpty();
    }

    @Test
    void nothingGivesNothing() {
        assertThat(finder.result().range()).isEqualTo(DateRange.EMPTY);
        add("ordered", "9999-12-31", 3);
        assertThat(finder.result().range()).isEqualTo(DateRange.EMPTY);
    }
}
