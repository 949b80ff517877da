package dev.mile.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.api.Test;

class ProgressTest {
    @Test
    void shortWorkSaysNothingAndLongWorkEstimates() throws InterruptedException {
        ByteArrayOutputStream bytes = new ByteArrayOutputStream();
        Progress progress = new Progress(new PrintStream(bytes, true, StandardCharsets.UTF_8), "reading", 0.2);
        progress.accept(0.1);
        progress.accept(0.2);
        assertThat(bytes.toString(StandardCharsets.UTF_8)).isEmpty();
        Thread.sleep(300);
        progress.accept(0.5);
        assertThat(bytes.toString(StandardCharsets.UTF_8)).matches("reading: 50 %, about [0-9]+ s left\\R");
        // another statement begins anew
        progress.accept(1);
        progress.accept(0.4);
        assertThat(bytes.toString(StandardCharsets.UTF_8).lines()).hasSize(1);
    }
}
