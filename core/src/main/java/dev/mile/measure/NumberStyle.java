package dev.mile.measure;

import static java.util.Objects.requireNonNull;

import java.util.Optional;

/**
 * How numbers are written for people; files of data hold the exact values.
 *
 * @param format a decimal pattern of the JDK, such as {@code 0.0%}; empty for the default
 * @param unit what is counted, such as EUR; empty where nobody said
 * @param scale in how large units people read it
 */
public record NumberStyle(Optional<String> format, Optional<String> unit, Scale scale) {
    /** In how large units a number is read. */
    public enum Scale {
        /** As it is. */
        ONE(0, ""),
        /** In thousands. */
        THOUSAND(3, "thousand"),
        /** In millions. */
        MILLION(6, "million");

        private final int digits;
        private final String word;

        Scale(int digits, String word) {
            this.digits = digits;
            this.word = word;
        }

        /** {@return the power of ten that it is divided by} */
        public int digits() {
            return digits;
        }

        /** {@return the word for headers; an empty text for {@link #ONE}} */
        public String word() {
            return word;
        }
    }

    /** No format, no unit, as it is. */
    public static final NumberStyle PLAIN = new NumberStyle(Optional.empty(), Optional.empty(), Scale.ONE);

    public NumberStyle {
        requireNonNull(format, "format is null");
        requireNonNull(unit, "unit is null");
        requireNonNull(scale, "scale is null");
    }

    /**
     * {@return the style with another format}
     *
     * @param pattern a decimal pattern of the JDK
     */
    public NumberStyle withFormat(String pattern) {
        requireNonNull(pattern, "pattern is null");
        return new NumberStyle(Optional.of(pattern), unit, scale);
    }

    /**
     * {@return the style with another unit}
     *
     * @param counted in what it is counted
     */
    public NumberStyle withUnit(String counted) {
        requireNonNull(counted, "counted is null");
        return new NumberStyle(format, Optional.of(counted), scale);
    }

    /**
     * {@return the style in other units}
     *
     * @param newScale what is divided by before it is shown
     */
    public NumberStyle withScale(Scale newScale) {
        requireNonNull(newScale, "newScale is null");
        return new NumberStyle(format, unit, newScale);
    }

    /** {@return the unit and the scale for a header, {@code EUR thousand}; an empty text where there is neither} */
    public String describe() {
        return (unit.orElse("") + " " + scale.word()).strip();
    }

    /** {@return whether numbers are shares of a hundred} */
    public boolean isPercentage() {
        return format.filter(pattern -> pattern.contains("%")).isPresent();
    }
}
