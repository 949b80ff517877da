package dev.mile.model;

import com.code_intelligence.jazzer.junit.FuzzTest;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;

/** Any text as a model file. */
class ModelFileFuzzTest {
    @FuzzTest(maxDuration = "3s")
    void modelFile(byte[] input) throws Exception {
        String text = new String(input, StandardCharsets.UTF_8);
        Path folder = Path.of("target");
        Fuzzing.expectAnswerOrRefusal(() -> Model.parse(text, folder.resolve("mile.yaml")));
    }
}
