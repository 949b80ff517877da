package dev.mile.engine.rows;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Arrays;
import java.util.Comparator;

/** Deals an amount out by weights so that the parts add up to it to the last unit: the method of the largest remainder. */
public final class Apportionment {
    private static final int LEAST_SCALE = 2;

    private Apportionment() {}

    /**
     * Returns the parts of the amount, at its own scale but two decimals at least; ties of the remainder go to the earliest.
     *
     * @param weights none negative, one at least positive
     */
    public static BigDecimal[] parts(BigDecimal amount, BigDecimal[] weights) {
        int scale = Math.max(amount.stripTrailingZeros().scale(), LEAST_SCALE);
        BigInteger whole = amount.setScale(scale).unscaledValue();
        BigInteger size = whole.abs();
        int digits = Arrays.stream(weights).mapToInt(BigDecimal::scale).max().orElse(0);
        BigInteger[] exact = new BigInteger[weights.length];
        BigInteger sum = BigInteger.ZERO;
        for (int i = 0; i < weights.length; i++) {
            exact[i] = weights[i].setScale(Math.max(digits, 0)).unscaledValue();
            sum = sum.add(exact[i]);
        }
        BigInteger[] parts = new BigInteger[weights.length];
        BigInteger[] remainders = new BigInteger[weights.length];
        BigInteger left = size;
        for (int i = 0; i < weights.length; i++) {
            BigInteger[] quota = size.multiply(exact[i]).divideAndRemainder(sum);
            parts[i] = quota[0];
            remainders[i] = quota[1];
            left = left.subtract(quota[0]);
        }
        Integer[] order = new Integer[weights.length];
        Arrays.setAll(order, i -> i);
        // a stable sort, so that equal remainders stay in the order of the days
        Arrays.sort(order, Comparator.comparing((Integer i) -> remainders[i]).reversed());
        for (int i = 0; i < left.intValueExact(); i++) {
            parts[order[i]] = parts[order[i]].add(BigInteger.ONE);
        }
        BigDecimal[] amounts = new BigDecimal[weights.length];
        for (int i = 0; i < amounts.length; i++) {
            amounts[i] = new BigDecimal(whole.signum() < 0 ? parts[i].negate() : parts[i], scale);
        }
        return amounts;
    }
}
