package dev.mile.measure;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.internal.Overflow;
import java.io.Serializable;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.Objects;

/**
 * The value of a measure in a cell: an exact decimal, an IEEE double (a ratio, or what was made of one), or blank.
 *
 * <p>Exact values stay exact under +, - and *; a division of two exact values is the correctly rounded double. Blank in, blank
 * out; a division by zero is blank.
 */
public final class Value implements Serializable {
    private static final long serialVersionUID = 1L;

    /** No value: no rows, or arithmetic on a blank. */
    public static final Value BLANK = new Value(Kind.BLANK, 0, 0, null, Double.NaN);

    /** Exact zero. */
    public static final Value ZERO = of(0L);

    // two more bits than a double holds, and one that stays set where digits were cut off
    private static final int QUOTIENT_BITS = 66;

    // a double holds every whole number up to 2^53
    private static final long EXACT_DOUBLE = 1L << 53;

    private static final long[] POWERS = new long[19];

    static {
        POWERS[0] = 1;
        for (int i = 1; i < POWERS.length; i++) {
            POWERS[i] = POWERS[i - 1] * 10;
        }
    }

    private enum Kind {
        BLANK,
        /** An exact decimal whose digits fit into a long. */
        COMPACT,
        LARGE,
        RATIO
    }

    private final Kind kind;
    private final long unscaled;
    private final int scale;
    private final BigDecimal large;
    private final double ratio;

    private Value(Kind kind, long unscaled, int scale, BigDecimal large, double ratio) {
        this.kind = kind;
        this.unscaled = unscaled;
        this.scale = scale;
        this.large = large;
        this.ratio = ratio;
    }

    /** Returns an exact number. */
    public static Value of(BigDecimal exact) {
        requireNonNull(exact, "exact is null");
        if (exact.scale() >= 0 && exact.scale() < POWERS.length && exact.precision() < POWERS.length) {
            long digits = exact.scale() == 0
                    ? exact.longValue()
                    : exact.movePointRight(exact.scale()).longValue();
            return of(digits, exact.scale());
        }
        return new Value(Kind.LARGE, 0, 0, exact, 0);
    }

    /** Returns an exact whole number. */
    public static Value of(long number) {
        return of(number, 0);
    }

    /**
     * Returns an exact decimal.
     *
     * @param unscaled its digits
     * @param scale how many of them follow the decimal point, not negative
     */
    public static Value of(long unscaled, int scale) {
        return new Value(Kind.COMPACT, unscaled, scale, null, 0);
    }

    /**
     * Returns a floating value.
     *
     * @throws MileException if it is infinite
     */
    public static Value of(double ratio) {
        if (Double.isInfinite(ratio)) {
            throw DataException.of("a result is larger than a floating number can hold; check the measure's divisions");
        }
        return Double.isNaN(ratio) ? BLANK : new Value(Kind.RATIO, 0, 0, null, ratio);
    }

    /** Returns whether there is no number. */
    public boolean isBlank() {
        return kind == Kind.BLANK;
    }

    /** Returns whether the value is an exact decimal. */
    public boolean isExact() {
        return kind == Kind.COMPACT || kind == Kind.LARGE;
    }

    /** Returns the value as a decimal: exact, or the shortest decimal of the double; null for a blank. */
    public BigDecimal decimal() {
        return switch (kind) {
            case BLANK -> null;
            case COMPACT -> BigDecimal.valueOf(unscaled, scale);
            case LARGE -> large;
            case RATIO -> new BigDecimal(ratio);
        };
    }

    /** Returns the value as the nearest double; NaN for a blank. */
    public double toDouble() {
        if (kind == Kind.COMPACT && Math.abs(unscaled) < EXACT_DOUBLE && scale < POWERS.length) {
            return scale == 0 ? unscaled : quotient(unscaled, POWERS[scale]);
        }
        return isExact() ? decimal().doubleValue() : ratio;
    }

    /** Returns the sum; exact if both are, blank if either is. */
    public Value plus(Value other) {
        requireNonNull(other, "other is null");
        if (isBlank() || other.isBlank()) {
            return BLANK;
        }
        if (kind == Kind.COMPACT && other.kind == Kind.COMPACT && scale == other.scale) {
            long sum = unscaled + other.unscaled;
            if (!Overflow.ofSum(unscaled, other.unscaled, sum)) {
                return of(sum, scale);
            }
        }
        return isExact() && other.isExact() ? of(decimal().add(other.decimal())) : of(toDouble() + other.toDouble());
    }

    /** Returns the difference; exact if both are, blank if either is. */
    public Value minus(Value other) {
        requireNonNull(other, "other is null");
        return plus(other.negated());
    }

    /** Returns the product; exact if both are, blank if either is. */
    public Value times(Value other) {
        requireNonNull(other, "other is null");
        if (isBlank() || other.isBlank()) {
            return BLANK;
        }
        return isExact() && other.isExact()
                ? of(decimal().multiply(other.decimal()))
                : of(toDouble() * other.toDouble());
    }

    /** Returns the quotient, one correctly rounded double; blank if either is, and for a division by zero. */
    public Value dividedBy(Value other) {
        requireNonNull(other, "other is null");
        if (isBlank() || other.isBlank() || other.isZero()) {
            return BLANK;
        }
        if (kind == Kind.COMPACT
                && other.kind == Kind.COMPACT
                && scale == other.scale
                && Math.abs(unscaled) < EXACT_DOUBLE
                && Math.abs(other.unscaled) < EXACT_DOUBLE) {
            return of(quotient(unscaled, other.unscaled));
        }
        return isExact() && other.isExact()
                ? of(quotient(decimal(), other.decimal()))
                : of(toDouble() / other.toDouble());
    }

    private boolean isZero() {
        return switch (kind) {
            case COMPACT -> unscaled == 0;
            case LARGE -> large.signum() == 0;
            default -> ratio == 0;
        };
    }

    /** Returns the number with the other sign. */
    public Value negated() {
        return switch (kind) {
            case BLANK -> BLANK;
            case COMPACT -> unscaled == Long.MIN_VALUE ? of(decimal().negate()) : of(-unscaled, scale);
            case LARGE -> of(large.negate());
            case RATIO -> of(-ratio);
        };
    }

    /** Returns this value, or the other where this one is blank. */
    public Value or(Value other) {
        requireNonNull(other, "other is null");
        return isBlank() ? other : this;
    }

    /** Returns the correctly rounded quotient of two whole numbers that doubles hold exactly. */
    private static double quotient(long a, long b) {
        return (double) a / (double) b;
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
        return kind == Kind.COMPACT && other.kind == Kind.COMPACT && scale == other.scale
                ? Long.compare(unscaled, other.unscaled)
                : decimal().compareTo(other.decimal());
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Value v
                && (isExact() ? v.isExact() && compareTo(v) == 0 : !v.isExact() && Double.compare(ratio, v.ratio) == 0);
    }

    @Override
    public int hashCode() {
        return isExact() ? Objects.hash(decimal().stripTrailingZeros()) : Double.hashCode(ratio);
    }

    /** Returns the exact digits, without an exponent; an empty text for a blank. */
    @Override
    public String toString() {
        if (isBlank()) {
            return "";
        }
        if (isExact()) {
            return scale == 0 && kind == Kind.COMPACT
                    ? Long.toString(unscaled)
                    : decimal().toPlainString();
        }
        return ratio == Math.rint(ratio) && Math.abs(ratio) < EXACT_DOUBLE
                ? Long.toString((long) ratio)
                : new BigDecimal(Double.toString(ratio)).toPlainString();
    }
}
