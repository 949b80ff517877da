package dev.mile.render.layout;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.text.DecimalFormat;
import java.util.Optional;

/**
 * Exact decimals by a pattern that asks for a fixed number of digits behind the point and, if at all, for groups of digits before it: what
 * {@link DecimalFormat} writes, rounded half up, in a small part of the time.
 */
final class PlainDecimals {
    private final DecimalFormat format;
    private final int places;
    private final int group;
    private final BigDecimal multiplier;
    private final char zero;
    private final char point;
    private final char separator;

    private PlainDecimals(DecimalFormat format) {
        this.format = format;
        this.places = format.getMaximumFractionDigits();
        this.group = format.isGroupingUsed() ? format.getGroupingSize() : 0;
        this.multiplier = BigDecimal.valueOf(format.getMultiplier());
        this.zero = format.getDecimalFormatSymbols().getZeroDigit();
        this.point = format.getDecimalFormatSymbols().getDecimalSeparator();
        this.separator = format.getDecimalFormatSymbols().getGroupingSeparator();
    }

    /**
     * Returns the writer of a format; empty where its pattern asks for more.
     *
     * @param pattern the pattern of the format
     */
    static Optional<PlainDecimals> of(DecimalFormat format, String pattern) {
        // quoted signs, exponents and the separators of money are left to the format
        boolean isPlain = pattern.chars().noneMatch(c -> "'E\u00A4".indexOf(c) >= 0)
                && format.getMinimumIntegerDigits() == 1
                && format.getMinimumFractionDigits() == format.getMaximumFractionDigits()
                && !format.isDecimalSeparatorAlwaysShown();
        return isPlain ? Optional.of(new PlainDecimals(format)) : Optional.empty();
    }

    String of(BigDecimal number) {
        BigDecimal scaled = multiplier.equals(BigDecimal.ONE) ? number : number.multiply(multiplier);
        String digits = scaled.setScale(places, RoundingMode.HALF_UP).abs().toPlainString();
        boolean isNegative = number.signum() < 0;
        int whole = places == 0 ? digits.length() : digits.length() - places - 1;
        StringBuilder text = new StringBuilder(digits.length() + digits.length() / 2)
                .append(isNegative ? format.getNegativePrefix() : format.getPositivePrefix());
        for (int i = 0; i < whole; i++) {
            if (i > 0 && group > 0 && (whole - i) % group == 0) {
                text.append(separator);
            }
            text.append((char) (digits.charAt(i) - '0' + zero));
        }
        if (places > 0) {
            text.append(point);
            for (int i = whole + 1; i < digits.length(); i++) {
                text.append((char) (digits.charAt(i) - '0' + zero));
            }
        }
        return text.append(isNegative ? format.getNegativeSuffix() : format.getPositiveSuffix())
                .toString();
    }
}
