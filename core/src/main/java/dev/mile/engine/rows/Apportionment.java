package dev.mile.engine.rows;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;
import java.util.Arrays;

/**
 * Spreads an amount by weights: the running sum is rounded, half away from zero, and each part is what it adds. So the running sum is
 * never more than half a unit of the last digit from the exact one, and the parts add up to the amount.
 */
public final class Apportionment {
    private static final int LEAST_SCALE = 2;

    private Apportionment() {}

    /**
     * Returns the parts of the amount, at its own scale but two decimals at least.
     *
     * @param weights none negative, one at least positive
     */
    public static BigDecimal[] parts(BigDecimal amount, BigDecimal[] weights) {
        int scale = Math.max(amount.stripTrailingZeros().scale(), LEAST_SCALE);
        BigInteger whole = amount.setScale(scale).unscaledValue();
        int digits = Math.max(
                Arrays.stream(weights).mapToInt(BigDecimal::scale).max().orElse(0), 0);
        BigInteger sum = BigInteger.ZERO;
        for (BigDecimal weight : weights) {
            sum = sum.add(weight.setScale(digits).unscaledValue());
        }
        BigDecimal[] parts = new BigDecimal[weights.length];
        BigInteger weighed = BigInteger.ZERO;
        BigInteger given = BigInteger.ZERO;
        for (int i = 0; i < weights.length; i++) {
            weighed = weighed.add(weights[i].setScale(digits).unscaledValue());
            BigInteger rounded = new BigDecimal(whole.multiply(weighed))
                    .divide(new BigDecimal(sum), 0, RoundingMode.HALF_UP)
                    .toBigInteger();
            parts[i] = new BigDecimal(rounded.subtract(given), scale);
            given = rounded;
        }
        return parts;
    }
}
