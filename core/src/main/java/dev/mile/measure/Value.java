package dev.mile.measure;

import static java.util.Objects.requireNonNull;

import dev.mile.DataException;
import dev.mile.MileException;
import dev.mile.internal.Overflow;
import java.io.Serializable;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.MathContext;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * The value of a measure in a cell: an exact decimal, an IEEE double (a ratio, or the result of arithmetic with one), or a blank of one
 * of three kinds: {@link #NOTHING}, {@link #UNDEFINED} and {@link #UNKNOWN}.
 *
 * <p>Exact values stay exact under +, - and *. A division of two exact values, and a sum of such ratios, is the correctly rounded
 * double. In + and -, nothing counts as zero beside a number; nothing times or divided by a number is nothing. A division by zero or
 * by nothing is undefined. Undefined and unknown carry through every operator, unknown before undefined.
 */
public final class Value implements Serializable {
    private static final long serialVersionUID = 1L;

    /** No rows on days that are covered: nothing was sold. */
    public static final Value NOTHING = blank(Kind.NOTHING);

    /** No number is defined: a division by zero or by nothing, an average without rows. */
    public static final Value UNDEFINED = blank(Kind.UNDEFINED);

    /** The number is not known: the window has no days, or days that are not covered. */
    public static final Value UNKNOWN = blank(Kind.UNKNOWN);

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

    // digits of a ratio that is added to another: far more than the rounding to a double can notice
    private static final MathContext SUM_OF_RATIOS = new MathContext(60);

    private enum Kind {
        NOTHING,
        UNDEFINED,
        UNKNOWN,
        /** An exact decimal whose digits fit into a long. */
        COMPACT,
        LARGE,
        RATIO
    }

    /** What the number of a value means. Most values share one, so that each of them takes few bytes. */
    private static final class Form implements Serializable {
        private static final long serialVersionUID = 1L;

        private final Kind kind;

        /** Of an exact decimal, how many digits follow the point. */
        private final int scale;

        /** An exact decimal whose digits do not fit into a long. */
        private final @Nullable BigDecimal large;

        /** Of a ratio the two exact numbers, or one number with all digits that matter; null where it comes from doubles. */
        private final transient @Nullable Object origin;

        Form(Kind kind, int scale, @Nullable BigDecimal large, @Nullable Object origin) {
            this.kind = kind;
            this.scale = scale;
            this.large = large;
            this.origin = origin;
        }

        static Form of(Kind kind) {
            return new Form(kind, 0, null, null);
        }
    }

    private static final Form RATIO = Form.of(Kind.RATIO);

    private static final Form[] COMPACT = new Form[POWERS.length];

    static {
        for (int scale = 0; scale < COMPACT.length; scale++) {
            COMPACT[scale] = new Form(Kind.COMPACT, scale, null, null);
        }
    }

    /** Exact zero. */
    public static final Value ZERO = of(0L);

    private final Form form;

    /** The digits of an exact decimal, or the bits of a double. */
    private final long number;

    private Value(Form form, long number) {
        this.form = form;
        this.number = number;
    }

    private static Value blank(Kind kind) {
        return new Value(Form.of(kind), Double.doubleToLongBits(Double.NaN));
    }

    private Kind kind() {
        return form.kind;
    }

    private double ratio() {
        return Double.longBitsToDouble(number);
    }

    /** The two exact numbers of a ratio. */
    private record Quotient(Value dividend, Value divisor) {}

    /**
     * {@return an exact number}
     *
     * @param exact the number
     */
    public static Value of(BigDecimal exact) {
        requireNonNull(exact, "exact is null");
        if (exact.scale() >= 0 && exact.scale() < POWERS.length && exact.precision() < POWERS.length) {
            long digits = exact.scale() == 0
                    ? exact.longValue()
                    : exact.movePointRight(exact.scale()).longValue();
            return of(digits, exact.scale());
        }
        return new Value(new Form(Kind.LARGE, 0, exact, null), 0);
    }

    /**
     * {@return an exact whole number}
     *
     * @param number the number
     */
    public static Value of(long number) {
        return of(number, 0);
    }

    /**
     * {@return an exact decimal}
     *
     * @param unscaled its digits
     * @param scale how many of them follow the decimal point; negative for as many zeros that stand before it
     */
    public static Value of(long unscaled, int scale) {
        if (scale < 0) {
            return of(BigDecimal.valueOf(unscaled, scale));
        }
        return new Value(scale < COMPACT.length ? COMPACT[scale] : new Form(Kind.COMPACT, scale, null, null), unscaled);
    }

    /**
     * {@return a floating value}
     *
     * @param ratio the number
     * @throws MileException if it is infinite
     */
    public static Value of(double ratio) {
        return of(ratio, null);
    }

    private static Value of(double ratio, @Nullable Object origin) {
        if (Double.isInfinite(ratio)) {
            throw DataException.of("a result is larger than a floating number can hold; check the measure's divisions");
        }
        return Double.isNaN(ratio)
                ? UNDEFINED
                : new Value(
                        origin == null ? RATIO : new Form(Kind.RATIO, 0, null, origin), Double.doubleToLongBits(ratio));
    }

    /** {@return whether there is no number, for whatever reason} */
    public boolean isBlank() {
        return kind() == Kind.NOTHING || kind() == Kind.UNDEFINED || kind() == Kind.UNKNOWN;
    }

    /** {@return whether nothing was found where something could have been} */
    public boolean isNothing() {
        return kind() == Kind.NOTHING;
    }

    /** Returns whether the value is undefined or unknown. */
    private boolean isStuck() {
        return kind() == Kind.UNDEFINED || kind() == Kind.UNKNOWN;
    }

    /** Returns of two values, one of which is undefined or unknown, the one that carries through an operator. */
    private static Value stuck(Value a, Value b) {
        return a.kind() == Kind.UNKNOWN || b.kind() == Kind.UNKNOWN ? UNKNOWN : UNDEFINED;
    }

    /** {@return whether the value is an exact decimal} */
    public boolean isExact() {
        return kind() == Kind.COMPACT || kind() == Kind.LARGE;
    }

    /** {@return the value as a decimal: exact, or the shortest decimal of the double, of at most 17 digits; null for a blank} */
    public @Nullable BigDecimal decimal() {
        return switch (kind()) {
            case NOTHING, UNDEFINED, UNKNOWN -> null;
            case COMPACT -> BigDecimal.valueOf(number, form.scale);
            case LARGE -> form.large;
            case RATIO -> ratio() == 0 ? BigDecimal.ZERO : new BigDecimal(Double.toString(ratio()));
        };
    }

    /** {@return the value as the nearest double; NaN for a blank} */
    public double toDouble() {
        if (kind() == Kind.COMPACT && Math.abs(number) < EXACT_DOUBLE && form.scale < POWERS.length) {
            return form.scale == 0 ? number : quotient(number, POWERS[form.scale]);
        }
        return isExact() ? decimal().doubleValue() : ratio();
    }

    /**
     * {@return the sum: exact if both are, and of two ratios of exact numbers rounded once}
     *
     * @param other the other
     */
    public Value plus(Value other) {
        requireNonNull(other, "other is null");
        if (kind() == Kind.COMPACT && other.kind() == Kind.COMPACT && form.scale == other.form.scale) {
            long sum = number + other.number;
            if (!Overflow.ofSum(number, other.number, sum)) {
                return of(sum, form.scale);
            }
        }
        if (isStuck() || other.isStuck()) {
            return stuck(this, other);
        }
        if (isNothing() || other.isNothing()) {
            return isNothing() ? other : this;
        }
        if (isExact() && other.isExact()) {
            return of(decimal().add(other.decimal()));
        }
        if (hasOrigin() && other.hasOrigin()) {
            BigDecimal sum = origin().add(other.origin());
            return of(sum.doubleValue(), sum);
        }
        return of(toDouble() + other.toDouble());
    }

    private boolean hasOrigin() {
        return isExact() || form.origin != null;
    }

    /** Returns the number with all digits that matter when it is added to another. */
    private BigDecimal origin() {
        if (form.origin instanceof Quotient q) {
            return q.dividend().decimal().divide(q.divisor().decimal(), SUM_OF_RATIOS);
        }
        return form.origin instanceof BigDecimal d ? d : decimal();
    }

    /**
     * {@return the difference: exact if both are, and of two ratios of exact numbers rounded once}
     *
     * @param other the other
     */
    public Value minus(Value other) {
        requireNonNull(other, "other is null");
        return plus(other.negated());
    }

    /**
     * {@return the product: exact if both are}
     *
     * @param other the other
     */
    public Value times(Value other) {
        requireNonNull(other, "other is null");
        if (isBlank() || other.isBlank()) {
            return isStuck() || other.isStuck() ? stuck(this, other) : NOTHING;
        }
        return isExact() && other.isExact()
                ? of(decimal().multiply(other.decimal()))
                : of(toDouble() * other.toDouble());
    }

    /**
     * {@return the quotient, one correctly rounded double; undefined for a division by zero or by nothing}
     *
     * @param other the other
     */
    public Value dividedBy(Value other) {
        requireNonNull(other, "other is null");
        if (isStuck() || other.isStuck()) {
            return stuck(this, other);
        }
        if (other.isNothing() || other.isZero()) {
            return UNDEFINED;
        }
        if (isNothing()) {
            return NOTHING;
        }
        if (!isExact() || !other.isExact()) {
            return of(toDouble() / other.toDouble());
        }
        if (kind() == Kind.COMPACT
                && other.kind() == Kind.COMPACT
                && form.scale == other.form.scale
                && Math.abs(number) < EXACT_DOUBLE
                && Math.abs(other.number) < EXACT_DOUBLE) {
            return of(quotient(number, other.number), new Quotient(this, other));
        }
        return of(quotient(decimal(), other.decimal()), new Quotient(this, other));
    }

    private boolean isZero() {
        return switch (kind()) {
            case COMPACT -> number == 0;
            case LARGE -> form.large.signum() == 0;
            default -> ratio() == 0;
        };
    }

    /** {@return the number with the other sign} */
    public Value negated() {
        return switch (kind()) {
            case NOTHING, UNDEFINED, UNKNOWN -> this;
            case COMPACT -> number == Long.MIN_VALUE ? of(decimal().negate()) : of(-number, form.scale);
            case LARGE -> of(form.large.negate());
            case RATIO -> of(-ratio(), form.origin == null ? null : origin().negate());
        };
    }

    /**
     * {@return this value, or the other where this one is nothing or undefined; what is unknown stays so}
     *
     * @param other the other
     */
    public Value or(Value other) {
        requireNonNull(other, "other is null");
        return isBlank() && kind() != Kind.UNKNOWN ? other : this;
    }

    /**
     * {@return the sum in which a blank is left out; of two blanks the one that knows more: nothing, then undefined, then unknown}
     *
     * @param other the other
     */
    public Value plusIfKnown(Value other) {
        requireNonNull(other, "other is null");
        if (!isBlank() && !other.isBlank()) {
            return plus(other);
        }
        if (isBlank() && other.isBlank()) {
            return kind().ordinal() <= other.kind().ordinal() ? this : other;
        }
        return isBlank() ? other : this;
    }

    /** {@return the value with zero in place of nothing, as in a sort or a target} */
    public Value orZero() {
        return isNothing() ? ZERO : this;
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

    /**
     * Compares two values that are not blank, exactly.
     *
     * @param other the other
     * @return negative, 0 or positive
     */
    public int compareTo(Value other) {
        return kind() == Kind.COMPACT && other.kind() == Kind.COMPACT && form.scale == other.form.scale
                ? Long.compare(number, other.number)
                : decimal().compareTo(other.decimal());
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Value v
                && (isExact()
                        ? v.isExact() && compareTo(v) == 0
                        : kind() == v.kind() && Double.compare(ratio(), v.ratio()) == 0);
    }

    @Override
    public int hashCode() {
        return isExact() ? Objects.hash(decimal().stripTrailingZeros()) : Objects.hash(kind(), ratio());
    }

    /** Returns the exact digits, without an exponent; an empty text for a blank. */
    @Override
    public String toString() {
        if (isBlank()) {
            return "";
        }
        if (isExact()) {
            return form.scale == 0 && kind() == Kind.COMPACT
                    ? Long.toString(number)
                    : decimal().toPlainString();
        }
        return ratio() == Math.rint(ratio()) && Math.abs(ratio()) < EXACT_DOUBLE
                ? Long.toString((long) ratio())
                : new BigDecimal(Double.toString(ratio())).toPlainString();
    }
}
