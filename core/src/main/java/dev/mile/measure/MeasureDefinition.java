package dev.mile.measure;

import static java.util.Objects.requireNonNull;

/**
 * A measure with its name.
 *
 * @param name {@code [a-z][a-z0-9_]*}
 * @param expression what it is
 * @param label how people read it; the name with spaces where empty
 * @param style how its numbers are written
 * @param place where it stands, for messages; may be empty
 */
public record MeasureDefinition(String name, Measure expression, String label, NumberStyle style, String place) {
    /**
     * How numbers are written for people; files of data hold the exact values.
     *
     * @param format a decimal pattern of the JDK; empty for the default
     * @param unit what is counted, such as EUR; may be empty
     * @param scale in how large units people read it
     */
    public record NumberStyle(String format, String unit, Scale scale) {
        /** No format, no unit, as it is. */
        public static final NumberStyle PLAIN = new NumberStyle("", "", Scale.ONE);

        public NumberStyle {
            requireNonNull(format, "format is null");
            requireNonNull(unit, "unit is null");
            requireNonNull(scale, "scale is null");
        }

        /** Returns the unit and the scale for a header, {@code EUR thousand}; empty where there is neither. */
        public String describe() {
            return (unit + " " + scale.word()).strip();
        }
    }

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

        /** Returns the power of ten that it is divided by. */
        public int digits() {
            return digits;
        }

        /** Returns the word for headers; empty for {@link #ONE}. */
        public String word() {
            return word;
        }
    }

    public MeasureDefinition {
        requireNonNull(name, "name is null");
        requireNonNull(expression, "is is null");
        requireNonNull(label, "label is null");
        requireNonNull(style, "look is null");
        requireNonNull(place, "place is null");
    }

    /** Returns a measure without label, format or unit. */
    public static MeasureDefinition of(String name, Measure is) {
        return new MeasureDefinition(name, is, "", NumberStyle.PLAIN, "");
    }

    /** Returns the label, or the name in words. */
    public String title() {
        return label.isEmpty() ? name.replace('_', ' ') : label;
    }
}
