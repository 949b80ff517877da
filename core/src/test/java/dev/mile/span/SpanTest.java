package dev.mile.span;

import static java.time.DayOfWeek.SATURDAY;
import static java.time.Month.APRIL;
import static java.time.Month.JANUARY;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.internal.EpochDays;
import java.time.LocalDate;
import java.time.MonthDay;
import java.util.Map;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SpanTest {
    private static final SpanContext FRAME = new SpanContext(
            Map.of(
                    "fiscal", FiscalCalendar.startingIn(APRIL),
                    "retail",
                            FiscalCalendar.weeks("4-5-4")
                                    .endingNearest(SATURDAY, MonthDay.of(JANUARY, 31))
                                    .namedForStart(),
                    "iso", FiscalCalendar.iso()),
            "fiscal",
            EpochDays.of(LocalDate.parse("2026-08-14")),
            DateRange.of(LocalDate.parse("2022-01-30"), LocalDate.parse("2027-03-31")));

    private static DateRange range(String text) {
        return text.equals("none")
                ? DateRange.EMPTY
                : DateRange.of(LocalDate.parse(text.substring(0, 10)), LocalDate.parse(text.substring(12)));
    }

    private static Span span(String kind, int count, Level unit) {
        return switch (kind) {
            case "TO_DATE" -> Span.toDate(unit);
            case "ALL_TO_DATE" -> Span.allToDate();
            case "BEFORE" -> Span.before();
            case "LAST" -> Span.last(count, unit);
            case "TRAILING" -> Span.trailing(count, unit);
            case "PREVIOUS" -> Span.previous(count, unit);
            case "NEXT" -> Span.next(count, unit);
            case "WHOLE" -> Span.whole(unit);
            case "MOVE" -> count < 0 ? Span.back(-count, unit) : Span.ahead(count, unit);
            case "FIRST_DAY" -> Span.firstDay();
            case "LAST_DAY" -> Span.lastDay();
            case "SO_FAR" -> Span.soFar();
            case "TO_COME" -> Span.toCome();
            case "TODAY" -> Span.today();
            case "YESTERDAY" -> Span.yesterday();
            case "THIS" -> Span.current(unit);
            default -> throw new IllegalArgumentException(kind);
        };
    }

    // computed by hand; as of Friday 2026-08-14, fiscal years from April, retail 4-5-4
    @ParameterizedTest(name = "{0} {1} {2} {3}: {4} gives {5}")
    @CsvSource({
        "TO_DATE, 1, YEAR, , 2026-08-01..2026-08-14, 2026-04-01..2026-08-14",
        "TO_DATE, 1, HALF, , 2026-11-01..2026-11-30, 2026-10-01..2026-11-30",
        "TO_DATE, 1, QUARTER, , 2026-08-01..2026-08-31, 2026-07-01..2026-08-31",
        "TO_DATE, 1, WEEK, , 2026-08-14..2026-08-14, 2026-08-10..2026-08-14",
        "TO_DATE, 1, YEAR, retail, 2026-08-01..2026-08-14, 2026-02-01..2026-08-14",
        "ALL_TO_DATE, 1, DAY, , 2022-03-01..2022-03-31, 2022-01-30..2022-03-31",
        "ALL_TO_DATE, 1, DAY, , 2021-03-01..2021-03-31, none",
        "BEFORE, 1, DAY, , 2022-03-01..2022-03-31, 2022-01-30..2022-02-28",
        "BEFORE, 1, DAY, , 2022-01-30..2022-03-31, none",
        "LAST, 3, PERIOD, , 2026-08-01..2026-08-14, 2026-06-01..2026-08-14",
        "LAST, 1, PERIOD, , 2026-08-01..2026-08-14, 2026-08-01..2026-08-14",
        "LAST, 2, WEEK, , 2026-04-02..2026-04-02, 2026-03-30..2026-04-02",
        "LAST, 3, DAY, , 2026-08-01..2026-08-14, 2026-08-12..2026-08-14",
        "TRAILING, 1, PERIOD, , 2026-02-28..2026-02-28, 2026-02-01..2026-02-28",
        "TRAILING, 1, PERIOD, , 2026-03-30..2026-03-30, 2026-03-01..2026-03-30",
        "TRAILING, 12, PERIOD, , 2026-08-01..2026-08-14, 2025-08-15..2026-08-14",
        "TRAILING, 1, YEAR, , 2025-02-28..2025-02-28, 2024-03-01..2025-02-28",
        "TRAILING, 30, DAY, , 2026-08-01..2026-08-14, 2026-07-16..2026-08-14",
        "TRAILING, 1, YEAR, retail, 2024-02-03..2024-02-03, 2023-01-29..2024-02-03",
        "TRAILING, 1, YEAR, retail, 2024-01-31..2024-01-31, 2023-01-29..2024-01-31",
        "PREVIOUS, 1, PERIOD, , 2026-08-01..2026-08-14, 2026-07-01..2026-07-31",
        "PREVIOUS, 2, QUARTER, , 2026-08-01..2026-08-14, 2026-01-01..2026-06-30",
        "NEXT, 4, PERIOD, , 2026-08-01..2026-08-14, 2026-09-01..2026-12-31",
        "WHOLE, 1, PERIOD, , 2026-08-03..2026-08-14, 2026-08-01..2026-08-31",
        "WHOLE, 1, WEEK, retail, 2026-08-03..2026-08-14, 2026-08-02..2026-08-15",
        "MOVE, -1, YEAR, , 2026-08-01..2026-08-14, 2025-08-01..2025-08-14",
        "MOVE, 1, QUARTER, , 2026-04-01..2026-06-30, 2026-07-01..2026-09-30",
        "FIRST_DAY, 1, DAY, , 2026-08-03..2026-08-14, 2026-08-03..2026-08-03",
        "LAST_DAY, 1, DAY, , 2026-08-03..2026-08-14, 2026-08-14..2026-08-14",
        "SO_FAR, 1, DAY, , 2026-08-01..2026-08-31, 2026-08-01..2026-08-14",
        "SO_FAR, 1, DAY, , 2026-09-01..2026-09-30, none",
        "TO_COME, 1, DAY, , 2026-08-01..2026-08-31, 2026-08-15..2026-08-31",
        "TO_COME, 1, DAY, , 2026-07-01..2026-07-31, none",
        "TODAY, 1, DAY, , 2024-01-01..2024-01-31, 2026-08-14..2026-08-14",
        "YESTERDAY, 1, DAY, , 2024-01-01..2024-01-31, 2026-08-13..2026-08-13",
        "THIS, 1, QUARTER, , 2024-01-01..2024-01-31, 2026-07-01..2026-09-30",
        "THIS, 1, WEEK, iso, 2024-01-01..2024-01-31, 2026-08-10..2026-08-16",
        "TO_DATE, 1, YEAR, , none, none"
    })
    void everyStepGivesItsDays(String kind, int count, Level unit, String calendar, String from, String to) {
        Span span = span(kind, count, unit);
        assertThat((calendar == null ? span : span.withCalendar(calendar)).resolve(range(from), FRAME))
                .isEqualTo(range(to));
    }

    @Test
    void stepsFollowEachOtherFromLeftToRight() {
        DateRange august = range("2026-08-01..2026-08-14");
        Span span = Span.back(1, Level.YEAR).then(Span.toDate(Level.YEAR));
        assertThat(span.resolve(august, FRAME)).isEqualTo(range("2025-04-01..2025-08-14"));
        assertThat(span.trace(august, FRAME))
                .containsExactly(range("2025-08-01..2025-08-14"), range("2025-04-01..2025-08-14"));
        assertThat(span).hasToString("1 year back, year to date");
        assertThat(Span.previous(2, Level.HALF).withCalendar("retail")).hasToString("previous 2 halves in retail");
    }

    @Test
    void aCalendarWithoutTheUnitIsNamed() {
        assertThatThrownBy(() ->
                        Span.toDate(Level.QUARTER).withCalendar("iso").resolve(range("2026-08-01..2026-08-14"), FRAME))
                .hasMessage(
                        "the calendar 'iso' has no quarters; it has years, weeks, days. Name another calendar (`in NAME`) or"
                                + " another unit");
        assertThatThrownBy(() -> Span.back(0, Level.YEAR)).hasMessageContaining("give a count from 1 to 100000");
    }

    @Property(tries = 300, seed = "20260814")
    void lawsOfSteps(@ForAll @IntRange(min = 0, max = 1_500) int at, @ForAll @IntRange(min = 0, max = 60) int length) {
        int day = FRAME.dimension().firstEpochDay() + at;
        DateRange window = DateRange.ofEpochDays(day, day + length);
        for (Level unit : Level.values()) {
            DateRange toDate = Span.toDate(unit).resolve(window, FRAME);
            assertThat(Span.last(1, unit).resolve(window, FRAME)).isEqualTo(toDate);
            DateRange whole = Span.toDate(unit).then(Span.whole(unit)).resolve(window, FRAME);
            assertThat(whole).isEqualTo(FRAME.calendar().rangeContaining(unit, window.lastEpochDay()));
            // the unit before and the current one make two units
            DateRange last = Span.lastDay().then(Span.previous(1, unit)).resolve(window, FRAME);
            assertThat(last.hull(toDate)).isEqualTo(Span.last(2, unit).resolve(window, FRAME));
            assertThat(last.lastEpochDay() + 1).isEqualTo(toDate.firstEpochDay());
        }
    }
}
