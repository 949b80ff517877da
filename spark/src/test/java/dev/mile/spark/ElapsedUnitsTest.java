package dev.mile.spark;

import static org.assertj.core.api.Assertions.assertThat;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;
import static org.mockito.Mockito.withSettings;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import dev.mile.engine.DayContext;
import dev.mile.fact.RowExpression;
import dev.mile.fact.RowExpression.Operand;
import java.time.LocalDate;
import java.time.Month;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;

/** The arrays that are sent to executors count time as the civil calendar and the working days do. */
class ElapsedUnitsTest {
    private static final DateRange COUNTED = DateRange.of(LocalDate.parse("2018-01-01"), LocalDate.parse("2029-12-31"));

    private static ElapsedUnits numbers(RowExpression.TimeUnit unit, FiscalCalendar calendar) {
        DayContext days = mock(DayContext.class, withSettings().stubOnly());
        when(days.elapsedRange()).thenReturn(COUNTED);
        when(days.calendar()).thenReturn(calendar);
        // every day but the sevenths is worked
        when(days.cumulativeWorkingMillionths(any(RowExpression.Elapsed.class)))
                .thenReturn(day -> 1_000_000L * (day - Math.floorDiv(day, 7)));
        Operand date = new Operand.RowDate("on");
        return new ElapsedUnits(RowExpression.Elapsed.of(unit, date, date), days);
    }

    @Property(tries = 24)
    void unitsAreThoseOfTheCivilCalendar(@ForAll @IntRange(max = 5) int which, @ForAll long seed) {
        FiscalCalendar calendar = List.of(
                        FiscalCalendar.startingIn(Month.JANUARY),
                        FiscalCalendar.startingIn(Month.APRIL),
                        FiscalCalendar.startingOn(Month.FEBRUARY, 28),
                        FiscalCalendar.startingOn(Month.MAY, 31),
                        FiscalCalendar.startingOn(Month.OCTOBER, 15),
                        FiscalCalendar.iso())
                .get(which);
        // whatever the years of the report, months and years between two days are civil ones
        FiscalCalendar civil = FiscalCalendar.civil();
        ElapsedUnits months = numbers(RowExpression.TimeUnit.MONTHS, calendar);
        ElapsedUnits years = numbers(RowExpression.TimeUnit.YEARS, calendar);
        ElapsedUnits weeks = numbers(RowExpression.TimeUnit.WEEKS, calendar);
        ElapsedUnits plain = numbers(RowExpression.TimeUnit.DAYS, calendar);
        ElapsedUnits working = numbers(RowExpression.TimeUnit.WORKING_DAYS, calendar);
        Random random = new Random(seed);
        for (int i = 0; i < 400; i++) {
            int from = COUNTED.firstEpochDay() + random.nextInt(COUNTED.length());
            int to = random.nextBoolean()
                    ? COUNTED.firstEpochDay() + random.nextInt(COUNTED.length())
                    : Math.min(COUNTED.lastEpochDay(), from + random.nextInt(800));
            assertThat(months.between(from, to))
                    .as("months from %s to %s", LocalDate.ofEpochDay(from), LocalDate.ofEpochDay(to))
                    .isEqualTo(civil.completeUnits(from, to, Level.PERIOD));
            assertThat(years.between(from, to))
                    .as("years from %s to %s", LocalDate.ofEpochDay(from), LocalDate.ofEpochDay(to))
                    .isEqualTo(civil.completeUnits(from, to, Level.YEAR));
            assertThat(weeks.between(from, to)).isEqualTo((to - from) / 7);
            assertThat(plain.between(from, to)).isEqualTo(to - from);
            assertThat(working.between(from, to))
                    .isEqualTo(1_000_000L * (to - Math.floorDiv(to, 7) - from + Math.floorDiv(from, 7)));
        }
        assertThat(plain.between(null, COUNTED.firstEpochDay())).isNull();
        assertThat(plain.between(COUNTED.firstEpochDay() - 1, COUNTED.firstEpochDay()))
                .isNull();
        assertThat(plain.between(COUNTED.firstEpochDay(), COUNTED.lastEpochDay() + 1))
                .isNull();
    }
}
