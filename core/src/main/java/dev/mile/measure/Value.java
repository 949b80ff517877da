package dev.mile.measure;

import dev.mile.calendar.MileException;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Objects;

/**
 * The value of a measure in a cell: an exact decimal, an IEEE double (a ratio, or what was made of one), or blank.
 *
 * <p>Exact values stay exact under +, - and *; a division of two exact values is the correctly rounded double. Blank in, blank
 * out; a division by zero is blank.
 */
public final class Value {
    /** No value: no rows, or arithmetic on a blank. */
    public static final Value BLANK = new Value(null, Double.NaN);

    /** Exact zero. */
    public static final Value ZERO = new Value(BigDecimal.ZERO, 0);

    // two more bits than a double holds, and one that stays set where digits were cut off
    private static final int QUOTIENT_BITS = 66;

    // a double holds every whole number up to 2^53
    private static final long EXACT_DOUBLE = 1L << 53;

    private final BigDecimal exact;
    private final double ratio;

    private Value(BigDecimal exact, double ratio) {
        this.exact = exact;
        this.ratio = ratio;
    }

    /** Returns an exact number. */
    public static Value of(BigDecimal exact) {
        return exact == null ? BLANK : new Value(exact, 0);
    }

    /** Returns an exact whole number. */
    public static Value of(long number) {
        return new Value(BigDecimal.valueOf(number), 0);
    }

    /**
     * Returns a floating value.
     *
     * @throws MileException if it is infinite
     */
    public static Value of(double ratio) {
        if (Double.isInfinite(ratio)) {
            throw MileException.data(
                    "a result is larger than a floating number can hold; check the measure's divisions");
        }
        return Double.isNaN(ratio) ? BLANK : new Value(null, ratio);
    }

    /** Tells whether there is no number. */
    public boolean isBlank() {
        return exact == null && Double.isNaN(ratio);
    }

    /** Tells whether the value is an exact decimal. */
    public boolean isExact() {
        return exact != null;
    }

    /** Returns the value as a decimal: exact, or the decimal that the double stands for; null for a blank. */
    public BigDecimal decimal() {
        return exact != null ? exact : isBlank() ? null : new BigDecimal(ratio);
    }

    /** Returns the value as the nearest double; NaN for a blank. */
    public double toDouble() {
        return exact != null ? exact.doubleValue() : ratio;
    }

    /** Returns the sum; exact if both are, blank if either is. */
    public Value plus(Value other) {
        if (isBlank() || other.isBlank()) {
            return BLANK;
        }
        return exact != null && other.exact != null ? of(exact.add(other.exact)) : of(toDouble() + other.toDouble());
    }

    /** Returns the difference; exact if both are, blank if either is. */
    public Value minus(Value other) {
        return plus(other.negated());
    }

    /** Returns the product; exact if both are, blank if either is. */
    public Value times(Value other) {
        if (isBlank() || other.isBlank()) {
            return BLANK;
        }
        return exact != null && other.exact != null
                ? of(exact.multiply(other.exact))
                : of(toDouble() * other.toDouble());
    }

    /** Returns the quotient, one correctly rounded double; blank if either is, and for a division by zero. */
    public Value dividedBy(Value other) {
        if (isBlank() || other.isBlank() || other.isZero()) {
            return BLANK;
        }
        return exact != null && other.exact != null
                ? of(quotient(exact, other.exact))
                : of(toDouble() / other.toDouble());
    }

    private boolean isZero() {
        return exact != null ? exact.signum() == 0 : ratio == 0;
    }

    /** Returns the number with the other sign. */
    public Value negated() {
        return exact != null ? of(exact.negate()) : isBlank() ? BLANK : of(-ratio);
    }

    /** Returns this value, or the other where this one is blank. */
    public Value or(Value other) {
        return isBlank() ? other : this;
    }

    /** Returns the correctly rounded double of a quotient. */
    static double quotient(BigDecimal a, BigDecimal b) {
        int scale = Math.max(Math.max(a.scale(), b.scale()), 0);
        BigInteger n = a.setScale(scale).unscaledValue();
        BigInteger d = b.setScale(scale).unscaledValue();
        if (n.bitLength() <= 53 && d.bitLength() <= 53) {
            return (double) n.longValue() / (double) d.longValue();
        }
        boolean negative = n.signum() * d.signum() < 0;
        n = n.abs();
        d = d.abs();
        int shift = Math.max(0, QUOTIENT_BITS - (n.bitLength() - d.bitLength()));
        BigInteger[] q = n.shiftLeft(shift).divideAndRemainder(d);
        BigInteger bits = q[1].signum() == 0 ? q[0] : q[0].shiftLeft(1).setBit(0);
        int exponent = q[1].signum() == 0 ? -shift : -shift - 1;
        double result = Math.scalb(bits.doubleValue(), exponent);
        return negative ? -result : result;
    }

    /** Compares two values that are not blank, exactly. */
    public int compareTo(Value other) {
        return decimal().compareTo(other.decimal());
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Value v
                && (exact == null
                        ? v.exact == null && Double.compare(ratio, v.ratio) == 0
                        : v.exact != null && exact.compareTo(v.exact) == 0);
    }

    @Override
    public int hashCode() {
        return exact == null ? Double.hashCode(ratio) : Objects.hash(exact.stripTrailingZeros());
    }

    /** Returns the exact digits, without an exponent; an empty text for a blank. */
    @Override
    public String toString() {
        if (isBlank()) {
            return "";
        }
        if (exact != null) {
            return exact.toPlainString();
        }
        return ratio == Math.rint(ratio) && Math.abs(ratio) < EXACT_DOUBLE
                ? Long.toString((long) ratio)
                : new BigDecimal(Double.toString(ratio)).toPlainString();
    }
}
