package dev.mile.workday;

import static java.time.DayOfWeek.FRIDAY;
import static java.time.DayOfWeek.SATURDAY;
import static java.time.DayOfWeek.SUNDAY;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.calendar.DateRange;
import dev.mile.internal.EpochDays;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.Optional;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class WorkingWeekTest {
    /** A week is built by each test, so that a mutation of the builder is seen by the tests that it breaks. */
    private static WorkingWeek week() {
        return WorkingWeek.named("office")
                .rest(SATURDAY, SUNDAY)
                .holiday(HolidayRule.of("New Year", HolidayDate.parse("january 1"))
                        .observed(HolidayObservance.NEXT_WORKING_DAY))
                .holiday(HolidayRule.of("Easter Monday", HolidayDate.parse("easter + 1")))
                .holiday(HolidayRule.of("Midwinter", HolidayDate.parse("december 25"))
                        .observed(HolidayObservance.NEXT_WORKING_DAY))
                .holiday(HolidayRule.of("Second Midwinter", HolidayDate.parse("december 26"))
                        .observed(HolidayObservance.NEXT_WORKING_DAY))
                .holiday(HolidayRule.of("Founders Day", HolidayDate.parse("june 19"))
                        .observed(HolidayObservance.NEAREST_WEEKDAY))
                .holiday(HolidayRule.of("Summer fair", HolidayDate.parse("july 4"))
                        .observed(HolidayObservance.THE_DAY_AFTER)
                        .validBetween(2020, 2026))
                .specialDay(LocalDate.parse("2026-12-24"), "Half day", new BigDecimal("0.5"))
                .specialDay(LocalDate.parse("2026-03-28"), "Stocktaking", BigDecimal.ONE)
                .build();
    }

    private static int day(String date) {
        return EpochDays.of(LocalDate.parse(date));
    }

    // Easter Sundays from the tables of the almanacs
    @ParameterizedTest
    @CsvSource({
        "1818-03-22",
        "1961-04-02",
        "2000-04-23",
        "2008-03-23",
        "2011-04-24",
        "2019-04-21",
        "2024-03-31",
        "2025-04-20",
        "2026-04-05",
        "2038-04-25"
    })
    void easterFallsWhereAlmanacsHaveIt(LocalDate easter) {
        assertThat(HolidayDate.easterSunday(easter.getYear())).isEqualTo(easter);
    }

    @ParameterizedTest(name = "{0} in {1} is {2}")
    @CsvSource({
        "first monday of may, 2026, 2026-05-04",
        "last monday of august, 2026, 2026-08-31",
        "fourth thursday of november, 2026, 2026-11-26",
        "fifth monday of may, 2026, none",
        "february 29, 2026, none",
        "february 29, 2028, 2028-02-29",
        "easter - 2, 2026, 2026-04-03",
        "2026-03-09, 2026, 2026-03-09",
        "2026-03-09, 2027, none"
    })
    void rulesGiveADayOrNone(String rule, int year, String day) {
        assertThat(HolidayDate.parse(rule).dateIn(year).map(LocalDate::toString).orElse("none"))
                .isEqualTo(day);
    }

    @ParameterizedTest
    @CsvSource({
        // 2022-01-01 was a Saturday, 2021-12-25 a Saturday and 2021-12-26 a Sunday: two holidays move, one after the
        // other
        "2022-01-03, New Year",
        "2021-12-27, Midwinter",
        "2021-12-28, Second Midwinter",
        // 2021-06-19 was a Saturday, 2022-06-19 a Sunday
        "2021-06-18, Founders Day",
        "2022-06-20, Founders Day",
        // 2020-07-04 was a Saturday: the day after is exactly Sunday, a rest day that is named
        "2020-07-05, Summer fair",
        "2026-04-06, Easter Monday"
    })
    void holidaysMoveFromRestDays(LocalDate date, String holiday) {
        assertThat(week().holidayName(EpochDays.of(date))).isEqualTo(holiday);
    }

    @ParameterizedTest(name = "{0} is {1}")
    @CsvSource({
        "2026-12-24, PART",
        "2026-03-28, WORKING",
        "2026-12-25, HOLIDAY",
        "2020-07-05, REST",
        "2026-08-14, WORKING",
        "2027-07-04, REST"
    })
    void dayTypes(LocalDate date, DayType type) {
        assertThat(week().dayType(EpochDays.of(date))).isEqualTo(type);
    }

    @Test
    void inclusiveAndElapsedAreNotMixed() {
        // Monday 2026-03-23 to Monday 2026-03-30, with a worked Saturday
        DateRange range = DateRange.ofEpochDays(day("2026-03-23"), day("2026-03-30"));
        assertThat(week().workingDaysIn(range)).isEqualByComparingTo("7");
        assertThat(week().workingDaysBetween(range.firstEpochDay(), range.lastEpochDay()))
                .isEqualByComparingTo("6");
        assertThat(week().workingDaysBetween(range.lastEpochDay(), range.firstEpochDay()))
                .isEqualByComparingTo("-6");
        assertThat(week().workingDaysBetween(range.firstEpochDay(), range.firstEpochDay()))
                .isEqualByComparingTo("0");
        assertThat(week().workingDaysIn(DateRange.ofEpochDays(day("2026-12-21"), day("2026-12-31"))))
                .isEqualByComparingTo("6.5");
    }

    @Test
    void datesAreAskedLikeEpochDays() {
        LocalDate friday = LocalDate.parse("2026-05-29");
        assertThat(week().dayType(friday)).isEqualTo(week().dayType(day("2026-05-29")));
        assertThat(week().workedShare(friday)).isEqualByComparingTo("1");
        assertThat(week().holidayName(friday)).isEmpty();
        assertThat(week().plusWorkingDays(friday, BigDecimal.ONE)).contains(LocalDate.parse("2026-06-01"));
        assertThat(week().workingDaysBetween(friday, LocalDate.parse("2026-06-01")))
                .isEqualByComparingTo("1");
    }

    @Test
    void aBuilderIsUsedOnce() {
        WorkingWeek.Builder builder = WorkingWeek.named("once");
        builder.build();
        assertThatThrownBy(() -> builder.rest(DayOfWeek.SUNDAY))
                .isInstanceOf(IllegalStateException.class)
                .hasMessageContaining("'once' is built already");
    }

    @Test
    void nthWorkingDayFromEitherEnd() {
        DateRange may = DateRange.ofEpochDays(day("2026-05-01"), day("2026-05-31"));
        assertThat(week().nthWorkingEpochDay(may, 2)).hasValue(day("2026-05-04"));
        assertThat(week().nthWorkingEpochDay(may, -1)).hasValue(day("2026-05-29"));
        assertThat(week().nthWorkingEpochDay(may, 22)).isEmpty();
        assertThat(week().nthWorkingDay(may, 2)).contains(LocalDate.parse("2026-05-04"));
    }

    @Test
    void impossibleWeeksAreRefused() {
        assertThatThrownBy(() -> WorkingWeek.named("idle")
                        .rest(java.time.DayOfWeek.values())
                        .build())
                .hasMessage("the working week 'idle' rests on all seven weekdays; leave one to work on");
        assertThatThrownBy(() -> HolidayDate.parse("june 31"))
                .hasMessage("'june 31' is in no year: june has days 1 to 30");
        assertThatThrownBy(() -> WorkingWeek.named("x").specialDay(LocalDate.EPOCH, "y", new BigDecimal("1.5")))
                .hasMessage(
                        "the share of 1970-01-01 (y) is 1.5; expected 0 (off) to 1 (worked), with at most 6 decimals");
    }

    @Property(tries = 500, seed = "20260814")
    void countsAddUpAndAddingIsTheInverseOfCounting(
            @ForAll @IntRange(min = 10_000, max = 25_000) int from,
            @ForAll @IntRange(min = 0, max = 900) int middle,
            @ForAll @IntRange(min = 0, max = 900) int end,
            @ForAll @IntRange(min = -300, max = 300) int n) {
        WorkingWeek week = WorkingWeek.named("gulf")
                .rest(FRIDAY, SATURDAY)
                .holiday(HolidayRule.of("x", HolidayDate.parse("easter")))
                .build();
        BigDecimal first = week.workingDaysIn(DateRange.ofEpochDays(from, from + middle));
        BigDecimal second = week.workingDaysIn(DateRange.ofEpochDays(from + middle + 1, from + middle + 1 + end));
        assertThat(first.add(second))
                .isEqualByComparingTo(week.workingDaysIn(DateRange.ofEpochDays(from, from + middle + 1 + end)));
        int there = week.plusWorkingDays(from, BigDecimal.valueOf(n)).orElseThrow();
        if (n < 0 && week.workingDaysIn(DateRange.ofEpochDays(from, from)).signum() == 0) {
            // the Nth working day on that side: those from it on are N
            assertThat(week.workingDaysIn(DateRange.ofEpochDays(there, from)))
                    .isEqualByComparingTo(BigDecimal.valueOf(-n));
            assertThat(week.workingDaysIn(DateRange.ofEpochDays(there, there))).isEqualByComparingTo(BigDecimal.ONE);
        } else {
            assertThat(week.workingDaysBetween(from, there)).isEqualByComparingTo(BigDecimal.valueOf(n));
        }
    }

    @Test
    void weeksAreEqualByWhatTheySay() {
        assertThat(week())
                .isEqualTo(week())
                .hasSameHashCodeAs(week())
                .hasToString(week().toString())
                .isNotEqualTo(WorkingWeek.named("office").rest(SATURDAY, SUNDAY).build())
                .isNotEqualTo("office");
        assertThat(week().toString()).contains("office", "saturday");
        assertThat(WorkingWeek.named("a").rest(SUNDAY).build())
                .isNotEqualTo(WorkingWeek.named("a").rest(SATURDAY).build())
                .isNotEqualTo(WorkingWeek.named("b").rest(SUNDAY).build());
        assertThat(week().rest()).containsExactlyInAnyOrder(SATURDAY, SUNDAY);
    }

    @Test
    void twoHolidaysOnADayJoinTheirNames() {
        WorkingWeek week = WorkingWeek.named("w")
                .rest(SUNDAY)
                .holiday(HolidayRule.of("First", HolidayDate.parse("2026-05-04")))
                .holiday(HolidayRule.of("Second", HolidayDate.parse("first monday of may")))
                .specialDay(LocalDate.parse("2026-05-05"), "Morning off", new BigDecimal("0.5"))
                .specialDay(LocalDate.parse("2026-05-05"), "Closed", new BigDecimal("0.25"))
                .build();
        assertThat(week.holidayName(LocalDate.parse("2026-05-04"))).contains("First / Second");
        assertThat(week.workedShare(LocalDate.parse("2026-05-05"))).isEqualByComparingTo("0.25");
        assertThat(week.workingDaysIn(DateRange.of(LocalDate.parse("2026-05-03"), LocalDate.parse("2026-05-09"))))
                .isEqualByComparingTo("4.25");
    }

    @ParameterizedTest(name = "a holiday on {0}, {1}, is on {2}")
    @CsvSource({
        "2026-08-01, NEXT_WORKING_DAY, 2026-08-03",
        "2026-08-02, NEXT_WORKING_DAY, 2026-08-03",
        "2026-08-02, PREVIOUS_WORKING_DAY, 2026-07-31",
        "2026-08-01, NEAREST_WEEKDAY, 2026-07-31",
        "2026-08-02, NEAREST_WEEKDAY, 2026-08-03",
        "2026-08-01, THE_DAY_AFTER, 2026-08-02",
        "2026-08-01, STAYS, 2026-08-01",
        "2026-08-05, NEXT_WORKING_DAY, 2026-08-05"
    })
    void aHolidayMovesAsItsRuleSays(LocalDate date, HolidayObservance observance, LocalDate moved) {
        WorkingWeek week = WorkingWeek.named("w")
                .rest(SATURDAY, SUNDAY)
                .holiday(HolidayRule.of("Fair", HolidayDate.parse(date.toString()))
                        .observed(observance))
                .build();
        for (LocalDate day = date.minusDays(4); day.isBefore(date.plusDays(5)); day = day.plusDays(1)) {
            assertThat(week.holidayName(day)).isEqualTo(day.equals(moved) ? Optional.of("Fair") : Optional.empty());
        }
    }
}
