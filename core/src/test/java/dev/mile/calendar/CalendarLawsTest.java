package dev.mile.calendar;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.internal.EpochDays;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.MonthDay;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Example;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;

/** Laws that hold for every calendar, over random ones and more than a century. */
class CalendarLawsTest {
    private static final int FIRST = EpochDays.of(LocalDate.of(1950, 1, 1));
    private static final int LAST = EpochDays.of(LocalDate.of(2060, 12, 31));

    @Provide
    Arbitrary<FiscalCalendar> calendars() {
        Arbitrary<FiscalCalendar> months = Combinators.combine(
                        Arbitraries.of(Month.class),
                        Arbitraries.integers().between(1, 28),
                        Arbitraries.of(DayOfWeek.class))
                .as((month, day, week) -> FiscalCalendar.startingOn(month, day).withWeekStart(week));
        Arbitrary<FiscalCalendar> weeks = Combinators.combine(
                        Arbitraries.of("4-4-5", "4-5-4", "5-4-4", "13x4", "none", "6-4-4-4-4-4-4-4-4-4-4-6"),
                        Arbitraries.of(DayOfWeek.class),
                        Arbitraries.of(Month.class),
                        Arbitraries.integers().between(0, 28))
                .as((pattern, day, month, nearest) -> nearest == 0
                        ? FiscalCalendar.weeks(pattern).endingOnLast(day, month)
                        : FiscalCalendar.weeks(pattern).endingNearest(day, MonthDay.of(month, nearest)));
        Arbitrary<FiscalCalendar> named =
                Combinators.combine(weeks, Arbitraries.of(true, false)).as((c, start) -> start ? c.namedForStart() : c);
        return Arbitraries.oneOf(months, named);
    }

    /** Every thread sees the same counterparts in a calendar that nobody has asked before. */
    @Example
    void calendarsMayBeSharedByThreads() {
        for (int round = 0; round < 20; round++) {
            FiscalCalendar shared = FiscalCalendar.weeks("4-5-4").endingOnLast(DayOfWeek.SATURDAY, Month.JANUARY);
            DateRange window = DateRange.of(LocalDate.of(2024, 3, 3), LocalDate.of(2024, 4, 6));
            Set<DateRange> seen = IntStream.range(0, 64)
                    .parallel()
                    .mapToObj(i -> shared.shift(window, -1, i % 2 == 0 ? Level.YEAR : Level.QUARTER))
                    .collect(Collectors.toSet());
            assertThat(seen).hasSize(2);
        }
    }

    @Property(tries = 1_000, seed = "20260814")
    void periodsTileTheYearsAndOrdinalsAreConsecutive(
            @ForAll("calendars") FiscalCalendar calendar, @ForAll @IntRange(min = 1950, max = 2058) int year) {
        int from = EpochDays.of(LocalDate.of(year, 1, 1));
        for (Level level : calendar.levels()) {
            int previous = calendar.ordinal(level, from - 1);
            for (int day = from; day < from + 740; day++) {
                int ordinal = calendar.ordinal(level, day);
                DateRange range = calendar.range(level, ordinal);
                assertThat(range.contains(day)).isTrue();
                assertThat(ordinal - previous).isBetween(0, 1);
                assertThat(ordinal != previous).isEqualTo(range.firstEpochDay() == day);
                previous = ordinal;
            }
        }
    }

    @Property(tries = 1_000, seed = "20260814")
    void periodsNestInYearsAndYearsHave52Or53Weeks(
            @ForAll("calendars") FiscalCalendar calendar, @ForAll @IntRange(min = 1950, max = 2058) int year) {
        DateRange days = calendar.rangeContaining(Level.YEAR, EpochDays.of(LocalDate.of(year, 6, 30)));
        for (Level level : calendar.levels()) {
            List<CalendarPeriod> periods = calendar.periodsOverlapping(level, days);
            assertThat(periods.get(0).range().firstEpochDay()).isEqualTo(days.firstEpochDay());
            assertThat(periods.get(periods.size() - 1).range().lastEpochDay()).isEqualTo(days.lastEpochDay());
            if (level == Level.WEEK && calendar.hasNestedWeeks()) {
                assertThat(periods.size()).isBetween(52, 53);
            }
        }
    }

    @Property(tries = 1_000, seed = "20260814")
    void labelsLeadBackToTheirPeriods(
            @ForAll("calendars") FiscalCalendar calendar, @ForAll @IntRange(min = 0, max = 40_000) int at) {
        for (Level level : calendar.levels()) {
            CalendarPeriod period = calendar.period(level, FIRST + at).orElseThrow();
            assertThat(calendar.parse(period.label(), level, period.range().first()))
                    .contains(period);
        }
    }

    @Property(tries = 1_000, seed = "20260814")
    void wholePeriodsMovedThereAndBackReturn(
            @ForAll("calendars") FiscalCalendar calendar,
            @ForAll @IntRange(min = 0, max = 40_000) int at,
            @ForAll @IntRange(min = -30, max = 30) int count) {
        for (Level unit : calendar.levels()) {
            DateRange whole = calendar.rangeContaining(unit, FIRST + at);
            assertThat(calendar.shift(calendar.shift(whole, count, unit), -count, unit))
                    .isEqualTo(whole);
        }
    }

    @Property(tries = 1_000, seed = "20260814")
    void completeUnitsDoNotPassTheSecondDay(
            @ForAll("calendars") FiscalCalendar calendar,
            @ForAll @IntRange(min = 0, max = 20_000) int at,
            @ForAll @IntRange(min = 0, max = 20_000) int ahead) {
        int from = FIRST + at;
        int to = Math.min(from + ahead, LAST);
        for (Level unit : calendar.levels()) {
            int units = calendar.completeUnits(from, to, unit);
            int crossed = calendar.boundariesCrossed(from, to, unit);
            if (unit != Level.WEEK || calendar.hasNestedWeeks()) {
                assertThat(units).isBetween(crossed - 1, crossed);
            }
            assertThat(calendar.completeUnits(to, from, unit)).isEqualTo(-units);
            DateRange day = DateRange.ofEpochDays(from, from);
            assertThat(calendar.shift(day, units, unit))
                    .satisfies(moved -> assertThat(moved.isEmpty() || moved.lastEpochDay() <= to)
                            .isTrue());
            assertThat(calendar.shift(day, units + 1, unit))
                    .satisfies(moved -> assertThat(moved.isEmpty() || moved.lastEpochDay() > to)
                            .isTrue());
        }
    }
}
