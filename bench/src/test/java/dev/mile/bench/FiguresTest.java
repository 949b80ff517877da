package dev.mile.bench;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a check of speeds compares. */
class FiguresTest {
    @TempDir
    private Path folder;

    private static Figures figures(double cold, double kept) {
        Figures figures = new Figures();
        figures.keep("cold, ordered, to SQL", cold);
        figures.keep("kept", kept);
        return figures;
    }

    @Test
    void aRatioThatIsMoreThanATenthLargerInBothMeasurementsIsSlower() throws IOException {
        Path known = folder.resolve("figures.csv");
        figures(0.5, 0.02).write(known);
        assertThat(figures(0.549, 0.02).slowerThan(known, 0.1)).isEmpty();
        Figures now = figures(0.56, 0.03);
        assertThat(now.slowerThan(known, 0.1))
                .containsExactly("cold, ordered, to SQL: 0.560, and was 0.500", "kept: 0.030, and was 0.020");
        now.takeSmaller(figures(0.51, 0.04));
        assertThat(now.slowerThan(known, 0.1)).containsExactly("kept: 0.030, and was 0.020");
        now.takeLarger(figures(0.7, 0.01));
        assertThat(now.slowerThan(known, 0.1)).hasSize(2);
        assertThat(new Figures().slowerThan(known, 0.1))
                .as("figures that are missing")
                .hasSize(2);
    }
}
