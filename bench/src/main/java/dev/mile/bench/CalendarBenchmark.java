package dev.mile.bench;

import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.Level;
import java.time.DayOfWeek;
import java.time.Month;
import java.time.MonthDay;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OperationsPerInvocation;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Param;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/** How many days a second get their period, days drawn by a fixed pattern over forty years. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.Throughput)
@OutputTimeUnit(TimeUnit.SECONDS)
@Fork(1)
@Warmup(iterations = 3, time = 1)
@Measurement(iterations = 5, time = 1)
public class CalendarBenchmark {
    private static final int DAYS = 10_000;

    /** The level. */
    @Param({"YEAR", "QUARTER", "PERIOD", "WEEK"})
    public Level level;

    private final FiscalCalendar calendar = FiscalCalendar.weeks("4-5-4")
            .endingNearest(DayOfWeek.SATURDAY, MonthDay.of(Month.JANUARY, 31))
            .namedForStart();

    /** For JMH. */
    public CalendarBenchmark() {}

    /** Sums ordinals, so that no lookup is left out. */
    @Benchmark
    @OperationsPerInvocation(DAYS)
    public int ordinalOfADay() {
        int sum = 0;
        for (int i = 0; i < DAYS; i++) {
            sum += calendar.ordinal(level, 10_000 + (i * 7_919) % 14_600);
        }
        return sum;
    }
}
