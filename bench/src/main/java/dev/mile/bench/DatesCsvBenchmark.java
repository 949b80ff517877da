package dev.mile.bench;

import dev.mile.calendar.DateRange;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.dimension.DateDimension;
import dev.mile.render.text.DatesCsv;
import dev.mile.render.text.DatesTable;
import dev.mile.workday.HolidayDate;
import dev.mile.workday.HolidayRule;
import dev.mile.workday.WorkingWeek;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.time.MonthDay;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.Setup;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.TearDown;
import org.openjdk.jmh.annotations.Warmup;

/** A century of all columns of two calendars as CSV, against writing the same bytes. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.AverageTime)
@OutputTimeUnit(TimeUnit.MILLISECONDS)
@Fork(1)
@Warmup(iterations = 3, time = 2)
@Measurement(iterations = 5, time = 2)
public class DatesCsvBenchmark {
    private static final int ROUNDS_FOR_THE_COMPILER = 20;

    private DatesTable table;
    private Path file;
    private String same;

    /** For JMH. */
    public DatesCsvBenchmark() {}

    /** Makes the dimension, and the bytes. */
    @Setup
    public void make() throws IOException {
        table = DatesTable.all(DateDimension.over(DateRange.of(LocalDate.of(1951, 1, 1), LocalDate.of(2050, 12, 31)))
                .calendar("fiscal", FiscalCalendar.startingIn(Month.APRIL))
                .calendar(
                        "retail",
                        FiscalCalendar.weeks("4-5-4").endingNearest(DayOfWeek.SATURDAY, MonthDay.of(Month.JANUARY, 31)))
                .working(WorkingWeek.named("shops")
                        .rest(DayOfWeek.SUNDAY)
                        .holiday(HolidayRule.of("Easter", HolidayDate.parse("easter")))
                        .build())
                .asOf(LocalDate.of(2026, 8, 14))
                .build());
        file = Files.createTempFile("mile", ".csv");
        StringBuilder out = new StringBuilder();
        DatesCsv.write(table, out);
        same = out.toString();
    }

    /** Removes the file. */
    @TearDown
    public void remove() throws IOException {
        Files.deleteIfExists(file);
    }

    /** Works all values out and writes them. */
    @Benchmark
    public void workOutAndWrite() {
        try {
            DatesCsv.write(table, file);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Writes the same bytes. */
    @Benchmark
    public void writeTheSameBytes() {
        try (Writer out = Files.newBufferedWriter(file, StandardCharsets.UTF_8)) {
            out.write(same);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    /** Adds the ratio to the figures. */
    static void run(Figures figures, int rounds) throws Exception {
        DatesCsvBenchmark dates = new DatesCsvBenchmark();
        dates.make();
        for (int warmUp = 0; warmUp < ROUNDS_FOR_THE_COMPILER; warmUp++) {
            dates.workOutAndWrite();
            dates.writeTheSameBytes();
        }
        for (int round = 0; round < rounds * 4; round++) {
            figures.time("dates", dates::workOutAndWrite);
            figures.time("the same bytes", dates::writeTheSameBytes);
        }
        dates.remove();
        figures.compare("dates of 100 years, to writing the same bytes", "dates", "the same bytes", 1.5);
    }
}
