package dev.mile.model;

import com.code_intelligence.jazzer.junit.FuzzTest;
import dev.mile.measure.Measure;
import java.nio.charset.StandardCharsets;

/** Any text as a measure, a condition, a span, and what reports say; what is read prints as text that reads back. */
class LanguageFuzzTest {
    @FuzzTest(maxDuration = "3s")
    void language(byte[] input) throws Exception {
        String text = new String(input, StandardCharsets.UTF_8);
        Fuzzing.expectAnswerOrRefusal(() -> {
            Measure measure = MeasureLanguage.measure(text);
            if (!MeasureLanguage.measure(measure.toString()).equals(measure)) {
                throw new AssertionError(measure + " reads back as another measure");
            }
        });
        Fuzzing.expectAnswerOrRefusal(() -> MeasureLanguage.condition(text));
        Fuzzing.expectAnswerOrRefusal(() -> MeasureLanguage.span(text));
        Fuzzing.expectAnswerOrRefusal(() -> ReportSyntax.when(text));
        Fuzzing.expectAnswerOrRefusal(() -> ReportSyntax.sort(text));
        Fuzzing.expectAnswerOrRefusal(() -> ReportSyntax.top(text));
    }
}
