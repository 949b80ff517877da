package dev.mile.measure;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.MathContext;
import java.math.RoundingMode;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.Scale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ValueTest {
    private static Value exact(String digits) {
        return Value.of(new BigDecimal(digits));
    }

    @Test
    void blankInBlankOutForEveryOperator() {
        for (Value other : new Value[] {exact("2"), Value.of(0.5), Value.UNKNOWN}) {
            assertThat(Value.UNKNOWN.plus(other).isBlank()).isTrue();
            assertThat(other.minus(Value.UNKNOWN).isBlank()).isTrue();
            assertThat(other.times(Value.UNKNOWN).isBlank()).isTrue();
            assertThat(Value.UNKNOWN.dividedBy(other).isBlank()).isTrue();
            assertThat(other.dividedBy(Value.ZERO).isBlank()).isTrue();
        }
        assertThat(Value.UNKNOWN.or(Value.ZERO)).isEqualTo(Value.ZERO);
        assertThat(Value.UNKNOWN).hasToString("");
    }

    @ParameterizedTest(name = "{0} / {1} = {2}")
    @CsvSource({
        "1, 3, 0.3333333333333333",
        "77.31, 116, 0.6664655172413793",
        "0.1, 0.3, 0.3333333333333333",
        "2, 1, 2",
        "9007199254740993, 1, 9007199254740992",
        "-1, 3, -0.3333333333333333",
        "1e-20, 3e-20, 0.3333333333333333",
        "123456789012345678901234567890, 3, 41152263004115226300411522630"
    })
    void aRatioIsOneRoundedDouble(BigDecimal a, BigDecimal b, double ratio) {
        assertThat(Value.of(a).dividedBy(Value.of(b)).toDouble()).isEqualTo(ratio);
    }

    /** Correct rounding: no double lies nearer to the exact quotient. */
    @Property(tries = 2_000, seed = "20260814")
    void quotientsAreCorrectlyRounded(
            @ForAll @BigRange(min = "-1000000000000000000000", max = "1000000000000000000000") @Scale(4) BigDecimal a,
            @ForAll @BigRange(min = "0.0001", max = "900000000000000000000") @Scale(4) BigDecimal b) {
        double q = Value.quotient(a, b);
        BigDecimal error = distance(a, b, q);
        assertThat(error).isLessThanOrEqualTo(distance(a, b, Math.nextUp(q)));
        assertThat(error).isLessThanOrEqualTo(distance(a, b, Math.nextDown(q)));
    }

    /** |a - q b|, which orders doubles by their distance from a / b without dividing. */
    private static BigDecimal distance(BigDecimal a, BigDecimal b, double q) {
        return a.subtract(new BigDecimal(q).multiply(b)).abs();
    }

    @Property(tries = 500, seed = "20260814")
    void sumsAndProductsStayExact(
            @ForAll @BigRange(min = "-99999999999999999999", max = "99999999999999999999") @Scale(6) BigDecimal a,
            @ForAll @BigRange(min = "-99999999999", max = "99999999999") @Scale(3) BigDecimal b) {
        assertThat(Value.of(a).plus(Value.of(b)).minus(Value.of(b)).decimal()).isEqualByComparingTo(a);
        assertThat(Value.of(a).times(Value.of(b)).decimal()).isEqualByComparingTo(a.multiply(b));
    }

    @Test
    void digitsAreShownWithoutAnExponent() {
        assertThat(Value.of(1e-9)).hasToString("0.0000000010");
        assertThat(exact("12.50")).hasToString("12.50");
        assertThat(Value.of(2.0)).hasToString("2");
        assertThat(exact("1E+3")).hasToString("1000");
        assertThat(Value.of(new BigDecimal(BigInteger.TEN.pow(30))
                        .divide(new BigDecimal("3"), MathContext.DECIMAL128)
                        .setScale(2, RoundingMode.DOWN)))
                .hasToString("333333333333333333333333333333.33");
    }

    @Test
    void resultsThatNoDoubleHoldsAreRefused() {
        assertThatThrownBy(() -> Value.of(1e308).times(Value.of(10.0)))
                .hasMessage("a result is larger than a floating number can hold; check the measure's divisions");
    }

    // by hand; `met` is a share of the goal's size, so that negative goals work
    @ParameterizedTest(name = "{0}: {1} against {2} is {3}")
    @CsvSource({
        "HIGH, 105, 100, MET", "HIGH, 104.99, 100, NEAR", "HIGH, 99, 100, MISSED", "HIGH, -95, -100, MET",
                "HIGH, -96, -100, NEAR",
        "HIGH, 0, 0, MET", "LOW, 95, 100, MET", "LOW, 100, 100, NEAR", "LOW, 101, 100, MISSED", "LOW, -105, -100, MET",
        "CLOSE, 104, 100, MET", "CLOSE, 96, 100, MET", "CLOSE, 109, 100, NEAR", "CLOSE, 111, 100, MISSED"
    })
    void targetsHoldAValueAgainstAGoal(TargetBands.Aim aim, BigDecimal value, BigDecimal goal, TargetStatus status) {
        String met = aim == TargetBands.Aim.LOW ? "0.95" : "1.05";
        String near = aim == TargetBands.Aim.CLOSE ? "1.10" : "1";
        TargetBands target = new TargetBands(aim, new BigDecimal(met), new BigDecimal(near));
        assertThat(target.status(Value.of(value), Value.of(goal))).contains(status);
        assertThat(target.status(Value.UNKNOWN, Value.of(goal))).isEmpty();
    }
}
