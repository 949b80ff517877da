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

    private static Value value(String text) {
        return switch (text) {
            case "nothing" -> Value.NOTHING;
            case "undefined" -> Value.UNDEFINED;
            case "unknown" -> Value.UNKNOWN;
            default -> exact(text);
        };
    }

    // by hand, from the meanings of the three blanks
    @ParameterizedTest(name = "{0} and {1}: + {2}, - {3}, * {4}, / {5}, known part {6}")
    @CsvSource({
        "2, nothing, 2, 2, nothing, undefined, 2",
        "nothing, 2, 2, -2, nothing, nothing, 2",
        "nothing, 0, 0, 0, nothing, undefined, 0",
        "2, 0, 2, 2, 0, undefined, 2",
        "nothing, nothing, nothing, nothing, nothing, undefined, nothing",
        "2, undefined, undefined, undefined, undefined, undefined, 2",
        "nothing, undefined, undefined, undefined, undefined, undefined, nothing",
        "undefined, undefined, undefined, undefined, undefined, undefined, undefined",
        "undefined, 0, undefined, undefined, undefined, undefined, 0",
        "2, unknown, unknown, unknown, unknown, unknown, 2",
        "unknown, nothing, unknown, unknown, unknown, unknown, nothing",
        "unknown, undefined, unknown, unknown, unknown, unknown, undefined",
        "unknown, unknown, unknown, unknown, unknown, unknown, unknown"
    })
    void everyKindOfBlankGoesThroughEveryOperator(
            String a, String b, String sum, String difference, String product, String quotient, String known) {
        assertThat(value(a).plus(value(b))).isEqualTo(value(sum));
        assertThat(value(b).plus(value(a))).isEqualTo(value(sum));
        assertThat(value(a).minus(value(b))).isEqualTo(value(difference));
        assertThat(value(a).times(value(b))).isEqualTo(value(product));
        assertThat(value(b).times(value(a))).isEqualTo(value(product));
        assertThat(value(a).dividedBy(value(b))).isEqualTo(value(quotient));
        assertThat(value(a).plusIfKnown(value(b))).isEqualTo(value(known));
        assertThat(value(b).plusIfKnown(value(a))).isEqualTo(value(known));
    }

    @Test
    void numbersStandInForNothingAndUndefinedOnly() {
        assertThat(Value.NOTHING.or(exact("3"))).isEqualTo(exact("3"));
        assertThat(Value.UNDEFINED.or(exact("3"))).isEqualTo(exact("3"));
        assertThat(Value.UNKNOWN.or(exact("3"))).isEqualTo(Value.UNKNOWN);
        assertThat(exact("2").or(exact("3"))).isEqualTo(exact("2"));
        assertThat(Value.NOTHING.orZero()).isEqualTo(Value.ZERO);
        assertThat(Value.UNKNOWN.orZero()).isEqualTo(Value.UNKNOWN);
        for (Value blank : new Value[] {Value.NOTHING, Value.UNDEFINED, Value.UNKNOWN}) {
            assertThat(blank).hasToString("").matches(Value::isBlank);
            assertThat(blank.negated()).isSameAs(blank);
            assertThat(blank.decimal()).isNull();
        }
        assertThat(Value.NOTHING).isNotEqualTo(Value.UNDEFINED).isNotEqualTo(Value.UNKNOWN);
    }

    @ParameterizedTest(name = "{0}/{1} + {2}/{3} = {4}")
    @CsvSource({"2649.2, 20, 264.92, 2, 264.92", "1, 3, 2, 3, 1", "0.1, 1, 0.2, 1, 0.3", "1, 3, -1, 3, 0"})
    void aSumOfRatiosIsRoundedOnce(BigDecimal a, BigDecimal b, BigDecimal c, BigDecimal d, BigDecimal sum) {
        Value first = Value.of(a).dividedBy(Value.of(b));
        Value second = Value.of(c).dividedBy(Value.of(d));
        assertThat(first.plus(second).toDouble()).isEqualTo(sum.doubleValue());
        assertThat(first.minus(second.negated()).toDouble()).isEqualTo(sum.doubleValue());
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

    /** Numbers that fit into a long, larger ones and floating ones are computed with in different ways, and mean the same. */
    @Test
    void theWayANumberIsHeldDoesNotShow() {
        BigDecimal wide = new BigDecimal("1234567890123456789012.5");
        BigDecimal deep = new BigDecimal("0.0000000000000000000001");
        assertThat(Value.of(wide).decimal()).isEqualTo(wide);
        assertThat(Value.of(deep).decimal()).isEqualTo(deep);
        assertThat(Value.of(new BigDecimal("1E+3")).decimal()).isEqualByComparingTo("1000");
        assertThat(Value.of(5, -2)).isEqualTo(exact("500")).hasToString("500");
        assertThat(Value.of(5, -2).plus(Value.of(5, -2)).toDouble()).isEqualTo(1000);
        assertThat(exact("2.50")).isEqualTo(exact("2.5")).hasSameHashCodeAs(exact("2.5"));
        assertThat(exact("2.5")).doesNotHaveSameHashCodeAs(exact("2.6")).isNotEqualTo(Value.of(2.5));
        assertThat(Value.of(0.25)).isEqualTo(Value.of(0.25)).doesNotHaveSameHashCodeAs(Value.of(0.5));
        assertThat(exact("2.5").compareTo(exact("2.45"))).isPositive();
        assertThat(exact("2.5").compareTo(Value.of(wide))).isNegative();
        assertThat(exact("2.5").compareTo(Value.of(2.5))).isZero();
        assertThat(Value.of(5, 1).compareTo(Value.of(5, 2))).isPositive();
        // beyond what a double holds exactly
        assertThat(Value.of(9_007_199_254_740_993L, 1).toDouble()).isEqualTo(900_719_925_474_099.3);
        assertThat(Value.of(-9_007_199_254_740_993L).toDouble()).isEqualTo(-9_007_199_254_740_992.0);
        assertThat(Value.of(15, 1).toDouble()).isEqualTo(1.5);
        assertThat(Value.of(wide).toDouble()).isEqualTo(1.2345678901234568e21);
        assertThat(Value.UNKNOWN.toDouble()).isNaN();
    }

    @Test
    void floatingNumbersAreComputedWithAsSuch() {
        Value half = Value.of(0.5);
        assertThat(half.plus(Value.of(0.25))).isEqualTo(Value.of(0.75));
        assertThat(half.plus(exact("1"))).isEqualTo(Value.of(1.5));
        assertThat(Value.of(3.0).dividedBy(half)).isEqualTo(Value.of(6.0));
        assertThat(exact("3").dividedBy(half)).isEqualTo(Value.of(6.0));
        assertThat(half.dividedBy(exact("4"))).isEqualTo(Value.of(0.125));
        assertThat(half.dividedBy(Value.of(0.0))).isEqualTo(Value.UNDEFINED);
        assertThat(half.negated()).isEqualTo(Value.of(-0.5));
        assertThat(half.times(Value.of(4.0))).isEqualTo(Value.of(2.0));
        assertThat(half).hasToString("0.5").doesNotMatch(Value::isExact);
        assertThat(Value.of(9_007_199_254_740_992.0)).hasToString("9007199254740992");
        assertThat(Value.of(Double.NaN)).isSameAs(Value.UNDEFINED);
        // a ratio that was added is still one when its sign changes
        Value third = exact("1").dividedBy(exact("3"));
        assertThat(third.plus(third).negated().plus(exact("1")).toDouble()).isEqualTo(1.0 / 3);
        assertThat(third.plus(half).toDouble()).isEqualTo(1.0 / 3 + 0.5);
    }

    @Test
    void theSmallestLongHasAnOpposite() {
        assertThat(Value.of(Long.MIN_VALUE).negated().decimal()).isEqualTo(new BigDecimal("9223372036854775808"));
        assertThat(Value.of(Long.MAX_VALUE).plus(Value.of(1)).decimal())
                .isEqualTo(new BigDecimal("9223372036854775808"));
        assertThat(Value.of(new BigDecimal("10000000000000000000000")).negated().decimal())
                .isEqualTo(new BigDecimal("-10000000000000000000000"));
        assertThat(exact("1").dividedBy(Value.of(new BigDecimal("0E-30")))).isEqualTo(Value.UNDEFINED);
        assertThat(Value.of(9_007_199_254_740_993L)
                        .dividedBy(Value.of(9_007_199_254_740_991L))
                        .toDouble())
                .isEqualTo(1.0000000000000002);
    }
}
