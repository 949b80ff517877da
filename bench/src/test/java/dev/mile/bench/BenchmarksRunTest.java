package dev.mile.bench;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.calendar.Level;
import java.io.IOException;
import org.junit.jupiter.api.Test;

/** Runs the body of each benchmark once, so that none rots. */
class BenchmarksRunTest {
    @Test
    void bodiesRun() throws IOException {
        CalendarBenchmark calendar = new CalendarBenchmark();
        calendar.level = Level.WEEK;
        assertThat(calendar.ordinalOfADay()).isPositive();
        DatesCsvBenchmark dates = new DatesCsvBenchmark();
        dates.make();
        dates.workOutAndWrite();
        dates.writeTheSameBytes();
        dates.remove();
    }
}
