package dev.mile.calendar;

import static java.time.DayOfWeek.MONDAY;
import static java.time.DayOfWeek.SATURDAY;
import static java.time.Month.APRIL;
import static java.time.Month.JANUARY;
import static java.time.Month.JULY;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mile.MileException;
import dev.mile.SourceLocation;
import dev.mile.internal.EpochDays;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.MonthDay;
import java.util.List;
import java.util.Locale;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class FiscalCalendarTest {
    private static final FiscalCalendar RETAIL = FiscalCalendar.weeks("4-5-4")
            .endingNearest(SATURDAY, MonthDay.of(JANUARY, 31))
            .namedForStart();
    private static final FiscalCalendar FISCAL = FiscalCalendar.startingIn(APRIL);

    private static int day(String date) {
        return EpochDays.of(LocalDate.parse(date));
    }

    private static DateRange range(String text) {
        return text.equals("none")
                ? DateRange.EMPTY
                : DateRange.of(LocalDate.parse(text.substring(0, 10)), LocalDate.parse(text.substring(12)));
    }

    /** Methods that take dates say what those that take epoch days say, and empty for what there is not. */
    @Test
    void datesAreAskedLikeEpochDays() {
        FiscalCalendar calendar = FiscalCalendar.listed(
                LocalDate.parse("2026-01-03"), List.of(PeriodEnd.of(LocalDate.parse("2026-01-31"), 2026, 1)));
        LocalDate in = LocalDate.parse("2026-01-31");
        LocalDate out = LocalDate.parse("2026-02-01");
        assertThat(calendar.ordinal(Level.PERIOD, in)).hasValue(0);
        assertThat(calendar.ordinal(Level.PERIOD, out)).isEmpty();
        assertThat(calendar.yearNumber(in)).hasValue(2026);
        assertThat(calendar.yearNumber(out)).isEmpty();
        assertThat(calendar.number(Level.DAY, Level.PERIOD, in)).hasValue(29);
        assertThat(calendar.number(Level.DAY, Level.PERIOD, out)).isEmpty();
        assertThat(calendar.rangeContaining(Level.YEAR, in)).isEqualTo(range("2026-01-03..2026-01-31"));
        assertThat(calendar.completeUnits(LocalDate.parse("2026-01-03"), out, Level.PERIOD))
                .isEmpty();
        FiscalCalendar april = FiscalCalendar.startingIn(APRIL);
        assertThat(april.shiftEnd(LocalDate.parse("2026-03-31"), -1, Level.PERIOD))
                .contains(LocalDate.parse("2026-02-28"));
        assertThat(april.completeUnits(LocalDate.parse("2026-03-31"), LocalDate.parse("2026-04-30"), Level.PERIOD))
                .hasValue(1);
        assertThat(april.boundariesCrossed(LocalDate.parse("2026-03-31"), LocalDate.parse("2026-04-01"), Level.YEAR))
                .hasValue(1);
    }

    @Nested
    class YearsOfWeeks {
        // the trade's published 4-5-4 calendars, 2006 to 2027
        @ParameterizedTest(name = "retail year {0} starts on {1} and has {2} weeks")
        @CsvSource(
                textBlock =
                        """
                2006, 2006-01-29, 53
                2007, 2007-02-04, 52
                2008, 2008-02-03, 52
                2009, 2009-02-01, 52
                2010, 2010-01-31, 52
                2011, 2011-01-30, 52
                2012, 2012-01-29, 53
                2013, 2013-02-03, 52
                2014, 2014-02-02, 52
                2015, 2015-02-01, 52
                2016, 2016-01-31, 52
                2017, 2017-01-29, 53
                2018, 2018-02-04, 52
                2019, 2019-02-03, 52
                2020, 2020-02-02, 52
                2021, 2021-01-31, 52
                2022, 2022-01-30, 52
                2023, 2023-01-29, 53
                2024, 2024-02-04, 52
                2025, 2025-02-02, 52
                2026, 2026-02-01, 52
                2027, 2027-01-31, 52
                """)
        void startWhereTheTradeHasThem(int year, LocalDate first, int weeks) {
            CalendarPeriod period = RETAIL.period(Level.YEAR, first).orElseThrow();
            assertThat(period.number()).isEqualTo(year);
            assertThat(period.range().first()).isEqualTo(first);
            assertThat(period.range().length()).isEqualTo(7 * weeks);
        }

        // ISO 8601: 2004, 2009, 2015, 2020 and 2026 have a week 53
        @ParameterizedTest(name = "{0} is in ISO week {1}-W{2}")
        @CsvSource({
            "2005-01-01, 2004, 53", "2005-01-02, 2004, 53", "2005-12-31, 2005, 52", "2007-01-01, 2007, 1",
            "2008-12-29, 2009, 1", "2010-01-03, 2009, 53", "2021-01-03, 2020, 53", "2021-01-04, 2021, 1",
            "2024-12-30, 2025, 1", "2026-12-31, 2026, 53"
        })
        void isoWeeksAreACaseOfTheRule(LocalDate date, int year, int week) {
            FiscalCalendar iso = FiscalCalendar.iso();
            assertThat(iso.yearNumber(EpochDays.of(date))).isEqualTo(year);
            assertThat(iso.number(Level.WEEK, Level.YEAR, EpochDays.of(date))).isEqualTo(week);
        }

        @Test
        void lastWeekdayOfAMonthEndsTheYear() {
            FiscalCalendar last = FiscalCalendar.weeks("4-4-5").endingOnLast(SATURDAY, java.time.Month.AUGUST);
            assertThat(last.rangeContaining(Level.YEAR, day("2023-08-27"))).isEqualTo(range("2023-08-27..2024-08-31"));
        }

        @Test
        void theExtraWeekJoinsTheLastPeriodOrTheOneNamed() {
            assertThat(RETAIL.rangeContaining(Level.PERIOD, day("2024-02-03")))
                    .isEqualTo(range("2023-12-31..2024-02-03"));
            FiscalCalendar sixth = RETAIL.withExtraWeekIn(6);
            assertThat(sixth.rangeContaining(Level.PERIOD, day("2023-07-15")).length())
                    .isEqualTo(35);
            assertThat(sixth.rangeContaining(Level.PERIOD, day("2024-02-03")).length())
                    .isEqualTo(28);
        }

        @Test
        void thirteenPeriodsMakeQuartersOf3And3And3And4AndNoHalves() {
            FiscalCalendar thirteen = FiscalCalendar.weeks("13x4").endingNearest(SATURDAY, MonthDay.of(JANUARY, 31));
            int last = day("2026-01-31");
            assertThat(thirteen.number(Level.PERIOD, Level.QUARTER, last)).isEqualTo(4);
            assertThat(thirteen.number(Level.QUARTER, Level.YEAR, last)).isEqualTo(4);
            assertThat(thirteen.supports(Level.HALF)).isFalse();
        }

        @ParameterizedTest
        @CsvSource(
                delimiter = ';',
                textBlock =
                        """
                4-4-4; weeks: '4-4-4' adds to 48 weeks a year; expected 52, such as 4-5-4 (a quarter, four times)
                5; weeks: '5' has 1 periods; expected 12 or 13 numbers that add to 52
                fortnights; weeks: 'fortnights' is not a pattern; expected 4-4-5, 4-5-4, 5-4-4, 13x4, a list of 12 or 13 numbers adding to 52, or none
                """)
        void patternsThatMakeNoYearAreRefused(String pattern, String first, String second) {
            assertThatThrownBy(() -> WeekPattern.parse(pattern))
                    .isInstanceOf(MileException.class)
                    .hasMessage(second == null ? first : first + "; " + second);
        }
    }

    @Nested
    class YearsOfMonths {
        @ParameterizedTest(name = "with a year from {0} {1}, {2} is in period {3} of {4}")
        @CsvSource({
            "APRIL, 1, 2026-03-31, 12, 2026", "APRIL, 1, 2026-04-01, 1, 2027", "APRIL, 6, 2026-04-05, 12, 2026",
            "APRIL, 6, 2026-05-05, 1, 2027", "APRIL, 6, 2026-05-06, 2, 2027", "JANUARY, 1, 2026-01-01, 1, 2026",
            "JANUARY, 31, 2024-02-28, 1, 2025", "JANUARY, 31, 2024-02-29, 2, 2025", "JANUARY, 31, 2023-02-28, 2, 2024"
        })
        void periodsStartOnTheDayOrTheMonthsLast(
                java.time.Month month, int start, LocalDate date, int period, int year) {
            FiscalCalendar calendar = FiscalCalendar.startingOn(month, start);
            assertThat(calendar.number(Level.PERIOD, Level.YEAR, EpochDays.of(date)))
                    .isEqualTo(period);
            assertThat(calendar.yearNumber(EpochDays.of(date))).isEqualTo(year);
        }

        @Test
        void weeksStartWithTheYearAndThenOnTheirWeekday() {
            // 2026-07-01 is a Wednesday
            FiscalCalendar calendar = FiscalCalendar.startingIn(JULY).withWeekStart(MONDAY);
            assertThat(calendar.rangeContaining(Level.WEEK, day("2026-07-01")))
                    .isEqualTo(range("2026-07-01..2026-07-05"));
            assertThat(calendar.rangeContaining(Level.WEEK, day("2026-07-06")))
                    .isEqualTo(range("2026-07-06..2026-07-12"));
            assertThat(calendar.rangeContaining(Level.WEEK, day("2026-06-30")))
                    .isEqualTo(range("2026-06-29..2026-06-30"));
        }
    }

    @Nested
    class Listed {
        private final List<PeriodEnd> ends = List.of(
                PeriodEnd.of(LocalDate.parse("2026-01-31"), 2026, 1)
                        .withQuarter(1)
                        .withLocation(SourceLocation.of("ends.csv", 2)),
                PeriodEnd.of(LocalDate.parse("2026-03-07"), 2026, 2)
                        .withQuarter(1)
                        .withLocation(SourceLocation.of("ends.csv", 3)),
                PeriodEnd.of(LocalDate.parse("2026-03-31"), 2027, 1)
                        .withQuarter(1)
                        .withLocation(SourceLocation.of("ends.csv", 4)));
        private final FiscalCalendar calendar = FiscalCalendar.listed(LocalDate.parse("2026-01-03"), ends);

        @Test
        void daysOutsideTheListHaveNoPeriod() {
            assertThat(calendar.period(Level.PERIOD, LocalDate.parse("2026-01-02")))
                    .isEmpty();
            assertThat(calendar.period(Level.PERIOD, LocalDate.parse("2026-04-01")))
                    .isEmpty();
            assertThat(calendar.ordinal(Level.YEAR, day("2026-04-01"))).isEqualTo(FiscalCalendar.NONE);
        }

        @Test
        void aPeriodThatTheOtherYearLacksHasNoCounterpart() {
            assertThat(calendar.shift(range("2026-02-01..2026-03-07"), 1, Level.YEAR)
                            .isEmpty())
                    .isTrue();
            assertThat(calendar.shift(range("2026-01-03..2026-01-31"), 1, Level.YEAR))
                    .isEqualTo(range("2026-03-08..2026-03-31"));
        }

        @ParameterizedTest
        @CsvSource(
                delimiter = '|',
                textBlock =
                        """
                2026-03-07, 2026, 2, 1 | ends.csv:9: the period end 2026-03-07 occurs twice; each period needs its own end
                2026-02-07, 2026, 3, 1 | ends.csv:9: the period end 2026-02-07 does not come after 2026-03-07 (the end before it); ends must rise
                2026-04-07, 2026, 4, 1 | ends.csv:9: period 4 follows period 2 of year 2026; expected 3
                2026-04-07, 2027, 2, 1 | ends.csv:9: year 2027 begins with period 2; expected its first period, 1
                2026-04-07, 2029, 1, 1 | ends.csv:9: year 2029 follows year 2026; years rise by one
                2026-04-07, 2026, 3, 4 | ends.csv:9: quarter 4 cannot follow here; expected 1 or 2
                2026-04-07, 2026, 3, 0 | ends.csv:9: the quarter is missing; a list has quarters on every line or on none
                """)
        void listsWithMistakesAreRefused(String line, String message) {
            String[] f = line.split(", ");
            PeriodEnd wrong = PeriodEnd.of(LocalDate.parse(f[0]), Integer.parseInt(f[1]), Integer.parseInt(f[2]))
                    .withLocation(SourceLocation.of("ends.csv", 9));
            int quarter = Integer.parseInt(f[3]);
            PeriodEnd end = quarter == 0 ? wrong : wrong.withQuarter(quarter);
            assertThatThrownBy(() -> FiscalCalendar.listed(
                            LocalDate.parse("2026-01-03"), List.of(ends.get(0), ends.get(1), end)))
                    .hasMessage(message);
        }
    }

    @Nested
    class Moving {
        // computed by hand
        @ParameterizedTest(name = "months: {0} moved by {1} {2} is {3}")
        @CsvSource({
            "2024-02-29..2024-02-29, -1, YEAR, 2023-02-28..2023-02-28",
            "2024-02-01..2024-02-29, -1, YEAR, 2023-02-01..2023-02-28",
            "2023-02-01..2023-02-28, 1, YEAR, 2024-02-01..2024-02-29",
            "2026-03-31..2026-03-31, -1, PERIOD, 2026-02-28..2026-02-28",
            "2026-04-30..2026-04-30, -1, PERIOD, 2026-03-30..2026-03-30",
            "2026-04-01..2026-06-30, -1, QUARTER, 2026-01-01..2026-03-31",
            "2026-04-01..2026-05-15, -1, QUARTER, 2026-01-01..2026-02-15",
            "2026-08-01..2026-08-14, -1, YEAR, 2025-08-01..2025-08-14",
            "2026-04-01..2027-03-31, -1, YEAR, 2025-04-01..2026-03-31",
            "2026-01-30..2026-02-10, 1, PERIOD, 2026-02-28..2026-03-10",
            "2026-08-10..2026-08-14, -2, WEEK, 2026-07-27..2026-07-31",
            "2026-08-10..2026-08-14, 3, DAY, 2026-08-13..2026-08-17"
        })
        void monthsKeepTheirDayHeldToTheLast(String from, int count, Level unit, String to) {
            assertThat(FISCAL.shift(range(from), count, unit)).isEqualTo(range(to));
        }

        @ParameterizedTest(name = "weeks: {0} moved by {1} {2} is {3}")
        @CsvSource({
            // all of 2023 (53 weeks) and of its last period (5 weeks) stay whole
            "2023-01-29..2024-02-03, 1, YEAR, 2024-02-04..2025-02-01",
            "2023-12-31..2024-02-03, 1, YEAR, 2025-01-05..2025-02-01",
            "2025-01-05..2025-02-01, -1, YEAR, 2023-12-31..2024-02-03",
            // inside week 53: no counterpart
            "2024-01-28..2024-02-03, 1, YEAR, none",
            "2024-01-30..2024-02-01, -1, YEAR, none",
            // only the end, or only the start, in week 53
            "2024-01-22..2024-01-30, 1, YEAR, 2025-01-27..2025-02-01",
            "2024-01-30..2024-02-06, 1, YEAR, 2025-02-02..2025-02-04",
            // the same weekday of the same week of the same period
            "2024-02-07..2024-02-07, -1, YEAR, 2023-02-01..2023-02-01",
            "2024-02-07..2024-02-07, -52, WEEK, 2023-02-08..2023-02-08",
            "2024-02-04..2024-02-10, -1, YEAR, 2023-01-29..2023-02-04",
            "2024-03-31..2024-04-06, -1, PERIOD, none"
        })
        void weeksKeepTheirWeekday(String from, int count, Level unit, String to) {
            assertThat(RETAIL.shift(range(from), count, unit)).isEqualTo(range(to));
        }

        @Test
        void yearsOfWeeksAloneCountTheirWeeks() {
            FiscalCalendar iso = FiscalCalendar.iso();
            assertThat(iso.shift(range("2021-01-02..2021-01-02"), -1, Level.YEAR)
                            .isEmpty())
                    .isTrue();
            assertThat(iso.shift(range("2021-01-06..2021-01-06"), -1, Level.YEAR))
                    .isEqualTo(range("2020-01-01..2020-01-01"));
        }

        @ParameterizedTest(name = "{0} to {1}: {2} complete months, {3} years, {4} starts of months")
        @CsvSource({
            "2026-01-31, 2026-02-28, 1, 0, 1", "2026-01-15, 2026-02-14, 0, 0, 1", "2026-01-15, 2026-02-15, 1, 0, 1",
            "2024-02-29, 2025-02-28, 12, 1, 12", "2024-02-29, 2025-02-27, 11, 0, 12", "2026-03-15, 2026-03-15, 0, 0, 0",
            "2026-03-15, 2026-01-16, -1, 0, -2", "2026-03-15, 2025-03-15, -12, -1, -12"
        })
        void wholeUnitsAreCompleteAndBoundariesApart(LocalDate from, LocalDate to, int months, int years, int crossed) {
            FiscalCalendar civil = FiscalCalendar.startingIn(JANUARY);
            assertThat(civil.completeUnits(EpochDays.of(from), EpochDays.of(to), Level.PERIOD))
                    .isEqualTo(months);
            assertThat(civil.completeUnits(EpochDays.of(from), EpochDays.of(to), Level.YEAR))
                    .isEqualTo(years);
            assertThat(civil.boundariesCrossed(EpochDays.of(from), EpochDays.of(to), Level.PERIOD))
                    .isEqualTo(crossed);
        }
    }

    @Nested
    class Labels {
        @ParameterizedTest
        @CsvSource({"en, Apr 2026", "de, Apr 2026", "es, abr 2026", "ja, 4月 2026"})
        void templatesUseCivilNamesOfTheLocale(String language, String label) {
            FiscalCalendar calendar = FISCAL.withLocale(Locale.forLanguageTag(language))
                    .withLabels(LabelTemplates.DEFAULT.with(Level.PERIOD, "{mon} {civil_year}"));
            assertThat(calendar.period(Level.PERIOD, LocalDate.parse("2026-04-10"))
                            .orElseThrow()
                            .label())
                    .isEqualTo(label);
            assertThat(calendar.parse(label, LocalDate.parse("2026-04-01"))
                            .orElseThrow()
                            .range())
                    .isEqualTo(range("2026-04-01..2026-04-30"));
        }

        @Test
        void templatesThatDoNotTellPeriodsApartAreRefused() {
            assertThatThrownBy(() -> FISCAL.withLabels(LabelTemplates.DEFAULT.with(Level.PERIOD, "{mon}")))
                    .hasMessageContaining("gives 'Apr' to")
                    .hasMessageContaining("labels must distinguish periods");
            assertThatThrownBy(() -> LabelTemplates.DEFAULT.with(Level.YEAR, "{yaer}"))
                    .hasMessage("unknown word {yaer} in the label template '{yaer}'; did you mean 'year'?");
        }

        @Test
        void labelsOfOtherPeriodsAreNotFound() {
            FiscalCalendar twoDigits = FiscalCalendar.startingIn(java.time.Month.APRIL)
                    .withLabels(LabelTemplates.DEFAULT.with(Level.YEAR, "{yy}"));
            assertThat(twoDigits
                            .parse("27", LocalDate.parse("2026-08-14"))
                            .orElseThrow()
                            .range())
                    .isEqualTo(range("2026-04-01..2027-03-31"));
            assertThat(twoDigits
                            .parse("99", LocalDate.parse("2026-08-14"))
                            .orElseThrow()
                            .range())
                    .isEqualTo(range("1998-04-01..1999-03-31"));
            assertThat(RETAIL.parse("FY2024 W53", LocalDate.parse("2026-04-01")))
                    .isEmpty();
            assertThat(RETAIL.parse("FY2023 W53", LocalDate.parse("2026-04-01")))
                    .isPresent();
            assertThat(RETAIL.parse("2026-02-30", LocalDate.parse("2026-04-01")))
                    .isEmpty();
        }
    }

    @ParameterizedTest
    @CsvSource({"MONDAY", "THURSDAY", "SUNDAY"})
    void anyWeekdayMayEndTheYear(DayOfWeek weekday) {
        FiscalCalendar calendar = FiscalCalendar.weeks("4-4-5").endingNearest(weekday, MonthDay.of(2, 29));
        for (int year = 2001; year < 2040; year++) {
            LocalDate end = calendar.rangeContaining(Level.YEAR, EpochDays.of(LocalDate.of(year, 1, 15)))
                    .last();
            LocalDate nominal = LocalDate.of(year, 3, 1).minusDays(1);
            assertThat(end.getDayOfWeek()).isEqualTo(weekday);
            assertThat(Math.abs(end.toEpochDay() - nominal.toEpochDay())).isLessThanOrEqualTo(3);
        }
    }
}
