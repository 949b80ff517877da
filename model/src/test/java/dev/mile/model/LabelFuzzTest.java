package dev.mile.model;

import com.code_intelligence.jazzer.junit.FuzzTest;
import dev.mile.calendar.FiscalCalendar;
import dev.mile.calendar.LabelTemplates;
import dev.mile.calendar.Level;
import dev.mile.workday.HolidayDate;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.time.Month;

/** Any text as the label of a period, as a template of labels, and as the date of a holiday. */
class LabelFuzzTest {
    @FuzzTest(maxDuration = "3s")
    void labels(byte[] input) throws Exception {
        String text = new String(input, StandardCharsets.UTF_8);
        FiscalCalendar months = FiscalCalendar.startingIn(Month.APRIL);
        for (Level level : Level.values()) {
            Fuzzing.expectAnswerOrRefusal(() -> months.parse(text, level, LocalDate.of(2026, 8, 14)));
            Fuzzing.expectAnswerOrRefusal(() -> months.withLabels(LabelTemplates.DEFAULT.with(level, text))
                    .label(
                            level,
                            months.ordinal(level, LocalDate.of(2026, 8, 14)).orElseThrow()));
        }
        Fuzzing.expectAnswerOrRefusal(() -> HolidayDate.parse(text));
    }
}
