package dev.mile.model;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mile.fact.Condition;
import dev.mile.measure.Measure;
import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;

/** After a condition, an {@code or} before a number is the blank rule; before anything else it goes on with the condition. */
class BlankRuleTest {
    private static final Measure COUNT = Measure.count("sales");
    private static final Condition A = Condition.column("a").is("x");
    private static final Condition B = Condition.column("b").is("y");

    @Test
    void aNumberStandsInForBlanks() {
        assertThat(MeasureLanguage.measure("count(sales) where a = 'x' or 0"))
                .isEqualTo(COUNT.where(A).orElse(BigDecimal.ZERO));
        assertThat(MeasureLanguage.measure("count(sales) where a = 'x' or -0.5"))
                .isEqualTo(COUNT.where(A).orElse(new BigDecimal("-0.5")));
    }

    @Test
    void aNameGoesOnWithTheCondition() {
        Condition either = new Condition.Or(List.of(A, B));
        assertThat(MeasureLanguage.measure("count(sales) where a = 'x' or b = 'y'"))
                .isEqualTo(COUNT.where(either));
        assertThat(MeasureLanguage.measure("count(sales) where a = 'x' or b = 'y' or 3"))
                .isEqualTo(COUNT.where(either).orElse(new BigDecimal("3")));
        assertThat(MeasureLanguage.measure("count(sales) where (a = 'x' or b = 'y') and a = 'x'"))
                .isEqualTo(COUNT.where(new Condition.And(List.of(either, A))));
    }
}
