package dev.mile.model;

import com.code_intelligence.jazzer.junit.FuzzTest;
import dev.mile.workday.WorkingWeek;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.DayOfWeek;
import java.time.ZoneOffset;
import java.util.List;
import org.junit.jupiter.api.io.TempDir;

/** Any bytes as an iCalendar file and as a CSV file of closures. */
class HolidayFileFuzzTest {
    @TempDir
    static Path folder;

    @FuzzTest(maxDuration = "3s")
    void holidayFiles(byte[] input) throws Exception {
        for (String name : List.of("fuzz.ics", "fuzz.csv")) {
            Path file = Files.write(folder.resolve(name), input);
            Fuzzing.expectAnswerOrRefusal(() -> new HolidayFiles(ZoneOffset.UTC, HolidayCache.NONE)
                    .read(file, WorkingWeek.named("w").rest(DayOfWeek.SUNDAY)));
        }
    }
}
