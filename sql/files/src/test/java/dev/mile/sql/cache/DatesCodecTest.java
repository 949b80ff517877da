package dev.mile.sql.cache;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.engine.DateCount;
import java.util.List;
import org.junit.jupiter.api.Test;

class DatesCodecTest {
    @Test
    void datesComeBackInTheirOrder() {
        List<DateCount> dates = List.of(
                new DateCount("ordered", -700_000, 3),
                new DateCount("ordered", 20_000, 1),
                new DateCount("ordered", 20_001, 9_000_000_000L),
                new DateCount("paid", 2_932_896, 2),
                new DateCount("paid", 5, 1));
        assertThat(DatesCodec.read(DatesCodec.written(dates))).isEqualTo(dates);
        assertThat(DatesCodec.read(DatesCodec.written(List.of()))).isEmpty();
    }
}
